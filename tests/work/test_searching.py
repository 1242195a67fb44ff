"""The search for a short lay: it improves, it stops when it is told to, it outlives a library that breaks."""

import json
import subprocess
import sys
import threading
import time
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from tests.core.nesting.test_lying import LAYS

from omnipel.core.nesting.building import quick, used_length
from omnipel.core.nesting.problem import Problem, places_of, told
from omnipel.core.nesting.shape import Shape
from omnipel.work.laying import Search, searched


def problem(name: str) -> Problem:
    lay = next(lay for lay in LAYS if lay["id"] == name)
    shapes = tuple(Shape(np.array(p["outline"], dtype=np.float64)) for p in lay["pieces"])
    return Problem(shapes, tuple(k for k, p in enumerate(lay["pieces"]) for _ in range(p["demand"])), lay["cloth_width"])


def test_gores_come_out_much_shorter_than_at_first_and_sound() -> None:
    found = list(Search(problem("dome"), 6.0, processes=1).run())
    lengths = [one.length for one in found]
    assert lengths == sorted(lengths, reverse=True)
    assert lengths[-1] < 0.9 * lengths[0]
    assert not found[-1].looking
    assert found[-1].nest is not None
    assert problem("dome").sound(found[-1].nest)
    assert found[-1].least <= lengths[-1]


def test_what_is_proven_to_be_the_best_is_not_searched() -> None:
    found = searched(problem("wheel"), 60.0)
    assert found.proven
    assert found.off < 1e-6


def test_a_lay_that_is_known_is_only_replaced_by_a_shorter_one() -> None:
    asked = problem("box")
    known = quick(asked.ground, asked.each, 0.0, 8)
    assert known is not None
    assert searched(asked, 0.0, known).length <= used_length(known) + 1e-6


def test_a_search_is_stopped_from_another_thread_and_keeps_what_it_has() -> None:
    search = Search(problem("batch"), 120.0, processes=1)
    threading.Timer(1.5, search.stop).start()
    found = list(search.run())
    assert found[-1].nest is not None
    assert search.children == []


def fake(folder: Path, body: str) -> None:
    """A library that behaves as `body` says when it is asked to solve."""
    solve = "\n".join(f"        {line}" for line in body.splitlines())
    (folder / "spyrrow.py").write_text(
        "class PanicException(BaseException): pass\n"
        "class Any:\n    def __init__(self, *a, **k): self.a = a\n"
        "class ProgressQueue(Any):\n    def drain(self): return []\n"
        "class Placed:\n    def __init__(self, id, at): self.id, self.rotation, self.translation = id, 0.0, at\n"
        "class Answer:\n    pass\n"
        "Item = StripPackingConfig = Any\n"
        f"class StripPackingInstance(Any):\n    def solve(self, how, reports):\n{solve}\n",
        encoding="utf-8",
    )


BREAKS = {
    "panic": "raise PanicException('called `Result::unwrap()`')",
    "death": "import os; os._exit(3)",
    "no number": "answer = Answer(); answer.placed_items = [Placed('0', (float('nan'), 0.0))] * 2; return answer",
    "all in one place": "answer = Answer(); answer.placed_items = [Placed('0', (0.0, 0.0))] * 99; return answer",
}
EVEN = 2
"""A process with such a seed asks the library first, where it is asked."""


@pytest.mark.parametrize("body", BREAKS.values(), ids=BREAKS)
@pytest.mark.parametrize("solver", [True, False], ids=["", "no solver"])
def test_a_library_that_breaks_leaves_a_sound_lay_and_says_so(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, body: str, solver: bool
) -> None:
    fake(tmp_path, body)
    if not solver:
        (tmp_path / "highspy.py").write_text("raise ImportError('gone')", encoding="utf-8")
    monkeypatch.setenv("PYTHONPATH", str(tmp_path))
    asked = problem("tub")  # it is asked where a shape is hollow
    found = list(Search(asked, 4.0, processes=1, seed=EVEN).run())
    assert found[-1].nest is not None
    assert asked.sound(found[-1].nest)
    if solver and body != BREAKS["death"]:  # pieces are exchanged without it
        assert found[-1].length < found[0].length
        assert not found[-1].broken
    else:
        assert found[-1].length == found[0].length
        assert found[-1].broken


def test_where_pieces_cannot_be_exchanged_the_library_looks(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "lupa.py").write_text("raise ImportError('no compiler')", encoding="utf-8")
    monkeypatch.setenv("PYTHONPATH", str(tmp_path))
    asked = problem("dome")
    found = list(Search(asked, 5.0, processes=1, seed=EVEN + 1).run())
    assert found[-1].nest is not None
    assert asked.sound(found[-1].nest)
    assert found[-1].length < found[0].length - 1.0
    assert not found[-1].broken


def test_locked_pieces_stay_while_the_rest_is_laid_shorter() -> None:
    asked = problem("batch")
    known = quick(asked.ground, asked.each, 0.0, 1)
    assert known is not None
    places = places_of(known)
    locked = replace(asked, locked={3: places[3], 7: places[7]})
    found = list(Search(locked, 4.0, processes=1).run(locked.nest(places)))[-1]
    assert found.nest is not None
    assert locked.sound(found.nest)
    assert found.length < used_length(known) - 1.0
    for piece in (3, 7):
        assert np.allclose(found.nest[piece].at, known[piece].at, atol=1e-6)


def test_a_child_ends_when_nobody_listens_any_more() -> None:
    child = subprocess.Popen(
        [sys.executable, "-m", "omnipel.work.nester"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    )
    assert child.stdin is not None
    assert child.stdout is not None
    child.stdin.write(
        json.dumps({"problem": told(problem("dome")), "seed": EVEN, "until": time.monotonic() + 300.0, "known": None}) + "\n"
    )
    child.stdin.flush()
    assert json.loads(child.stdout.readline())["length"] > 0.0
    child.stdin.close()
    child.wait(timeout=30)
    child.stdout.close()
