"""Every scheme against its oracle, on random sizes and choices, in both systems."""

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.covers.oracle import Given
from tests.core.covers.oracles import ORACLES, area
from tests.wild import tried

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.options import OptionKind
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_size
from omnipel.core.drafting.panel import Cloth
from omnipel.core.fit.going_on import Fit, NoPassage
from omnipel.core.job.document import Job, RingSchool
from omnipel.core.job.finish import double_hem
from omnipel.core.job.reading import Reading
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


@st.composite
def cases(draw: st.DrawFn, form: str, scheme: str) -> tuple[Job, Given]:
    """A job with its readings and choices drawn, and the same as plain numbers."""
    job = starter(form, scheme, draw(st.sampled_from([Unit.MM, Unit.INCH_16])))
    readings = tuple(replace(r, repeats=(r.repeats[0] * draw(st.floats(0.8, 1.25)),)) for r in job.readings)
    c, t = draw(st.floats(2.0, 25.0)), draw(st.floats(0.1, 2.0))
    seam, closing = draw(st.sampled_from([6.0, 9.5, 12.7])), draw(st.sampled_from([8.0, 12.0, 19.0]))
    hem, under = draw(st.floats(12.0, 30.0)), draw(st.floats(0.0, 12.0))
    options: dict[str, Any] = {}
    for option in SCHEMES[scheme].options:
        usual = option.usual(scheme, job.cover.habits)
        if option.kind is OptionKind.PICK:
            options[option.key] = draw(st.sampled_from(option.picks))
        elif option.kind is OptionKind.YES:
            options[option.key] = False if scheme == "gores" else draw(st.booleans())
        elif option.kind is OptionKind.LENGTH and usual:
            options[option.key] = min(max(float(usual) * draw(st.floats(0.7, 1.3)), option.low), option.high)
        elif option.kind is OptionKind.LENGTH:
            options[option.key] = draw(st.sampled_from([0.0, 0.0, max(option.low, 60.0)]))
        elif option.kind is OptionKind.COUNT:
            options[option.key] = float(draw(st.sampled_from([6, 8, 10] if option.key == "gores" else [2, 3, 4])))
        else:
            options[option.key] = draw(st.floats(max(option.low, 0.05), min(option.high, 0.6))) if option.high <= 1.0 else 2.0
    if scheme == "traced-ends":
        options |= {"rounding": 0.0, "lift": 0.0, "round_growth": False}
    if scheme == "wheel-cap" and draw(st.booleans()):
        options["overlap"] = 0.0
    if scheme == "drape":
        options["gap"] = min(options["gap"], 40.0)
    ring = draw(st.sampled_from(RingSchool))
    cover = replace(
        job.cover,
        clearance=replace(job.cover.clearance, amount=c),
        cloth=replace(job.cover.cloth, thickness=t, gather_limit=6.0),
        padding=0.0,
        seam_allowance=seam,
        closing_allowance=closing,
        hem=double_hem(hem, under),
        ring=ring,
        options=options,
    )
    job = replace(job, readings=readings, cover=cover)
    more = {"ring": ring.value, "metric": job.unit is Unit.MM, "gathers": 6.0, "clips": 0.0}
    spare = 150.0 if job.unit is Unit.MM else 25.4 * 6
    plain = {r.place: r.repeats[0] for r in readings}
    return job, Given(plain, c, t, seam, closing, hem, under, spare, options | more)


def compare(job: Job, given_: Given) -> None:
    drafted = draft(job)
    assert isinstance(drafted, Drafted), [str(f.text) for f in drafted.findings]
    wanted = ORACLES[job.thing.form, job.cover.scheme](given_)
    own = {p.name: p for p in drafted.panels if p.name in wanted.pieces or p.cloth is Cloth.OUTER}
    assert set(own) == set(wanted.pieces)
    for name, piece in wanted.pieces.items():
        panel = own[name]
        assert panel.count == piece.count, name
        assert cut_size(panel) == pytest.approx((piece.long, piece.high), abs=0.06), name
        assert (panel.cut_length.value, panel.cut_width.value) == pytest.approx((piece.long, piece.high), abs=0.06), name
        straight = all(math.dist(e.curve.start, e.curve.end) > e.curve.length - 1e-9 for e in panel.edges)
        assert area(panel.sew_points) == pytest.approx(piece.area, rel=1e-9 if straight else 2e-4), name
    seams = {trued.seam.name: trued for trued in drafted.seams}
    assert set(seams) == set(wanted.seams)
    for name, length in wanted.seams.items():
        ratio = seams[name].seam.ratio
        assert seams[name].length_a == pytest.approx(length, abs=0.05), name
        assert seams[name].length_b == pytest.approx(length / ratio, abs=0.05), name
    bought = {str(h.name): h.length.value for h in drafted.cover.hardware if h.length is not None}
    assert bought == pytest.approx(dict(wanted.goods), abs=0.05)
    assert {str(h.name): h.count for h in drafted.cover.hardware if h.length is None} == dict(wanted.counted)
    assert drafted.cover.from_below is wanted.from_below
    assert drafted.cover.seams_across == wanted.seams_across
    if not wanted.inside:
        assert isinstance(drafted.fit, NoPassage)
        return
    assert isinstance(drafted.fit, Fit)
    top, low = drafted.cover.profile[0], drafted.cover.profile[-1]
    assert top.depth <= 0.03 * drafted.measured.numbers["height"].value if job.cover.scheme == "traced-ends" else top.depth == 0.0
    assert low.depth > 0.0
    assert (top.girth.value, low.girth.value) == pytest.approx(wanted.inside, abs=0.05)
    if wanted.across:
        assert [span.value for span in top.spans] == pytest.approx(wanted.across, abs=0.05)


@pytest.mark.parametrize(("form", "scheme"), ORACLES)
def test_a_scheme_is_what_its_oracle_says(form: str, scheme: str) -> None:
    @tried(25)
    @given(cases(form, scheme))
    def run(case: tuple[Job, Given]) -> None:
        compare(*case)

    run()


def test_every_pair_has_an_oracle() -> None:
    """The traced form has none of its own: its outline is checked against a polygon's below."""
    assert set(lawful_pairs()) == set(ORACLES) | {("traced", "traced-ends")}


@pytest.mark.parametrize("c", [0.0, 8.0, 20.0])
def test_a_traced_end_is_its_outline_moved_outward(c: float) -> None:
    """A circle's segment moved outward is a larger circle's; what is left above the floor is reckoned by hand."""
    from omnipel.core.job.thing import Outline

    radius, t = 200.0, 0.5
    points = tuple((radius * math.cos(a), radius * math.sin(a)) for a in (math.pi * k / 720 for k in range(721)))
    job = starter("traced", "traced-ends")
    thing = replace(job.thing, outline=Outline(points=points))
    cover = replace(job.cover, clearance=replace(job.cover.clearance, amount=c), cloth=replace(job.cover.cloth, thickness=t))
    drafted = draft(replace(job, thing=thing, cover=replace(cover, options={"round_growth": True})))
    assert isinstance(drafted, Drafted)
    grown = radius + c + t / 2
    end, gusset = (next(p for p in drafted.panels if p.name == name) for name in ("end", "gusset"))
    assert area(end.sew_points) == pytest.approx(math.pi * grown**2 / 2, rel=1e-3)
    assert gusset.length.value == pytest.approx(math.pi * grown, rel=1e-3)
    width = job.reading("width").repeats[0]  # type: ignore[union-attr]
    assert gusset.width.value == pytest.approx(width + 2 * c + t, abs=1e-6)


def with_outline(form: str, scheme: str, points: list[tuple[float, float]], **options: Any) -> tuple[Job, Drafted]:
    """A job whose rim or edge was traced."""
    from omnipel.core.job.thing import Outline

    job = starter(form, scheme)
    job = replace(job, readings=(), thing=replace(job.thing, outline=Outline(points=tuple(points))))
    drafted = draft(replace(job, cover=replace(job.cover, options=options)))
    assert isinstance(drafted, Drafted), [str(f.text) for f in drafted.findings]
    return job, drafted


@pytest.mark.parametrize("layers", ["single layer", "reversible"])
@pytest.mark.parametrize("fastening", ["elastic", "cord"])
def test_a_traced_round_rim_is_the_round_cap(layers: str, fastening: str) -> None:
    radius, reach = 140.0, 55.0
    ring = [(radius * math.cos(a), radius * math.sin(a)) for a in (2 * math.pi * k / 720 for k in range(720))]
    options = {"overhang": reach, "layers": layers, "fastening": fastening, "casing": 14.0, "casing_turn_under": 9.0}
    job, drafted = with_outline("cap-body", "cap", ring, **options)
    edge = job.cover.seam_allowance if layers == "reversible" else 14.0 + 9.0
    caps = {p.name: p for p in drafted.panels if "cap" in p.name}
    assert set(caps) == ({"cap", "inner cap"} if layers == "reversible" else {"cap"})
    for panel in caps.values():
        assert cut_size(panel) == pytest.approx((2 * (radius + reach + edge),) * 2, abs=0.1)
        assert area(panel.sew_points) == pytest.approx(math.pi * (radius + reach) ** 2, rel=1e-3)
    assert {t.seam.name for t in drafted.seams} == ({"bag the edge"} if layers == "reversible" else set())
    bought = {str(h.name): h.length.value for h in drafted.cover.hardware if h.length is not None}
    if fastening == "cord":
        assert bought == {"cord": pytest.approx(2 * math.pi * (radius + reach) + 300.0, abs=0.5)}
    else:
        known = replace(starter("cap-body", "cap"), readings=rim(radius), cover=replace(job.cover, options=options))
        round_cap = draft(known)
        assert bought == {"elastic": pytest.approx(round_cap.cover.sizes["elastic_cut"].value, abs=0.5)}


def rim(radius: float) -> tuple[Reading, ...]:
    return tuple(
        replace(r, repeats=(2 * math.pi * radius,)) if r.place == "rim" else r for r in starter("cap-body", "cap").readings
    )


@pytest.mark.parametrize("fastener", ["nothing", "grommets"])
@pytest.mark.parametrize("turned", [0, 13])
def test_a_traced_sheet_is_its_outline_with_a_hem_and_fasteners_around(fastener: str, turned: int) -> None:
    """An L: every side straight, six corners, the inner one too; wherever the pencil began."""
    corners = [(0.0, 0.0), (900.0, 0.0), (900.0, 300.0), (400.0, 300.0), (400.0, 700.0), (0.0, 700.0)]
    ring = []
    for (x, y), (a, b) in zip(corners, corners[1:] + corners[:1], strict=True):
        ring += [(x + (a - x) * k / 8, y + (b - y) * k / 8) for k in range(8)]
    ring = ring[turned:] + ring[:turned]
    job, drafted = with_outline("flat", "sheet", ring, fastener=fastener, spacing=250.0, patches=False)
    (panel,) = drafted.panels
    out = job.cover.hem.allowance
    assert len(panel.edges) == 6
    assert sorted(round(e.curve.length) for e in panel.edges) == [300, 400, 400, 500, 700, 900]
    assert all(e.finish == job.cover.hem for e in panel.edges)
    assert area(panel.sew_points) == pytest.approx(900 * 300 + 400 * 400, rel=1e-9)
    assert cut_size(panel) == pytest.approx((900 + 2 * out, 700 + 2 * out), abs=0.01)
    counts = {str(h.name): h.count for h in drafted.cover.hardware}
    assert counts == ({} if fastener == "nothing" else {"grommets": math.ceil(3200 / 250)})
