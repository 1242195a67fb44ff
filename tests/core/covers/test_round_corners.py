"""Rounded ends against the thing that stands between them: nothing of it lies outside unless a stop says so."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.draft import Drafted, draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, with_reading
from omnipel.core.job.findings import Change, Severity
from omnipel.core.job.reading import Reading
from omnipel.core.remedies import holds
from omnipel.core.tolerances import SEAM
from omnipel.core.words import refs
from omnipel.shop.document import lawful
from omnipel.shop.starter import starter


def pokes_out(drafted: Drafted, thing: shapely.Polygon) -> float:
    """How far a thing that stands in the middle of an end, on the same ground, lies outside the cloth's inside, mm."""
    end = next(panel for panel in drafted.panels if panel.name == "end")
    points = end.sew_points
    (low, foot), (high, _) = points.min(axis=0), points.max(axis=0)
    below = np.array([(high, foot - 2000.0), (low, foot - 2000.0)])  # open below: its sides run on
    start = next(i for i, p in enumerate(points) if p[1] == foot and p[0] == points[points[:, 1] == foot][:, 0].max())
    open_ = np.roll(points, -start, axis=0)
    cover = shapely.make_valid(shapely.Polygon(np.vstack((open_, below[::-1])))).buffer(-drafted.job.cover.cloth.thickness / 2.0)
    outside = thing.difference(cover)
    return float(max((shapely.distance(shapely.Point(p), cover) for p in shapely.get_coordinates(outside)), default=0.0))


def with_rounding(form: str, scheme: str, gap: float, radius: float) -> Job:
    return changed(starter(form, scheme), Change(refs.CLEARANCE, gap), Change(refs.option("rounding"), radius))


@tried(60)
@given(
    st.floats(2.0, 40.0),
    st.floats(0.0, 140.0),
    st.sampled_from(["over front and back", "over the sides", "traced"]),
    st.sampled_from([0.0, 20.0, 45.0, 90.0]),
)
def test_ends_clear_the_corners_of_a_box_or_say_so(gap: float, radius: float, runs: str, own: float) -> None:
    job = with_rounding("box", "traced-ends" if runs == "traced" else "saddle-and-ends", gap, radius)
    if runs != "traced":
        job = changed(job, Change(refs.option("runs"), runs))
    high, wide = (job.reading(place).repeats[0] for place in ("height", "width"))  # type: ignore[union-attr]
    over = Reading(place="path", repeats=(2.0 * high + wide - (4.0 - math.pi) * own,))
    drafted = draft(with_reading(job, over) if own else job)
    assert isinstance(drafted, Drafted)
    end = next(panel for panel in drafted.panels if panel.name == "end")
    body = drafted.body
    wide, high = (body.length if runs.endswith("sides") else body.width).value, body.drop.value  # type: ignore[attr-defined]
    rho = body.rounding.value if body.rounding is not None else 0.0  # type: ignore[attr-defined]
    rho = 0.0 if runs.endswith("sides") else rho  # it was measured over front and back
    middle = float(np.mean([end.sew_points[:, 0].min(), end.sew_points[:, 0].max()]))
    tall = shapely.box(middle - wide / 2.0, -1000.0, middle + wide / 2.0, high).buffer(-rho).buffer(rho, quad_segs=64)
    check(drafted, tall.intersection(shapely.box(-1e5, 0.0, 1e5, 1e5)))


@tried(30)
@given(st.floats(2.0, 40.0), st.floats(1.0, 120.0))
def test_traced_ends_clear_the_corners_of_what_was_traced_or_say_so(gap: float, radius: float) -> None:
    drafted = draft(with_rounding("traced", "traced-ends", gap, radius))
    assert isinstance(drafted, Drafted)
    lift = drafted.job.cover.options.get("lift", 0.0)
    ring = drafted.body.outline()  # type: ignore[attr-defined]
    above = shapely.Polygon(ring).intersection(shapely.box(-1e5, float(lift), 1e5, 1e5))
    end = next(panel for panel in drafted.panels if panel.name == "end")
    assert abs(end.sew_points[:, 1].min() - float(lift)) < 1e-6
    check(drafted, above)


def check(drafted: Drafted, thing: shapely.Polygon) -> None:
    found = next((f for f in drafted.findings if f.code == "corner-too-round"), None)
    out = pokes_out(drafted, thing)
    if found is None:
        assert out <= SEAM + 0.05
    else:
        assert found.severity is Severity.STOP
        assert out == pytest.approx(next(v.mm for k, v in found.text.values if k == "cut"), abs=0.05)
        assert holds(drafted, found, found.remedies[0], lawful)
