"""`make bench`, its part about cloth: lays, advice, and whether the window stays awake while a lay is searched."""

import math
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from children import AWAKE
from pace import REFERENCE_MS, loop_ms, told, told_ms


def lays() -> None:
    """Lays against the best known ones, and the first that can be used."""
    import json

    from lays import GOALS, measured, together

    cases = json.loads((Path(__file__).parents[1] / "tests" / "cases" / "lays.json").read_text(encoding="utf-8"))["lays"]
    for lay in (*cases, together(cases)):
        many = sum(piece["demand"] for piece in lay["pieces"])
        goals = next(goals for most, goals in GOALS.items() if many <= most)
        for seconds, goal in goals:
            pace = loop_ms() / REFERENCE_MS
            got = measured(lay, seconds)
            what = f"lay {lay['id']}, {many} pieces, in {min(got['took'], seconds):.1f} s"
            told(what, f"{got['ratio']:.4f}", f"{goal} of the best known", got["ratio"] <= goal and not got["wrong"])
        told_ms(f"its first lay, {got['first'][1]:.3f} of the best known", got["first"][0] * 1000.0, 200.0, pace)


def advice() -> None:
    """Advice for every job of the sample shop: the first line, and all of it."""
    from omnipel.core.cloth.cuts import layers_of
    from omnipel.core.cloth.lay import lay_of
    from omnipel.core.cloth.saving import Saver
    from omnipel.core.cloth.sheets import sheet_of
    from omnipel.core.draft import Drafted, draft
    from omnipel.shop.sample import SAMPLES

    firsts, ends, pace = [], [], loop_ms() / REFERENCE_MS
    for sample in SAMPLES:
        drafted = draft(sample())
        if not isinstance(drafted, Drafted):
            continue
        laid = [lay_of(sheet_of(drafted, layer)) for layer in layers_of(drafted)]
        begun, first = time.perf_counter(), math.inf
        for one in Saver(drafted, laid).look():
            if one is not None:
                first = min(first, time.perf_counter() - begun)
        ends.append(time.perf_counter() - begun)
        firsts.append(first)
    found = [first for first in firsts if math.isfinite(first)]
    told_ms(f"advice, median of {len(ends)} jobs (slowest {max(ends):.1f} s)", statistics.median(ends) * 1000.0, 5000.0, pace)
    told_ms(f"its first line (slowest {max(found):.1f} s)", statistics.median(found) * 1000.0, 1000.0, pace)


def awake() -> None:
    """The window while a lay is searched and advice is looked for: the longest it was busy at a stretch, and the longest that nothing happened in it."""
    from omnipel.shop.sample import fill

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "q.sqlite"
        fill(path).close()
        pace = loop_ms() / REFERENCE_MS
        done = subprocess.run([sys.executable, "-c", AWAKE, str(path)], check=True, capture_output=True, text=True, timeout=120)
    pace = max(pace, loop_ms() / REFERENCE_MS)
    busy, still, often, ticks = (float(word) for word in done.stdout.split())
    told_ms(f"longest the window is busy while a lay is searched ({ticks:.0f} ticks)", busy, 50.0, pace)
    told_ms(f"longest that nothing happens in it (over 50 ms: {often:.0f} times)", still, 50.0, pace)
