"""The search for a short lay: it improves, it stops when it is told to, it outlives a library that breaks."""

import json
import subprocess
import sys
import threading
from pathlib import Path

import numpy as np
import pytest
from tests.core.nesting.test_lying import LAYS

from omnipel.core.nesting.building import quick, used_length
from omnipel.core.nesting.problem import Problem, told
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


@pytest.mark.parametrize(
    ("body", "broken"),
    [
        ("raise PanicException('called `Result::unwrap()`')", True),
        ("import os; os._exit(3)", True),
        ("answer = Answer(); answer.placed_items = [Placed('0', (float('nan'), 0.0))] * 2; return answer", False),
        ("answer = Answer(); answer.placed_items = [Placed('0', (0.0, 0.0))] * 99; return answer", False),
    ],
    ids=["panic", "death", "no number", "all in one place"],
)
def test_a_library_that_breaks_leaves_the_first_lay_and_says_so(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, body: str, broken: bool
) -> None:
    fake(tmp_path, body)
    monkeypatch.setenv("PYTHONPATH", str(tmp_path))
    asked = problem("dome")
    found = list(Search(asked, 3.0, processes=1).run())
    assert found[-1].nest is not None
    assert asked.sound(found[-1].nest)
    assert found[-1].length == found[0].length
    assert bool(found[-1].broken) is broken


def test_a_child_ends_when_nobody_listens_any_more() -> None:
    child = subprocess.Popen(
        [sys.executable, "-m", "omnipel.work.nester"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    )
    assert child.stdin is not None
    assert child.stdout is not None
    child.stdin.write(json.dumps({"problem": told(problem("dome")), "seed": 1, "seconds": 300.0}) + "\n")
    child.stdin.flush()
    assert json.loads(child.stdout.readline())["length"] > 0.0
    child.stdin.close()
    child.wait(timeout=30)
    child.stdout.close()
