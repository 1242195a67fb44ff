"""The simulated cutter: it cuts what it is told, once, whatever happens to the link; and waits for cloth and tools."""

import math
import os
import random
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.jobs import drum
from tests.wild import tried

from omnipel.cli import main
from omnipel.core.draft import Drafted, draft
from omnipel.core.words.phrases import Refusal, Voice
from omnipel.exchange.devices.cutter.link import CutBefore, Forgotten, NotCut, Progress, Sending, Unreachable, job_id
from omnipel.exchange.devices.cutter.mechanics import Cutter, State
from omnipel.exchange.devices.cutter.speaking import AHEAD, LONGEST_LINE, Occupied, Post, Speaker, checked, socket_path
from omnipel.exchange.devices.queue import handed_over
from omnipel.exchange.files.flat import flat
from omnipel.exchange.files.hpgl import effort, instructions, width_needed
from omnipel.exchange.files.routes import Tool, routes
from omnipel.shop.document import write
from omnipel.shop.machine import Machine

DRUM = draft(drum(420.0, 130.0, c=6.0))
assert isinstance(DRUM, Drafted)
WHOLE = flat(DRUM, Voice(), "lay")
ONCE = Machine(over_cut=0.0)
TOLD = instructions(WHOLE, ONCE)


def cut_length(cutter: Cutter) -> float:
    return math.fsum(math.dist(d.start, d.end) for d in cutter.drawn if d.tool == Tool.KNIFE)


def wanted_length() -> float:
    return math.fsum(line.length for line in routes(WHOLE, Tool.KNIFE))


def run_through(cutter: Cutter, told: list[str], *, seconds: float = 1e6) -> None:
    cutter.begin(len(told))
    for n, each in enumerate(told, 1):
        cutter.take(n, each)
    cutter.advance(seconds)


def test_what_it_is_told_it_draws_where_it_is_to_be() -> None:
    cutter = Cutter(2000.0, 5000.0)
    run_through(cutter, TOLD)
    assert cutter.state is State.FINISHED
    assert cut_length(cutter) == pytest.approx(wanted_length(), abs=0.5)
    made = shapely.union_all([shapely.LineString((d.start, d.end)) for d in cutter.drawn if d.tool == Tool.KNIFE])
    for piece in WHOLE.pieces:
        ring = next(i.points for i in piece.drawing.items if getattr(i, "closed", False))
        assert float(shapely.distance(made, shapely.points(ring)).max()) < 0.03
    assert {d.words for d in cutter.drawn if d.words} >= {"A1", "1 - wall"}


def test_it_goes_as_fast_as_it_is_told_in_however_many_looks() -> None:
    fine, coarse = Cutter(2000.0, 5000.0), Cutter(2000.0, 5000.0)
    run_through(coarse, TOLD, seconds=12.0)
    run_through(fine, TOLD, seconds=0.0)
    for _ in range(1200):
        fine.advance(0.01)
    assert fine.at == pytest.approx(coarse.at, abs=0.2)
    assert fine.done == coarse.done
    assert len(fine.drawn) < 4 * len(coarse.drawn)
    slow, needed = Cutter(2000.0, 5000.0), effort(WHOLE, ONCE)[2] * 60.0
    run_through(slow, TOLD, seconds=needed * 0.9)
    assert slow.state is State.RUNNING
    slow.advance(needed * 0.25)
    assert slow.state is State.FINISHED


def test_it_waits_for_cloth_for_wider_cloth_and_for_its_tool() -> None:
    cutter = Cutter(100.0, 300.0, {1})
    run_through(cutter, TOLD)
    assert (cutter.state, cutter.wanted) == (State.TOOL, 2)
    cutter.put_tool(2)
    seen = set()
    for _ in range(200):
        cutter.advance(1e6)
        seen.add(cutter.state)
        if cutter.state is State.EDGE:
            cutter.wider_cloth()
        elif cutter.state is State.CLOTH:
            cutter.more_cloth(500.0)
    assert seen >= {State.EDGE, State.CLOTH, State.FINISHED}
    assert cut_length(cutter) == pytest.approx(wanted_length(), abs=0.5)


def test_paused_it_stands_still() -> None:
    cutter = Cutter(2000.0, 5000.0)
    run_through(cutter, TOLD, seconds=3.0)
    cutter.pause(True)
    at, drawn = cutter.at, len(cutter.drawn)
    cutter.advance(1e4)
    assert (cutter.state, cutter.at, len(cutter.drawn)) == (State.PAUSED, at, drawn)
    cutter.pause(False)
    cutter.advance(1e6)
    assert cutter.state is State.FINISHED


# --- what is said over the link


@given(st.lists(st.tuples(st.integers(0, 12), st.integers(0, 3)), max_size=60), st.integers(0, 10**6))
@tried(200)
def test_whatever_arrives_spoilt_twice_or_out_of_turn_each_block_is_cut_once_and_in_order(
    noise: list[tuple[int, int]], seed: int
) -> None:
    blocks = [
        "IN;",
        "SP1;",
        *(f"PU{40 * k},0;PD{40 * k},400;"[:200] for k in range(1, 4)),
        *(f"PD{40 * k},{40 * k};" for k in range(4, 12)),
    ]
    speaker, dice = Speaker(Cutter()), random.Random(seed)
    assert speaker.answer(f"JOB a {len(blocks)}") == ["HAVE 0 0"]
    todo = [f"BLOCK {n} {checked(each)} {each}" for n, each in enumerate(blocks, 1)]
    spoilt = [
        (lambda n: f"BLOCK {n} {checked(blocks[n - 1])} PD1,1;"),
        (lambda n: f"BLOCK {n} 00000000 {blocks[n - 1]}"),
        (lambda n: todo[n - 1]),
        (lambda n: f"BLOCK {n + 1} {checked(blocks[n - 1])} {blocks[n - 1]}"),
    ]
    for at, kind in noise:
        speaker.answer(spoilt[kind](min(at, len(blocks) - 1) or 1))
        speaker.cutter.advance(dice.random() * 3.0)
    for _ in range(len(blocks)):
        if speaker.got < len(blocks):
            assert speaker.answer(todo[speaker.got]) == [f"GOT {speaker.got}"]
    speaker.cutter.advance(1e6)
    alone = Cutter()
    run_through(alone, blocks)
    assert [(d.start, d.end) for d in speaker.cutter.drawn] == [(d.start, d.end) for d in alone.drawn]
    assert speaker.answer(f"JOB a {len(blocks)}") == [f"HAVE {len(blocks)} {len(blocks)}"]


def test_it_keeps_no_more_than_it_says_and_serves_one_job_at_a_time() -> None:
    speaker = Speaker(Cutter())
    speaker.answer("JOB a 500")
    for n in range(1, AHEAD + 1):
        assert speaker.answer(f"BLOCK {n} {checked('PU1,1;')} PU1,1;") == [f"GOT {n}"]
    assert speaker.answer(f"BLOCK {AHEAD + 1} {checked('PU1,1;')} PU1,1;") == [f"AGAIN {AHEAD + 1}"]
    assert speaker.answer("JOB b 3") == ["NO busy with a"]
    assert speaker.answer("JOB a 501")[0].startswith("NO")
    assert speaker.answer("DROP") == ["DROPPED"]
    assert speaker.answer("JOB b 3") == ["HAVE 0 0"]
    for nonsense in ("", "JOB", "JOB a b", "JOB a 0", "BLOCK", "BLOCK x y z", f"BLOCK 1 {checked('??')} ??", "HELLO", "BLOCK 1"):
        assert speaker.answer(nonsense)[0].split()[0] in ("NO", "AGAIN")
    assert speaker.got == 0


class Bed:
    """A cutter that listens, and a thread that is its clock; `happens` is done between looks."""

    def __init__(self, path: Path, cutter: Cutter, happens: Callable[["Bed"], object] = lambda _bed: None) -> None:
        self.path, self.cutter, self.happens = path, cutter, happens
        self.post = Post(Speaker(cutter), path)
        self.over = threading.Event()
        self.thread = threading.Thread(target=self._run)
        self.thread.start()

    def _run(self) -> None:
        while not self.over.is_set():
            self.post.attend(0.002)
            self.cutter.advance(0.2)
            self.happens(self)

    def close(self) -> None:
        self.over.set()
        self.thread.join()
        self.post.close()


@pytest.fixture
def bed(tmp_path: Path) -> Iterator[Callable[..., Bed]]:
    made: list[Bed] = []

    def make(cutter: Cutter | None = None, happens: Callable[[Bed], object] = lambda _bed: None) -> Bed:
        made.append(Bed(tmp_path / "cutter", cutter or Cutter(2000.0, 5000.0), happens))
        return made[-1]

    yield make
    for each in made:
        if not each.over.is_set():
            each.close()


def test_a_link_that_breaks_again_and_again_cuts_everything_once(bed: Callable[..., Bed], tmp_path: Path) -> None:
    broken: list[int] = []

    def breaks(each: Bed) -> None:
        if each.post.linked and each.cutter.done >= (len(broken) + 1) * 12:
            broken.append(each.cutter.done)
            each.post.hang_up()

    each = bed(happens=breaks)
    told: list[Progress] = []
    sending = Sending(TOLD, tmp_path / "cutter", told.append)
    sending.send()
    assert len(broken) >= 5
    assert any(not progress.linked for progress in told)
    assert [p.done for p in told] == sorted(p.done for p in told)
    assert sending.done == len(TOLD)
    assert cut_length(each.cutter) == pytest.approx(wanted_length(), abs=0.5)
    with pytest.raises(CutBefore):
        Sending(TOLD, tmp_path / "cutter").send()
    again = Sending(TOLD, tmp_path / "cutter", run=2)
    again.send()
    assert again.id == f"{job_id(TOLD)}-2"


def test_another_bench_goes_on_where_one_left(bed: Callable[..., Bed], tmp_path: Path) -> None:
    each = bed()
    first = Sending(TOLD, tmp_path / "cutter", lambda p: first.leave() if p.done > 20 else None)
    first.send()
    assert 20 < first.done < len(TOLD)
    second = Sending(TOLD, tmp_path / "cutter")
    second.send()
    assert cut_length(each.cutter) == pytest.approx(wanted_length(), abs=0.5)
    assert second.done == len(TOLD)


def test_a_cutter_that_was_switched_off_is_not_sent_the_rest(bed: Callable[..., Bed], tmp_path: Path) -> None:
    def switched_off(each: Bed) -> None:
        if each.cutter.done > 30:
            each.post.hang_up()
            each.post.speaker.__init__(Cutter(2000.0, 5000.0))  # type: ignore[misc]
            each.cutter = each.post.speaker.cutter
            each.happens = lambda _bed: None

    bed(happens=switched_off)
    with pytest.raises(Forgotten):
        Sending(TOLD, tmp_path / "cutter").send()
    anew = Sending(TOLD, tmp_path / "cutter", anew=True)
    anew.send()
    assert anew.done == len(TOLD)


def test_it_is_refused_where_it_cannot_be_done(bed: Callable[..., Bed], tmp_path: Path) -> None:
    with pytest.raises(Unreachable, match="no cutter"):
        Sending(TOLD, tmp_path / "cutter", tries=1).send()
    each = bed(Cutter(100.0, 5000.0))
    with pytest.raises(NotCut, match="wide"):
        Sending(TOLD, tmp_path / "cutter", wide=width_needed(WHOLE)).send()
    each.post.speaker.answer("JOB other 5")
    with pytest.raises(NotCut, match="busy"):
        Sending(TOLD, tmp_path / "cutter").send()
    each.post.speaker.answer("DROP")
    stopped = Sending(TOLD, tmp_path / "cutter", lambda p: stopped.drop() if p.done == 0 else None)
    with pytest.raises(NotCut, match="stopped"):
        stopped.send()
    with pytest.raises(ValueError, match="too long"):
        Sending(["PD" + "1," * LONGEST_LINE], tmp_path / "cutter")


def test_pause_and_go_come_through(bed: Callable[..., Bed], tmp_path: Path) -> None:
    seen: list[str] = []

    def heard(progress: Progress) -> None:
        if not seen or seen[-1] != progress.state:
            seen.append(progress.state)
        if progress.done > 15 and "paused" not in seen:
            sending.pause(True)
        elif progress.state == "paused":
            sending.pause(False)

    each = bed()
    sending = Sending(TOLD, tmp_path / "cutter", heard)
    sending.send()
    assert "paused" in seen
    assert each.cutter.state is State.FINISHED


def test_only_our_own_left_over_socket_is_taken_away(tmp_path: Path) -> None:
    path = tmp_path / "cutter"
    path.write_text("something else")
    with pytest.raises(Occupied, match="not ours"):
        Post(Speaker(Cutter()), path)
    path.unlink()
    first = Post(Speaker(Cutter()), path)
    assert path.stat().st_mode & 0o077 == 0
    with pytest.raises(Occupied, match="another cutter"):
        Post(Speaker(Cutter()), path)
    first.server.close()  # as a kill leaves it
    Post(Speaker(Cutter()), path).close()
    assert not path.exists()


# --- the programs


def test_a_job_goes_from_the_command_line_to_the_cutter_and_on_after_a_kill(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job, path = tmp_path / "drum.omnipel.json", tmp_path / "cutter"
    write(drum(420.0, 130.0, c=6.0), job)
    told = [sys.executable, "-m", "omnipel.cutter", "--no-window", "--speed", "20", "--socket", str(path)]
    with subprocess.Popen(told) as cutter:
        try:
            for _ in range(400):
                if path.exists():
                    break
                time.sleep(0.05)
            sending = [sys.executable, "-m", "omnipel.cli", "cut", str(job), "--socket", str(path)]
            with subprocess.Popen(sending, stderr=subprocess.PIPE, stdout=subprocess.PIPE) as killed:
                assert killed.stderr is not None
                seen = b""
                while b"\r1" not in seen and b"\r2" not in seen and (part := os.read(killed.stderr.fileno(), 100)):
                    seen += part
                killed.send_signal(signal.SIGKILL)
            assert main(["cut", str(job), "--socket", str(path)]) == 0
            assert "cut: " in capsys.readouterr().out
            assert main(["cut", str(job), "--socket", str(path)]) == 2
            assert "--again" in capsys.readouterr().err
            assert main(["cut", str(job), "--socket", str(path), "--again"]) == 0
        finally:
            cutter.terminate()
            assert cutter.wait(20) == 0
    assert not path.exists()


@pytest.mark.parametrize(("language", "waits"), [("en", "the pen in place 2: put it in"), ("de", "den Stift in Platz 2")])
def test_the_command_line_says_what_the_cutter_waits_for(
    bed: Callable[..., Bed],
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
    language: str,
    waits: str,
) -> None:
    def helped(each: Bed) -> None:
        if each.post.linked and each.cutter.state is State.TOOL and each.post.speaker.told_state == f"{State.TOOL.value} 2":
            each.cutter.put_tool(2)

    monkeypatch.setenv("LANGUAGE", language)
    job = tmp_path / "drum.omnipel.json"
    write(drum(420.0, 130.0), job)
    bed(Cutter(2000.0, 5000.0, {1}), helped)
    assert main(["cut", str(job), "--socket", str(tmp_path / "cutter")]) == 0
    told = capsys.readouterr().err.splitlines()
    heard = [line for line in told if line and "/" not in line]
    assert len(heard) == len(
        [line for i, line in enumerate(heard) if not i or line != heard[i - 1]]
    )  # each once, when it changes
    assert sum(waits in line for line in heard) == 1
    assert told[-1].split(" / ")[0] == told[-1].split(" / ")[1]


def test_instructions_go_to_a_device_or_a_print_queue_as_they_are(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    job, device = tmp_path / "drum.omnipel.json", tmp_path / "device"
    write(drum(), job)
    os.mkfifo(device)
    got: list[bytes] = []
    reader = threading.Thread(target=lambda: got.append(device.read_bytes()))
    reader.start()
    assert main(["cut", str(job), "--to", str(device), "--of", "all", "--no-marks", "--knife-offset", "0.25mm"]) == 0
    reader.join(20)
    assert got[0].startswith(b"IN;")
    assert b"LB" not in got[0]
    lp = tmp_path / "bin" / "lp"
    lp.parent.mkdir()
    lp.write_text(
        f'#!/bin/sh\ncat > {tmp_path}/printed\necho "$@" > {tmp_path}/asked\n[ "$2" = good ] || {{ echo no such queue >&2; exit 1; }}\n'
    )
    lp.chmod(0o755)
    monkeypatch.setenv("PATH", f"{lp.parent}:{os.environ['PATH']}")
    handed_over(b"IN;SP1;", "queue:good")
    assert (tmp_path / "printed").read_bytes() == b"IN;SP1;"
    assert (tmp_path / "asked").read_text().split() == ["-d", "good", "-o", "raw"]
    with pytest.raises(Refusal, match="no such queue"):
        handed_over(b"IN;", "queue:bad")
    monkeypatch.setenv("PATH", str(tmp_path / "nowhere"))
    with pytest.raises(Refusal, match="lp is missing"):
        handed_over(b"IN;", "queue:good")
    assert main(["cut", str(job), "--of", "sleeve", "--to", str(tmp_path / "x.plt")]) == 2
    assert "there is no" in capsys.readouterr().err
    assert main(["cut", str(job), "--knife-offset", "3 m", "--to", str(tmp_path / "x.plt")]) == 2


def test_where_they_meet_is_the_persons_own_folder(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    assert socket_path() == tmp_path / "omnipel-cutter"
    monkeypatch.delenv("XDG_RUNTIME_DIR")
    assert str(os.getuid()) in socket_path().name
    assert np.isfinite(width_needed(WHOLE))
