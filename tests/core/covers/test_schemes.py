"""Every scheme on random valid sizes: seams true, marks paired, cut lines exact, sums right, everything scaling together."""

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.options import OptionKind
from omnipel.core.draft import Draft, NotYet, draft
from omnipel.core.drafting.cutline import cut_line, cut_size
from omnipel.core.drafting.panel import MarkKind, cut_beyond, cut_beyond_edges
from omnipel.core.forms import FORMS
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Clearance, ClearanceSchool, Job, Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.reading import Reading
from omnipel.core.job.thing import Outline
from omnipel.core.tolerances import NOTCH_SPACING, SEAM, SEAM_SOUND
from omnipel.core.words import refs
from omnipel.core.words.habits import HABITS
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()
COUNTED = ("percent", "deg", "ratio", "gores", "fasteners")
"""Sizes that are no lengths: they stay when everything scales."""


@st.composite
def jobs(draw: st.DrawFn, form: str, scheme: str) -> Job:
    """A job with random sizes in the proportions of the sample, random clearance and allowances."""
    job = starter(form, scheme)
    size = draw(st.floats(0.6, 4.0))
    readings = tuple(replace(r, repeats=(r.repeats[0] * size * draw(st.floats(0.85, 1.15)),)) for r in job.readings)
    cover = replace(
        job.cover,
        clearance=replace(job.cover.clearance, amount=draw(st.floats(0.0, 25.0))),
        cloth=replace(job.cover.cloth, thickness=draw(st.floats(0.1, 3.0)), usable_width=50_000.0),
        padding=draw(st.sampled_from([0.0, 6.0, 20.0])),
        seam_allowance=draw(st.sampled_from([6.0, 10.0, 12.0, 13.0])),
        closing_allowance=draw(st.sampled_from([6.0, 12.0, 20.0])),
    )
    return replace(job, readings=readings, cover=cover)


def checked(drafted: Draft) -> None:
    """All that has to hold for any draft."""
    assert drafted.panels, [str(f.text) for f in drafted.findings]
    assert not [f for f in drafted.findings if f.code in ("seam-not-true", "size-impossible")]
    for trued in drafted.seams:
        layers = trued.seam.tolerance - SEAM if trued.seam.between else 0.0  # a lining's edge is the shorter by what lies between
        assert abs(trued.difference) <= SEAM_SOUND + layers, (trued.seam.name, trued.difference)
        fractions = [mark.fraction for mark in trued.marks]
        assert fractions == sorted(set(fractions))
        stops = [*fractions, 1.0] if trued.seam.ring else [0.0, *fractions, 1.0]
        assert np.diff(stops).max() * max(trued.length_a, trued.length_b) <= NOTCH_SPACING * 1.001 + 10.0
    labels: dict[str, set[str]] = {}
    for panel in drafted.panels:
        for notch in panel.notches:
            if notch.kind is MarkKind.NOTCH:
                for label in notch.label.split("/"):
                    labels.setdefault(label, set()).add(panel.name)
        sew, cut = shapely.Polygon(panel.sew_points), shapely.Polygon(cut_line(panel))
        assert sew.is_valid
        assert cut.is_valid, panel.name
        assert sew.exterior.is_ccw
        assert cut.buffer(1e-6).contains(sew)
        assert cut_size(panel) == pytest.approx((panel.cut_length.value, panel.cut_width.value), abs=0.05), panel.name
        assert np.ptp(panel.sew_points, axis=0) == pytest.approx((panel.length.value, panel.width.value), abs=0.05), panel.name
        for number in (panel.length, panel.width, panel.cut_length, panel.cut_width):
            assert math.fsum(term.value for term in number.terms) == number.value
    for trued in drafted.seams:
        for mark in trued.marks:
            if 0.0 < mark.fraction < 1.0:
                assert mark.label in labels, (trued.seam.name, mark)


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_random_valid_sizes(form: str, scheme: str) -> None:
    @tried(60)
    @given(jobs(form, scheme))
    def run(job: Job) -> None:
        checked(draft(job))

    run()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
@pytest.mark.parametrize("factor", [0.5, 2.0])
def test_sizes_scale_when_all_lengths_scale(form: str, scheme: str, factor: float) -> None:
    job = starter(form, scheme)
    if form == "case":  # what its clips are known to stand out by is a length of its own: say it, so that it scales too
        job = replace(job, readings=(*job.readings, Reading(place="clips", repeats=(9.0,), sigma=1e-3)))
    job = replace(job, cover=replace(job.cover, options=fixed_counts(job)))
    small, large = draft(job), draft(scaled(job, factor))
    assert set(small.cover.sizes) == set(large.cover.sizes)
    for name, size in small.cover.sizes.items():
        if scheme == "wheel-cap" and name == "boxing_cut_width":
            continue  # the fold of a cord casing is rounded up to the mm
        wanted = size.value if any(word in name for word in COUNTED) else size.value * factor
        assert large.cover.sizes[name].value == pytest.approx(wanted, rel=1e-6, abs=1e-6), name


AROUND = {
    "drum": lambda r: r["girth"],
    "wheel": lambda r: r["girth"],
    "bottle": lambda r: r["girth"],
    "box": lambda r: 2 * (r["length"] + r["width"]),
    "box in a wrap": lambda r: 2 * (r["width"] + r["height"]),
    "slab": lambda r: 2 * (r["width"] + r["thickness"]),
    "case": lambda r: 2 * (r["length"] + r["width"]),
}
"""The girth that a clearance by the girth is a share of."""


@pytest.mark.parametrize(("form", "scheme"), [pair for pair in PAIRS if pair[0] in AROUND])
@pytest.mark.parametrize("share", [0.02, 0.06])
def test_the_schools_of_clearance_say_the_same_in_their_own_measure(form: str, scheme: str, share: float) -> None:
    job = starter(form, scheme)
    around = AROUND["box in a wrap"] if (form, scheme) == ("box", "wrap") else AROUND[form]
    gap = share * around({r.place: r.repeats[0] for r in job.readings}) / (2 * math.pi)

    def cut(school: ClearanceSchool, amount: float) -> list[tuple[float, float]]:
        given_ = Clearance(school=school, amount=amount, drop=gap)
        return [cut_size(p) for p in draft(replace(job, cover=replace(job.cover, clearance=given_))).panels]

    by_side = cut(ClearanceSchool.SIDE, gap)
    assert np.array(cut(ClearanceSchool.DIMENSION, 2 * gap)) == pytest.approx(np.array(by_side), abs=1e-6)
    assert np.array(cut(ClearanceSchool.GIRTH, share)) == pytest.approx(
        np.array(by_side), abs=0.2
    )  # a case has clips in its girth


@pytest.mark.parametrize(
    ("form", "scheme", "radii"), [("turned", "gores", "half_width_at_base"), ("tub", "tapered-tub", "r_bottom")]
)
def test_a_share_of_the_girth_is_taken_at_each_mark_of_its_own(form: str, scheme: str, radii: str) -> None:
    job = starter(form, scheme)
    share = 0.05
    cover = replace(job.cover, clearance=Clearance(school=ClearanceSchool.GIRTH, amount=share))
    sizes = draft(replace(job, cover=cover)).cover.sizes
    r = {reading.place: reading.repeats[0] / (2 * math.pi) for reading in job.readings}
    low, high = (r["girth.1"], r["girth.2"]) if form == "turned" else (r["girth_bottom"], r["girth_top"])
    half = (job.cover.cloth.thickness + job.cover.padding) / 2
    wide = low * (1 + share) + half
    assert sizes[radii].value == pytest.approx(wide * math.pi / sizes["gores"].value if form == "turned" else wide)
    assert sizes["top_sew_radius" if form == "turned" else "r_top"].value == pytest.approx(high * (1 + share) + half)


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_by_how_much_a_size_is_cut_larger(form: str, scheme: str) -> None:
    drafted = draft(starter(form, scheme))
    by_hand = {name: drafted.cover.sizes[name] for name in drafted.cover.by_hand}
    found = {name: cut_beyond(drafted.panels, size) for name, size in by_hand.items()}
    assert any(found.values()) or scheme == "cap"
    for name, beyond in found.items():
        alike = [
            (cut, sewn)
            for panel in drafted.panels
            for cut, sewn in zip(cut_size(panel), np.ptp(panel.sew_points, axis=0), strict=True)
            if abs(sewn - by_hand[name].value) < 0.02 or abs(sewn / 2 - by_hand[name].value) < 0.02  # arcs are flattened
        ]
        if beyond is None:
            assert not [sewn for _, sewn in alike if abs(sewn - by_hand[name].value) < 1e-6], name
        else:
            assert min(abs(cut - sewn - k * beyond) for cut, sewn in alike for k in (1, 2)) < 0.01, name


def test_a_choice_that_ends_at_edges_is_cut_larger_by_their_allowances() -> None:
    panels = draft(starter("drum", "wall-and-lid")).panels
    wall = next(p for p in panels if p.name == "wall")
    low = wall.edge("lower edge").finish.allowance
    assert cut_beyond_edges(panels, ("lower edge",)) == low > 0.0
    assert cut_beyond_edges(panels, ("lower edge", "of another scheme")) == low
    assert cut_beyond_edges(panels, ()) == 0.0


def test_a_handle_is_shorter_than_the_top_seam_between_its_boxed_ends() -> None:
    job = starter("case", "padded-case")
    sizes = draft(job).cover.sizes
    room = sizes["tube_finished_length"].value / 2.0 - sizes["case_finished_width"].value
    for handle, stops in ((room - 1.0, False), (room + 1.0, True)):
        readings = tuple(replace(r, repeats=(handle,)) if r.place == "handle" else r for r in job.readings)
        drafted = draft(replace(job, readings=readings))
        assert isinstance(drafted, NotYet) is stops, handle


def test_corners_are_rounded_by_half_the_width_at_the_most() -> None:
    job = starter("box", "saddle-and-ends")
    plain = draft(job).cover.sizes
    most = min(plain["end_finished_width"].value / 2.0, plain["end_finished_height"].value)
    for radius, stops in ((most, False), (most + 0.01, True)):
        drafted = draft(replace(job, cover=replace(job.cover, options={"rounding": radius})))
        assert isinstance(drafted, NotYet) is stops
        assert all(trued.true for trued in drafted.seams)


@pytest.mark.parametrize(("valley", "stops"), [(40.0, False), (5e-7, True), (-5.0, True)])
def test_an_outline_stands_on_one_foot(valley: float, stops: bool) -> None:
    """Two towers and what is between them: a wall, next to nothing, nothing."""
    job = starter("traced", "traced-ends")
    ring = ((0.0, 0.0), (400.0, 0.0), (400.0, 300.0), (250.0, 300.0), (200.0, valley), (150.0, 300.0), (0.0, 300.0))
    cover = replace(job.cover, clearance=replace(job.cover.clearance, amount=0.0), cloth=replace(job.cover.cloth, thickness=0.0))
    drafted = draft(
        replace(job, readings=(job.readings[0],), thing=replace(job.thing, outline=Outline(points=ring)), cover=cover)
    )
    assert isinstance(drafted, NotYet) is stops, [str(f.text) for f in drafted.findings]


def fixed_counts(job: Job) -> dict[str, Any]:
    """All options of the job's scheme written out, lengths that stand for "reckon it" replaced."""
    known = SCHEMES[job.cover.scheme]
    options: dict[str, Any] = {o.key: job.cover.options.get(o.key, o.usual(known.key, job.cover.habits)) for o in known.options}
    return options | {k: v for k, v in {"gores": 12.0, "depth": 150.0, "along": 5.0, "across": 3.0}.items() if k in options}


def scaled(job: Job, k: float) -> Job:
    """The job with every length multiplied."""
    lengths = {o.key for o in SCHEMES[job.cover.scheme].options if o.kind is OptionKind.LENGTH}
    cover, hem, outline = job.cover, job.cover.hem, job.thing.outline
    return replace(
        job,
        thing=replace(job.thing, outline=outline and Outline(points=tuple((x * k, y * k) for x, y in outline.points))),
        readings=tuple(replace(r, repeats=tuple(mm * k for mm in r.repeats)) for r in job.readings),
        cover=replace(
            cover,
            clearance=replace(cover.clearance, amount=cover.clearance.amount * k),
            cloth=replace(cover.cloth, thickness=cover.cloth.thickness * k),
            padding=cover.padding * k,
            seam_allowance=cover.seam_allowance * k,
            closing_allowance=cover.closing_allowance * k,
            hem=replace(hem, width=hem.width * k, turn_under=hem.turn_under * k),
            options={key: v * k if key in lengths else v for key, v in cover.options.items()},  # type: ignore[operator]
            habits=replace(
                cover.habits, own={name: HABITS[name].rule.metric * k for name in ("channel", "padding under a channel")}
            ),
        ),
    )


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_a_starter_is_sound_and_none_of_its_options_breaks_it(form: str, scheme: str) -> None:
    job = starter(form, scheme)
    drafted = draft(job)
    checked(drafted)
    assert not drafted.stops, drafted.findings
    for option in SCHEMES[scheme].options:
        picks: tuple[Any, ...] = (
            option.picks if option.kind is OptionKind.PICK else (True, False) if option.kind is OptionKind.YES else ()
        )
        for value in picks:
            checked(draft(replace(job, cover=replace(job.cover, options={**job.cover.options, option.key: value}))))


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
@pytest.mark.parametrize("size", [0.005, 0.02, 12.0])
@pytest.mark.parametrize(("c", "padding"), [(0.0, 0.0), (900.0, 0.0), (5.0, 400.0)])
def test_tiny_huge_and_thick_end_in_panels_or_in_words(form: str, scheme: str, size: float, c: float, padding: float) -> None:
    job = starter(form, scheme)
    readings = tuple(replace(r, repeats=(max(1e-3, r.repeats[0] * size),)) for r in job.readings)
    cover = replace(job.cover, clearance=replace(job.cover.clearance, amount=c), padding=padding)
    drafted = draft(replace(job, readings=readings, cover=cover))
    assert drafted.panels or drafted.stops
    for panel in drafted.panels:
        assert np.isfinite(cut_line(panel)).all()
        assert shapely.Polygon(cut_line(panel)).is_valid
    for trued in drafted.seams:
        assert abs(trued.difference) <= SEAM_SOUND * max(1.0, size)


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
@pytest.mark.parametrize("allowance", [0.0, 500.0])
def test_allowances_and_options_at_their_bounds_end_in_panels_or_in_words(form: str, scheme: str, allowance: float) -> None:
    job = starter(form, scheme)
    hem = replace(job.cover.hem, width=allowance, turn_under=allowance)
    cover = replace(job.cover, seam_allowance=allowance, closing_allowance=allowance, hem=hem)
    lengths = [o for o in SCHEMES[scheme].options if o.kind is OptionKind.LENGTH]
    for options in ({}, {o.key: o.low for o in lengths}, {o.key: o.high for o in lengths}):
        drafted = draft(replace(job, cover=replace(cover, options=options)))
        assert drafted.panels or drafted.stops
        for panel in drafted.panels:
            assert shapely.Polygon(cut_line(panel)).is_valid


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_every_size_that_is_declared_can_be_set_by_hand_and_dropped_again(form: str, scheme: str) -> None:
    job = starter(form, scheme)
    plain = draft(job)
    outlines = [cut_line(p).tobytes() for p in plain.panels]
    bought = [(str(h.name), h.length and h.length.value, h.count) for h in plain.cover.hardware]
    assert plain.cover.by_hand or scheme == "sheet"
    for name in plain.cover.by_hand:
        size = plain.cover.sizes[name]
        by_hand = changed(job, Change(refs.by_hand(), Override(size=name, value=size.value * 1.04, reason="try"), Act.ADD))
        drafted = draft(by_hand)
        assert drafted.cover.sizes[name].value == pytest.approx(size.value * 1.04)
        assert "set by hand: try" in str(drafted.cover.sizes[name].terms[0].name)
        changed_cloth = [cut_line(p).tobytes() for p in drafted.panels] != outlines
        changed_goods = [(str(h.name), h.length and h.length.value, h.count) for h in drafted.cover.hardware] != bought
        marks = [f.points.tobytes() for p in drafted.panels for f in p.figures] != [
            f.points.tobytes() for p in plain.panels for f in p.figures
        ]
        assert changed_cloth or changed_goods or marks, f"{name} does nothing"
        for trued in drafted.seams:
            if not trued.true:
                finding = next(f for f in drafted.findings if f.where == refs.seam(trued.seam.name))
                assert finding.remedies, trued.seam.name
                assert not [f for f in draft(changed(by_hand, *finding.remedies[0].changes)).findings if f.where == finding.where]
        dropped = changed(by_hand, Change(refs.by_hand(name), act=Act.REMOVE))
        assert dropped == job


def test_every_form_answers_for_sketch_and_tape() -> None:
    for form in FORMS.values():
        job = starter(form.key, next(s for f, s in PAIRS if f == form.key))
        drafted = draft(job)
        mesh = drafted.body.mesh()
        assert 0 < len(mesh.faces) <= 400
        assert np.isfinite(mesh.normals).all()
        for place in form.places(job.readings, job.thing):
            path = drafted.body.tape(place.key)
            assert path.shape[1] == 3, (form.key, place.key)
            further = place.key.partition(".")[2] == "3"  # the next mark of a turned body is nowhere yet
            assert len(path) >= 2 or further, (form.key, place.key)
            assert place.how.template.endswith(".")
