"""Every export is written whole or not at all: on a full disk, and when the program is killed while it writes."""

import errno
import os
import signal
from datetime import UTC, datetime
from functools import cache
from pathlib import Path

import pytest
from tests.exchange.test_exports import GOOD, MADE

from omnipel.cli import main
from omnipel.core.words.phrases import Voice
from omnipel.exchange.asked import Order
from omnipel.exchange.export import MANY_SHEETS, exported
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.document import write
from omnipel.shop.whole import FIRST, NotWritten, sweep, write_whole

WHEN = datetime(2026, 11, 29, tzinfo=UTC)


@pytest.mark.parametrize("key", EXPORTS)
def test_a_full_disk_leaves_what_was_there_and_nothing_else(
    key: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    export, job = EXPORTS[key], tmp_path / "job.omnipel.json"
    drafted = GOOD if export.possible(GOOD) else MADE
    write(drafted.job, job)
    target = tmp_path / f"out{export.suffix}"
    target.write_bytes(export.begins + b"the old one")
    before = target.read_bytes()
    really = os.fsync

    def full(handle: int) -> None:
        if os.fstat(handle).st_size > 0 and not os.path.isdir(f"/proc/self/fd/{handle}"):
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        really(handle)

    with monkeypatch.context() as patched:
        patched.setattr(os, "fsync", full)
        assert main(["export", str(job), f"--{key}", str(target), "--many"]) == 2
    said = capsys.readouterr().err
    assert "no space left" in said
    assert str(target) in said
    assert target.read_bytes() == before
    assert {path.name for path in tmp_path.iterdir()} == {"job.omnipel.json", target.name}
    assert main(["export", str(job), f"--{key}", str(target), "--many"]) == 0
    assert target.read_bytes() != before
    assert target.read_bytes().startswith(export.begins)


@cache
def contents() -> dict[str, bytes]:
    """What every export writes."""
    return {
        key: exported(export, Order(GOOD if export.possible(GOOD) else MADE, Voice(), "A4", made=WHEN), MANY_SHEETS)
        for key, export in EXPORTS.items()
    }


@pytest.mark.parametrize("at", ["fsync", "replace"])
def test_a_kill_while_any_of_them_is_written_leaves_the_old_one_whole(at: str, tmp_path: Path) -> None:
    for key, content in contents().items():
        target = tmp_path / f"{key}{EXPORTS[key].suffix}"
        target.write_bytes(b"the old one")
        child = os.fork()
        if not child:  # pragma: no cover - the child is killed
            setattr(os, at, lambda *_given: os.kill(os.getpid(), signal.SIGKILL))
            write_whole(target, content)
            os._exit(0)
        _, status = os.waitpid(child, 0)
        assert os.WTERMSIG(status) == signal.SIGKILL
        assert target.read_bytes() == b"the old one"
    left = list(tmp_path.glob(f"{FIRST}*"))
    assert len(left) == len(contents())
    for path in left:
        os.utime(path, (0, 0))
    sweep(tmp_path)  # what the next one does that is written there
    assert not list(tmp_path.glob(f"{FIRST}*"))


def test_a_folder_that_is_gone_or_forbidden_is_named(tmp_path: Path) -> None:
    with pytest.raises(NotWritten, match="no folder"):
        write_whole(tmp_path / "none" / "x.pdf", b"x")
    with pytest.raises(NotWritten, match="that is a folder"):
        write_whole(tmp_path, b"x")
