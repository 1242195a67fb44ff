"""The promises of the sewn cover, for every lawful pair and anything that can be chosen.

It is a surface, it keeps its lengths, it closes, it clears the object, it is what goes on is judged by, and its marks meet.
"""

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried, wild_jobs

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth, MarkKind, Panel
from omnipel.core.drafting.pieces import Piece, facets, named
from omnipel.core.drafting.seams import Way
from omnipel.core.drafting.topology import ends_of, surface
from omnipel.core.fit.sewn import sampled, seam_apart
from omnipel.core.job.document import Job, Override
from omnipel.core.job.findings import Severity
from omnipel.core.space.frames import Solid
from omnipel.core.space.placements import normals
from omnipel.core.tolerances import CLOSES, SEAM
from omnipel.core.words import refs
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()
GATHERED = {"cap", "second skirt", "half", "boxing", "wall"}
"""Panels that are drawn in by a cord or elastic in some scheme."""
BY_GATHERS = {"cap", "wheel-cap", "gathered-halves", "sleeve-tied", "wall-and-lid"}
NOT_CUT = {"gathered-halves", "sleeve-tied", "wheel-cap", "wheel-both-faces", "padded-case"}
"""Schemes that no plane cuts all round in one place: faces on end, a zip, gathers."""
LENGTHWISE = {"wheel", "slab"}
"""Forms that pass into their cover along x."""


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_every_promise_is_kept(form: str, scheme: str) -> None:
    """On wild jobs, nothing set by hand in them: what a person sets answers for itself."""

    @tried(12)
    @given(wild_jobs(form, scheme))
    def run(job: Job) -> None:
        drafted = draft(job)
        if isinstance(drafted, Drafted) and not job.cover.overrides:
            for kept in (a_surface, keeps_lengths, closes, clears, one_truth):
                kept(drafted)

    run()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_what_is_set_by_hand_fits_over_the_object_and_closes_or_is_stopped(form: str, scheme: str) -> None:
    base = starter(form, scheme)
    known = {name: draft(base).cover.sizes[name].value for name in draft(base).cover.by_hand}  # type: ignore[union-attr]
    shares = st.floats(0.5, 1.6)

    @tried(16)
    @given(st.lists(st.tuples(st.sampled_from(sorted(known)), shares), min_size=1, max_size=2, unique_by=lambda pair: pair[0]))
    def run(chosen: list[tuple[str, float]]) -> None:
        by_hand = tuple(Override(size=size, value=max(1.0, known[size] * k), reason="typed") for size, k in chosen)
        drafted = draft(replace(base, cover=replace(base.cover, overrides=by_hand)))
        if not isinstance(drafted, Drafted) or drafted.stops:
            finding = next(f for f in drafted.findings if f.severity is Severity.STOP)
            assert finding.remedies or not isinstance(drafted, Drafted)
            return
        assert max(drafted.sewn.apart, default=0.0) <= SEAM
        for piece, panel in of_surface(drafted):
            if piece.clear is not None:
                assert drafted.body.occupied.gaps(piece.place.at(sampled(panel, 12))).min() > -SEAM - 0.5, piece.name

    run()


def of_surface(drafted: Drafted) -> Iterator[tuple[Piece, Panel]]:
    """The pieces of the surface itself, with their panels."""
    for piece in drafted.cover.pieces:
        if not piece.on:
            yield piece, drafted.cover.flat[piece.name]


def a_surface(drafted: Drafted) -> None:
    """Every edge is in one seam or opening, it has two sides, its openings are those declared, and corners that are one lie in one place."""
    cover = drafted.cover
    found = surface(cover.panels, cover.pieces, cover.seams)
    assert not found.faults
    assert len(found.openings) == len(cover.openings)
    for name, run in cover.openings.items():
        assert sum(opening.has(run.piece, run.edge) for opening in found.openings) == 1, name
    pieces = named(cover.pieces)
    places: dict[int, list[Solid]] = {}
    for (name, i), number in found.corners.items():
        start = np.array([cover.flat[name].edges[i].curve.start])
        places.setdefault(number, []).append(pieces[name].place.at(start)[0])
    layers = max((seam.between for seam in cover.seams), default=0.0)
    for met in places.values():
        assert np.ptp(met, axis=0).max() < CLOSES + layers
    for opening in found.openings:
        corners = [[found.corners[c] for c in ends_of(run, cover.flat)] for run in opening.runs]
        steps = list(zip(corners, [*corners[1:], corners[0]], strict=True))
        laps = [seam for seam in cover.seams if seam.onto]
        assert sum(a[1] != b[0] for a, b in steps) <= len(laps)
    assert {panel.name for panel in cover.panels} == {piece.panel for piece in cover.pieces}
    for panel in cover.panels:
        assert panel.count == sum(piece.panel == panel.name for piece in cover.pieces)


def keeps_lengths(drafted: Drafted) -> None:
    """Cloth is never stretched, and never drawn in but where it is gathered; a gore is out by what its excess says."""
    for piece, panel in of_surface(drafted):
        low, high = strains(piece, panel)
        if drafted.job.cover.scheme == "gores" and "gore" in piece.name:
            n = sum("gore" in other.name for other, cut in of_surface(drafted) if cut.cloth is panel.cloth)
            lean = np.abs(np.diff(panel.edge("right").curve.points(), axis=0))
            slope = float((lean[:, 0] / np.maximum(lean[:, 1], 1e-9)).max()) * n / math.pi
            room = 0.6 * (math.pi / n * max(slope, 1.0)) ** 2 + math.pi / n * max(slope, 1.0) * 0.6
            assert -room < low
            assert high < room
            continue
        assert high < 1e-6, piece.name
        drawn = drafted.job.cover.scheme in BY_GATHERS and any(panel.name.endswith(name) for name in GATHERED | {"inner cap"})
        assert drawn or low > -1e-6, piece.name


def strains(piece: Piece, panel: Panel) -> tuple[float, float]:
    """The most that cloth is drawn in (negative) and stretched anywhere, as shares."""
    inside = shapely.Polygon(panel.sew_points).buffer(-0.02)
    at = sampled(panel, 7)
    at = at[shapely.contains_xy(inside, at)] + 0.00137  # off the folds
    if not len(at):
        return 0.0, 0.0
    h = 1e-4
    x, y = np.array((h, 0.0)), np.array((0.0, h))
    ex = (piece.place.at(at + x) - piece.place.at(at - x)) / (2 * h)
    ey = (piece.place.at(at + y) - piece.place.at(at - y)) / (2 * h)
    stretch = np.linalg.svd(np.stack((ex, ey), axis=2), compute_uv=False)
    return float(stretch.min()) - 1.0, float(stretch.max()) - 1.0


def closes(drafted: Drafted) -> None:
    """Equal shares of both sides of every seam lie in one place, and so do the match marks, which are there on both."""
    cover = drafted.cover
    pieces = named(cover.pieces)
    for trued in drafted.seams:
        for seam in trued.alike:
            assert seam_apart(seam, pieces, cover.flat, 25) < CLOSES, seam.name
            ways = [Way(side, cover.flat) for side in seam.sides]
            for mark in trued.marks:
                met = []
                for run, share in (way.locate(mark.fraction) for way in ways):
                    panel = cover.flat[run.piece]
                    there = [n for n in panel.notches if n.edge == run.edge and abs(n.fraction - share) < 1e-5]
                    letters = [label for n in there if n.kind is MarkKind.NOTCH for label in n.label.split("/")]
                    assert min(share, 1.0 - share) < 1e-6 or mark.label in letters or mark.label.rstrip("0123456789") in letters
                    met.append(pieces[run.piece].place.at(np.array([panel.edge(run.edge).curve.at(share)]))[0])
                assert np.linalg.norm(met[0] - met[1]) < CLOSES + seam.between
    assert max(drafted.sewn.apart, default=0.0) < CLOSES
    assert not [f for f in drafted.findings if f.code == "promise-broken"]


def clears(drafted: Drafted) -> None:
    """Nowhere nearer than promised, seen much more closely than a draft does; outward is away from the object. What it does not follow it says so of."""
    if not SCHEMES[drafted.job.cover.scheme].follows(drafted.body):
        assert "slope-ignored" in [f.code for f in drafted.findings]
        return
    for piece, panel in of_surface(drafted):
        if piece.clear is None:
            continue
        at = sampled(panel, 30)
        there = piece.place.at(at)
        gaps = drafted.body.occupied.gaps(there)
        assert gaps.min() > piece.clear - CLOSES, (piece.name, gaps.min(), piece.clear, there[gaps.argmin()])
        out = normals(piece.place, at) * (-1.0 if piece.mirrored else 1.0)
        if "lining" in panel.name or panel.cloth.value == "lining":
            out = -out
        beside = gaps < piece.clear + 1.0  # where it lies along the object
        further = drafted.body.occupied.gaps(there + 0.5 * out) - gaps
        assert np.median(further[beside]) > 0.0 if beside.any() and piece.clear > 0.2 else True, piece.name


def one_truth(drafted: Drafted) -> None:
    """Cut by a plane, the placed cover is as long around as the passage says, but for its own thickness."""
    cover = drafted.cover
    folded = drafted.job.cover.options.get("corners") == "folded in"  # its ears lie double
    if not cover.profile or drafted.job.cover.scheme in NOT_CUT or folded:
        return
    axis = 0 if drafted.job.thing.form in LENGTHWISE else 2
    outer = [(piece, replace(panel, figures=())) for piece, panel in of_surface(drafted) if panel.cloth is Cloth.OUTER]
    faces = [face for piece, panel in outer for face in facets(piece, panel, 0.05)]
    low, deep = min(face[:, axis].min() for face in faces), cover.profile[-1].depth - cover.profile[0].depth
    t = sum_of_layers(drafted)
    around = cut_at(faces, axis, low + 0.27 * deep)
    girths = [passage.girth.value + cover.turns * t / 2.0 for passage in cover.profile]
    assert min(girths) - 0.3 < around < max(girths) + 0.3, (girths, around)


def sum_of_layers(drafted: Drafted) -> float:
    """Twice what lies between the inside and the outer's sew line: a lining that hangs by itself lies inside of it with its padding."""
    choices = drafted.job.cover
    school = "none" if refs.LINING_SCHOOL in SCHEMES[choices.scheme].without else choices.lining.school.value
    within = choices.padding + (choices.lining.cloth.thickness if school != "none" else 0.0)
    return choices.cloth.thickness + within * (2.0 if school in ("bagged", "bound") else 1.0)


def cut_at(faces: list[Solid], axis: int, height: float) -> float:
    """How long the line is in which a plane cuts flat faces."""
    total = 0.0
    for face in faces:
        off = face[:, axis] - height
        ends = []
        for i in range(len(face)):
            a, b = off[i - 1], off[i]
            if (a < 0.0) != (b < 0.0):
                ends.append(face[i - 1] + (face[i] - face[i - 1]) * (a / (a - b)))
        for one, other in zip(ends[::2], ends[1::2], strict=False):
            total += float(np.linalg.norm(one - other))
    return total
