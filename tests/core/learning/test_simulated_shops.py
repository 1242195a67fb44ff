"""What is learnt of made-up shops: estimates lie where they say, and the ninth cover is better than the first."""

import math
import os

import numpy as np
from tests.core.learning.people import Shop, thing

from omnipel.core.job.reading import Instrument
from omnipel.core.learning.errors import HEM, SEAM
from omnipel.core.learning.estimates import experience
from omnipel.core.learning.evidence import Lesson, lesson

SHOPS = 30 if os.environ.get("CI") else 200
COVERS = 8


def test_estimates_lie_in_their_range_and_the_ninth_cover_is_better_than_the_first() -> None:
    """As the design wants it: of 200 shops 75 % inside of the range that is said to hold 80 %, and half the error of the first."""
    inside: dict[str, list[bool]] = {}
    first, ninth = [], []
    for seed in range(SHOPS):
        shop, lessons = Shop(seed), list[tuple[int, Lesson]]()
        for number in range(COVERS + 1):
            base, true = thing(shop.rng)
            cover = shop.sewn(shop.measured(true, base, experience(lessons)), true)
            if number in (0, COVERS):
                (first if number == 0 else ninth).append(cover.girth_off)
            lessons.append((number, lesson(cover.making)))
        learnt = experience(lessons[:COVERS])
        for key in (SEAM, HEM):
            low, high = learnt.lines[f"{key}:canvas"].now.range
            inside.setdefault(key, []).append(low <= shop.faults[key] <= high)
        for instrument in (Instrument.TAPE, Instrument.STRAIGHTEDGE):
            line = learnt.lines.get(f"tape:{instrument.value}")
            if line is not None:
                low, high = line.now.range
                inside.setdefault(instrument.value, []).append(low <= shop.biases[instrument] <= high)
    held = {key: sum(lay) / len(lay) for key, lay in inside.items()}
    # Of 30 shops 80 % come out at 75 % or less by chance once in five: there the bound is as far lower as that takes.
    bound = 0.75 if SHOPS == 200 else 0.75 - 2.0 * math.sqrt(0.8 * 0.2 / SHOPS)
    off = {"first": math.sqrt(np.mean(np.square(first))), "ninth": math.sqrt(np.mean(np.square(ninth)))}
    print(held, off)
    assert min(held.values()) >= bound, held
    assert off["ninth"] < (0.5 if SHOPS == 200 else 0.6) * off["first"], off
