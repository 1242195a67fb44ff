"""Every finding: a job that provokes it, and its remedy, after which it is gone."""

import math
from dataclasses import replace
from typing import Any

import pytest
from tests.jobs import drum, job

from omnipel.core.covers import places
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Closure, ClosureKind, Job, Lining, LiningSchool, Override, with_reading
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.findings import CATALOGUE, Severity
from omnipel.core.job.finish import Finish, FinishKind, double_hem
from omnipel.core.job.joining import Parting, SeamChoice
from omnipel.core.job.layers import Padded
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import Outline, SticksOut, Thing, Treatment
from omnipel.core.remedies import advised
from omnipel.core.words import refs
from omnipel.core.words.phrases import Voice
from omnipel.shop.document import lawful
from omnipel.shop.starter import starter

BY_HAND = Override(size="wall_sew_length", value=1860.0, reason="an old wall is to be used")


def sticking_out(treatment: Treatment, from_top: float = 300.0) -> Job:
    """A drum with a tap that is treated so."""
    tap = SticksOut(name="tap", from_top=from_top, reach=60.0, size=50.0, treatment=treatment)
    return drum(thing={"sticks_out": (tap,)})


def with_feature(kind: str, host: Job | None = None, *, own: dict[str, Any] | None = None, **more: Any) -> Job:
    """A drum, or another job, that carries a feature on its front; `own` are its kind's own choices."""
    job = host or drum()
    return replace(job, cover=replace(job.cover, features=(Feature(kind=kind, name="it", options=own or {}, **more),)))


def rough(points: int, by: float) -> tuple[tuple[float, float], ...]:
    """A disc of 300 whose rim goes in and out."""
    turns = [math.tau * k / points for k in range(points)]
    return tuple(((300.0 + by * (k % 2)) * math.cos(a), (300.0 + by * (k % 2)) * math.sin(a)) for k, a in enumerate(turns))


LOW = [(5.0 * k, 40.0 * (1.0 - math.cos(math.tau * k / 30.0))) for k in range(121)]
CROSSING = Outline(  # a thin band in four waves, its upper side drawn with few points: smoothed, its lower side would cross these
    points=(*LOW, *((x, y + 12.0) for x, y in LOW[::-15])), smoothing=50.0
)

PROVOKED: dict[str, Job] = {
    "port-missing": sticking_out(Treatment.PORT),
    "nothing-to-cover": sticking_out(Treatment.BELOW, from_top=10.0),
    "covers-too-far": sticking_out(Treatment.BELOW, from_top=500.0),
    "sticks-out-unreckoned": replace(
        job("tub", "tapered-tub", {"girth_bottom": 1180.0, "girth_top": 1470.0, "height": 360.0}),
        thing=Thing(form="tub", sticks_out=(SticksOut(name="grip", from_top=40.0, reach=30.0, size=80.0),)),
    ),
    "port-across-seam": with_feature("port", from_top=20.0, width=60.0),
    "slit-reaches-nothing": with_feature("port", from_top=640.0, width=200.0, own={"slit": "down"}),
    "pocket-too-wide": with_feature("pocket", from_top=300.0, width=2500.0, height=100.0),
    "feature-off-panel": with_feature("snaps", face=Facing.BELOW),
    "slope-ignored": job("box", "wall-and-top", {"length": 400.0, "width": 260.0, "height": 340.0, "front_height": 250.0}),
    "padding-in-seam": drum(padding=6.0, padded=Padded(at_seam=True)),
    "not-on-fold": drum(on_fold=("sail",)),
    "layer-on-nothing": drum(padding=6.0, padded=Padded(on=("sleeve",))),
    "feature-unplaced": with_feature("snaps", face=Facing.UNSAID, was_on="wall"),
    "feature-unknown": with_feature("trumpet"),
    "feature-choice": with_feature("port", own={"colour": "red"}),
    "feature-in-gathers": with_feature("pocket", starter("drum", "gathered-halves"), from_top=20.0, width=40.0, height=20.0),
    "flap-without-slit": with_feature("port", from_top=300.0, own={"flap": "over the slit"}),
    "drain-not-lowest": with_feature("drain eyelet", from_top=300.0),
    "letters-missing": with_feature("letters", from_top=300.0, own={"text": "ぬの"}),
    "snap-in-stitch-line": with_feature("snaps", from_top=642.0),
    "handle-not-in-seam": with_feature("webbing handle", from_top=300.0, own={"caught": "the seam below"}),
    "lining-eased": drum(lining=Lining(school=LiningSchool.BAGGED), padding=20.0),
    "by-hand-unfit": drum(overrides=(Override(size="wall_sew_length", value=600.0, reason="typed"),)),
    "lining-narrow": drum(lining=Lining(school=LiningSchool.BAGGED, around=1500.0)),
    "turning-gap": drum(lining=Lining(school=LiningSchool.BAGGED, turning_gap=30.0)),
    "padding-too-small": drum(200.0, 200.0, padding=4.0, padding_inset=100.0, hem=double_hem(10.0, 5.0)),
    "reading-missing": replace(drum(), readings=()),
    "reading-misread": drum((1762.0, 1764.0, 1673.0, 1763.0)),
    "reading-implausible": drum(1763.0, 14.0),
    "outline-missing": job("traced", "traced-ends", {"width": 480.0}),
    "size-unknown": drum(overrides=(Override(size="brim", value=20.0, reason="from another scheme"),)),
    "readings-disagree": with_reading(drum(), Reading(place="across", repeats=(500.0,), instrument=Instrument.EYE)),
    "size-impossible": drum(options={"draw": -5.0}),
    "hem-too-deep": drum(drop=30.0, hem=double_hem(60.0, 15.0)),
    "hem-counted-twice": drum(drop=760.0, readings={"height": 720.0}),
    "will-not-go-on": drum(overrides=(Override(size="wall_sew_length", value=1700.0, reason="remnant"),)),
    "tight": drum(c=1.0),
    "flaps": drum(c=45.0),
    "chance-low": drum(c=0.3),
    "seam-not-true": drum(overrides=(BY_HAND,)),
    "cord-cannot-close": drum(options={"skirt": True, "draw": 300.0}),
    "gathers-too-much": job("cap-body", "cap", {"across": 120.0}, options={"overhang": 100.0}),
    "elastic-too-short": job("cap-body", "cap", {"across": 268.0}, options={"school": "from the rim", "tension": 600.0}),
    "elastic-does-not-hold": job("cap-body", "cap", {"across": 268.0, "below": 700.0}),
    "allowances-meet": job(
        "tub", "tapered-tub", {"girth_bottom": 500.0, "girth_top": 4000.0, "height": 100.0}, options={"panels": 1.0}
    ),
    "outline-simplified": job("traced", "traced-ends", {"width": 480.0}, thing={"outline": Outline(points=rough(2000, 0.3))}),
    "outline-smoothed-less": job("traced", "traced-ends", {"width": 480.0}, thing={"outline": CROSSING}),
    "dome-coarse": job("turned", "bands", {"girth.1": 2500.0, "rise": 380.0}, options={"dome_bands": 1.0}),
    "gore-excess": job("turned", "gores", {"girth.1": 2500.0, "rise": 380.0}, options={"gores": 6.0}),
    "corner-too-round": job(
        "box", "saddle-and-ends", {"length": 400.0, "width": 287.0, "height": 340.0}, options={"rounding": 143.0}
    ),
    "rounding-measured": job("box", "saddle-and-ends", {"length": 400.0, "width": 260.0, "height": 340.0, "path": 893.0}),
    "longer-than-cloth": drum(drop=1800.0, usable_width=1500.0),
    "cut-along-cloth": drum(usable_width=1500.0),
    "reading-again": with_reading(drum(), Reading(place="across", repeats=(560.0,), set_aside=True)),
    "drop-too-long": drum(drop=900.0, readings={"height": 720.0}),
    "sticks-out-beside": sticking_out(Treatment.COVER, from_top=-40.0),
    "features-overlap": drum(
        features=(
            Feature(kind="port", name="1", from_top=300.0, width=80.0),
            Feature(kind="pocket", name="2", from_top=320.0, width=200.0, height=150.0),
        )
    ),
    "cord-does-nothing": drum(edges={"lower edge": EdgeChoice(held_by=Hold.CORD, drawn_to=5000.0)}),
    "construction-unsuited": drum(seams={"wall to lid": SeamChoice(kind="piped", wide=150.0)}),
    "stretch-beyond-seam": drum(seams={"wall to lid": SeamChoice(open_from=10.0, open_to=9000.0)}),
    "parting-misses": drum(parted=(Parting(panel="wall", at=5000.0),)),
    "nothing-to-bag": drum(edges={"lower edge": EdgeChoice(finish=Finish(kind=FinishKind.BAGGED, width=12.0))}),
    "closure-too-long": drum(closure=Closure(kind=ClosureKind.ZIP)),
    "casing-too-narrow": drum(options={"skirt": True, "casing": 8.0, "cord": 9.0}),
    "hardly-meant": drum(a=120.0, a_close=12.0),
    "allowance-too-wide": drum(drop=60.0, a=40.0, a_close=12.0),
    "choice-unused": job("cap-body", "cap", {"across": 268.0}, closure=Closure(kind=ClosureKind.ZIP, length=50.0)),
}


def codes(job: Job) -> list[str]:
    return [finding.code for finding in draft(job).findings]


OF_SEWING = {"casing-without-cord", "gap-in-curve", "ring-too-small", "too-thick", "step-overtaken"}
"""Said of the order of work, not of the draft: tests/core/sewing provokes them."""
OF_SHOP = {"learnt"}
"""Said of what a shop has learnt: tests/core/learning provokes it."""


def test_every_code_is_provoked() -> None:
    assert (
        set(PROVOKED) == set(CATALOGUE) - {"our-fault", "promise-broken"} - OF_SEWING - OF_SHOP
    )  # the first two no job may provoke


def test_a_fault_of_ours_is_a_finding_and_stands_in_the_log(
    monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def broken(*_arguments: object) -> None:
        raise ZeroDivisionError("by nothing")

    monkeypatch.setattr("omnipel.core.draft.measure", broken)
    drafted = draft(drum())
    assert [finding.code for finding in drafted.findings] == ["our-fault"]
    assert "ZeroDivisionError: by nothing" in Voice().say(drafted.findings[0].text)
    assert drafted.stops
    assert "Traceback" in caplog.text
    caplog.clear()


@pytest.mark.parametrize("code", PROVOKED)
def test_provoked_and_remedied(code: str) -> None:
    job = PROVOKED[code]
    found = [finding for finding in draft(job).findings if finding.code == code]
    assert found, codes(job)
    assert found[0].severity is CATALOGUE[code].severity
    assert str(found[0].text).endswith((".", "?"))
    if code in ("reading-missing", "outline-missing", "reading-again", "cut-along-cloth") or code.startswith("outline-s"):
        assert code not in codes(drum(usable_width=5000.0))
        return
    sound = next(finding for finding in advised(draft(job), lawful).findings if finding.code == code)
    assert sound.remedies, str(found[0].text)
    for remedy in sound.remedies:
        assert remedy.words
        assert code not in codes(changed(job, *remedy.changes)), str(remedy.words)


@pytest.mark.parametrize("drop", [0.5, 1e-6])
def test_impossible_sizes_are_findings_not_errors(drop: float) -> None:
    tiny = drum(1.0, drop, c=0.0, t=0.0)
    assert "size-impossible" in codes(tiny) or "hem-too-deep" in codes(tiny)


def test_a_size_set_by_hand_is_shown_with_its_reason_and_can_be_dropped() -> None:
    drafted = draft(PROVOKED["seam-not-true"])
    wall = drafted.cover.sizes["wall_cut_length"]
    assert "an old wall is to be used" in str(wall.terms[0].name)
    assert wall.value == pytest.approx(1884.0)
    finding = next(f for f in drafted.findings if f.code == "seam-not-true")
    assert "too long" in str(finding.text)


def test_a_scheme_that_does_not_keep_its_promises_is_told_as_a_mistake_of_ours(monkeypatch: pytest.MonkeyPatch) -> None:
    honest = places.lid
    monkeypatch.setattr(places, "lid", lambda height: honest(height - 3.0))
    drafted = draft(drum())
    assert isinstance(drafted, Drafted)
    assert max(drafted.sewn.apart) == pytest.approx(3.0)
    told = [finding for finding in drafted.findings if finding.code == "promise-broken"]
    assert [finding.where for finding in told] == [refs.seam("wall to lid"), refs.panel("lid")]
    assert all(finding.severity is Severity.STOP and "do not cut" in str(finding.text) for finding in told)
