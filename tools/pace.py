"""How fast the machine is just now, and what is measured against that: a calibration loop runs in between of everything that is measured."""

import math
import statistics
import time
from collections.abc import Callable

REFERENCE_MS = 3.7
"""What the calibration loop takes on the machine that the goals were set for."""


def loop_ms(rounds: int = 9) -> float:
    """The calibration loop: a little of what drafting does, small objects, dictionaries and small arrays; median of some, ms."""
    import numpy as np

    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        total: dict[int, float] = {}
        for i in range(12_000):
            total[i % 97] = total.get(i % 97, 0.0) + math.hypot(i, 1.0)
        angles = np.linspace(0.0, 6.0, 400)
        for _ in range(60):
            np.hypot(np.cos(angles), np.sin(angles)).sum()
        times.append((time.perf_counter() - start) * 1000.0)
    return statistics.median(times)


PACE = [1.0]
"""How slow the machine was while the last thing was measured: 2 for half as fast as the reference."""


def median_ms(run: Callable[[], object], rounds: int = 60, warm: int = 5) -> float:
    """Median of many runs, ms; notes the machine's pace meanwhile."""
    for _ in range(warm):
        run()
    times, paces = [], [loop_ms()]
    for i in range(rounds):
        start = time.perf_counter()
        run()
        times.append((time.perf_counter() - start) * 1000.0)
        if i % 5 == 4:
            paces.append(loop_ms(1))
    PACE[0] = statistics.median(paces) / REFERENCE_MS
    return statistics.median(times)


def told_ms(what: str, ms: float, goal: float, pace: float | None = None) -> None:
    """A time against its goal, both as measured and at the reference's pace."""
    pace = PACE[0] if pace is None else pace
    told(what, f"{ms:.1f} ms", f"{goal:.0f} ms, here just now {goal * pace:.1f}", ms < goal * pace)


def told(what: str, value: str, goal: str, ok: bool) -> None:
    """One line of the result."""
    print(f"{'ok  ' if ok else 'SLOW'}  {what:<58} {value:>14}   goal {goal}")
