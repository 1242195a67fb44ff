"""Spoilt files, drawings, command lines and lines of the tape: some hundreds here, any number with `make attack`."""

import time
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication

from tests.attack.cloth import cloth
from tests.attack.documents import Report, arguments, documents, lines
from tests.attack.drawings import attack, bombs, outcome
from tests.attack.window import soak
from tests.wild import one_in

SEEDS = (11, 12)[:: one_in(2)]


@pytest.mark.parametrize("seed", SEEDS)
@pytest.mark.parametrize(("what", "count"), [(documents, 250), (arguments, 150), (lines, 1500), (attack, 400)])
def test_it_is_taken_or_refused_in_one_line(what: Callable[[int, int], Report], count: int, seed: int) -> None:
    how, faults = what(count, seed)
    assert faults == []
    assert len(how) >= 2
    assert min(how.values()) >= count // 100  # some are taken, some refused: the dice are worth throwing


@pytest.mark.parametrize("seed", SEEDS)
def test_cut_lines_pictures_and_papers_of_absurd_jobs(seed: int) -> None:
    count = 12 // one_in(6)
    how, faults = cloth(count, seed)
    assert faults == []
    assert how["drafted"] >= count // 2


@pytest.mark.parametrize(("name", "content"), tuple(bombs()), ids=lambda value: value if isinstance(value, str) else "")
def test_small_drawings_that_want_to_be_large(name: str, content: bytes, tmp_path: Path) -> None:
    begun = time.process_time()
    taken, fault = outcome(content, tmp_path)
    assert fault == ""
    assert taken == ("read" if name == "many figures" else "refused")
    assert time.process_time() - begun < 60.0  # a bomb takes hours


def test_a_window_that_is_used_without_a_plan_neither_fails_nor_grows(
    qapp: QApplication, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("HOME", str(tmp_path))
    did, faults = soak(120 // one_in(6), 5, one_in(4))
    assert faults == []
    assert len(did) >= 5
