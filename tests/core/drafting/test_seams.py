"""Truing and match marks."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.seams import Run, Seam, true, with_marks
from omnipel.core.drafting.shapes import disc, rectangle
from omnipel.core.job.document import ClipSchool
from omnipel.core.job.finish import seam
from omnipel.core.tolerances import NOTCH_SPACING
from omnipel.core.words.working import worked

NAMES = {"top": "lid edge", "bottom": "lower", "left": "a", "right": "b"}
OF = {"lid": "lid", "wall": "wall"}
RING = Seam("wall to lid", (Run("wall", "lid edge", reversed=True),), (Run("lid", "rim"),), ring=True)


def pair(radius: float, over: float = 0.0):
    """A lid and a wall whose ring is `over` too long."""
    lid = disc("lid", worked("r", radius), seam(12.0))
    sides = {side: seam(12.0) for side in ("bottom", "right", "top", "left")}
    wall = rectangle("wall", worked("ring", 2 * math.pi * radius + over), worked("h", 300.0), **sides, names=NAMES)
    return lid, wall


@given(st.floats(20.0, 3000.0), st.floats(-30.0, 30.0))
def test_both_sides_are_walked_on_the_sew_line(radius: float, over: float) -> None:
    lid, wall = pair(radius, over)
    trued = true(RING, {"lid": lid, "wall": wall})
    assert trued.difference == pytest.approx(over, abs=1e-6)
    assert trued.true is (abs(trued.difference) <= 1.5)


@given(st.floats(20.0, 3000.0))
def test_marks_stand_at_quarters_and_never_far_apart(radius: float) -> None:
    lid, wall = pair(radius)
    trued = true(RING, {"lid": lid, "wall": wall})
    fractions = [mark.fraction for mark in trued.marks]
    assert {0.0, 0.25, 0.5, 0.75} <= set(fractions)
    gaps = np.diff([*fractions, 1.0]) * trued.length_a
    assert gaps.max() <= 300.0 + 1e-6
    assert len({mark.label for mark in trued.marks}) == len(trued.marks)


@given(st.floats(200.0, 3000.0), st.floats(200.0, 3000.0), st.booleans())
def test_every_corner_that_a_strip_bends_around_is_marked(x: float, y: float, ring: bool) -> None:
    """Round a rectangle: after the first side, after the second … of it."""
    sides = {side: seam(12.0) for side in ("bottom", "right", "top", "left")}
    top = rectangle("top", worked("x", x), worked("y", y), **sides)
    strip = rectangle("strip", worked("ring", 2 * (x + y)), worked("h", 300.0), **sides)
    runs = tuple(Run("top", name) for name in ("bottom", "right", "top", "left"))
    trued = true(Seam("round", (Run("strip", "top", reversed=True),), runs, ring=ring), {"top": top, "strip": strip})
    at = [mark.fraction * 2 * (x + y) for mark in trued.marks]
    for corner in (x, x + y, 2 * x + y):
        assert min(abs(corner - mark) for mark in at) < 5.0
        if min(abs(corner / (2 * (x + y)) - k / 4) for k in range(5)) * 2 * (x + y) > 5.0:
            assert min(abs(corner - mark) for mark in at) < 1e-6
    assert len(at) <= 4 + 4 + 2 * (x + y) / NOTCH_SPACING + 1


def test_both_panels_carry_the_same_labels_at_the_same_distance() -> None:
    lid, wall = pair(300.0)
    marked = {p.name: p for p in with_marks((lid, wall), OF, [true(RING, {"lid": lid, "wall": wall})])}
    at = {name: {n.label: n.fraction for n in marked[name].notches if n.kind is MarkKind.NOTCH} for name in marked}
    assert set(at["wall"]) | {"A1"} == set(at["lid"])  # A1 is where the wall closes: its corner is the mark
    for label, fraction in at["wall"].items():
        assert (1.0 - fraction) * wall.edge("lid edge").curve.length == pytest.approx(
            at["lid"][label] * lid.edge("rim").curve.length
        )


@pytest.mark.parametrize(("radius", "spacing"), [(60.0, 15.0), (200.0, 25.0), (400.0, None)])
def test_relief_clips_by_radius_and_school(radius: float, spacing: float | None) -> None:
    lid, wall = pair(radius)
    for school, clipped in ((ClipSchool.STRAIGHT, "wall"), (ClipSchool.DISC, "lid"), (ClipSchool.AFTER, None)):
        marked = with_marks((lid, wall), OF, [true(RING, {"lid": lid, "wall": wall})], school)
        clips = {p.name: [n for n in p.notches if n.kind is MarkKind.CLIP] for p in marked}
        expected = int(2 * math.pi * radius / spacing) - 1 if spacing and clipped else 0
        assert sum(map(len, clips.values())) == expected
        assert not clipped or len(clips[clipped]) == expected


def test_a_gathered_seam_is_true_at_its_ratio() -> None:
    lid, wall = pair(100.0, over=200.0 * math.pi * 0.5)
    gathered = Seam("gathered", RING.a, RING.b, ratio=1.5, ring=True)
    assert true(gathered, {"lid": lid, "wall": wall}).difference == pytest.approx(0.0, abs=1e-9)
