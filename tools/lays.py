"""`tools/lays.py FILE [--seconds S] [--together]`: how long lays come out against the best known, on a file of lays to measure against.

The file is that of tests/cases/lays.json: outlines with demands, the width of the cloth, turnings, and the best known length of each. Every lay
is checked by another library than the one that made it, and its length reckoned from where the pieces lie.
"""

import argparse
import json
import math
import time
from pathlib import Path
from typing import Any

import numpy as np
import shapely

from omnipel.core.nesting.building import used_length
from omnipel.core.nesting.checking import faults
from omnipel.core.nesting.problem import Problem, problem_of
from omnipel.work.laying import Search

TOGETHER = "batch", "box", "tub", "wheel", "dome"
"""The lays of tests/cases/lays.json that make one large lay of 39 pieces ..."""
TOGETHER_WIDTH, TOGETHER_BEST = 1520.0, 11_575.0
"""... on cloth of this width; the shortest that was found for it before pieces were exchanged some thousand times in a second, mm."""


GOALS: dict[int, tuple[tuple[int, float], ...]] = {9: ((3, 1.002),), 18: ((3, 1.015), (10, 1.005)), 99: ((3, 1.02), (10, 1.008))}
"""Up to how many pieces, after how many seconds a lay may be so many times as long as the best known."""


def together(lays: list[dict[str, Any]]) -> dict[str, Any]:
    """Several lays as one."""
    parts = [lay for lay in lays if lay["id"] in TOGETHER]
    width = TOGETHER_WIDTH
    area = sum(piece["demand"] * shapely.Polygon(piece["outline"]).area for lay in parts for piece in lay["pieces"])
    return parts[0] | {
        "id": "together",
        "pieces": [piece for lay in parts for piece in lay["pieces"]],
        "cloth_width": width,
        "best_known_length": TOGETHER_BEST,
        "proven_lower_bound": area / width,
    }


def problem_in(lay: dict[str, Any]) -> Problem:
    """The problem that a lay in the file poses."""
    turns = tuple(math.radians(turn) for turn in lay["turning"])
    sorts = [(np.array(piece["outline"]), piece["demand"], turns) for piece in lay["pieces"]]
    return problem_of(sorts, lay["cloth_width"], gap=lay["gap"])


def measured(lay: dict[str, Any], seconds: float) -> dict[str, Any]:
    """What comes of a lay in so many seconds."""
    problem, begun = problem_in(lay), time.perf_counter()
    first = None
    for found in Search(problem, seconds).run():
        if first is None and found.nest is not None:
            first = time.perf_counter() - begun, found.length / lay["best_known_length"]
    took = time.perf_counter() - begun
    wrong = list(faults(found.nest, problem.width, math.inf)) if found.nest is not None else [(-1, -1)]
    return {
        "id": lay["id"],
        "pieces": len(problem.pieces),
        "ratio": used_length(found.nest or []) / lay["best_known_length"],
        "bound": found.least / lay["proven_lower_bound"],
        "first": first,
        "took": took,
        "proven": found.proven,
        "wrong": wrong,
    }


def main() -> None:
    """Measure and print."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--seconds", type=float, default=3.0)
    parser.add_argument("--only", default="", help="lays with this in their name")
    parser.add_argument("--together", action="store_true", help="those of tests/cases/lays.json as one lay of 39 pieces, too")
    asked = parser.parse_args()
    lays = json.loads(asked.file.read_text(encoding="utf-8"))["lays"]
    if asked.together:
        lays.append(together(lays))
    print(f"{'lay':12}{'pieces':>7}{'to best known':>15}{'first lay':>18}{'took':>9}  ended")
    for lay in (lay for lay in lays if asked.only in lay["id"]):
        got = measured(lay, asked.seconds)
        first = f"{got['first'][1]:.3f} at {got['first'][0]:.2f} s" if got["first"] else "none"
        ended = "proven best" if got["proven"] else "time over"
        fault = f"  OVERLAPS {got['wrong']}" if got["wrong"] else ""
        print(
            f"{got['id']:12}{got['pieces']:>7}{got['ratio']:>15.4f}{first:>18}{got['took']:>7.2f} s  {ended}{fault}", flush=True
        )


if __name__ == "__main__":
    main()
