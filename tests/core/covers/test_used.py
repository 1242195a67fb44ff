"""Nothing inert: what is offered changes the cover when it is changed, and what is not offered changes nothing."""

from dataclasses import replace
from typing import Any

import pytest
from tests.attack.chains import shown
from tests.wild import EFFORT, some

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.covers.scheme import Lying
from omnipel.core.covers.used import options_used, uses
from omnipel.core.draft import Drafted, draft
from omnipel.core.finishing.asked import asked_of, options_asked, values_of
from omnipel.core.finishing.elsewhere import begun
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import (
    Clearance,
    ClearanceSchool,
    ClipSchool,
    Closure,
    ClosureKind,
    Job,
    LiningSchool,
    Override,
    RingSchool,
)
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.feature import Choice, Facing
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import FinishKind
from omnipel.core.remedies import advised
from omnipel.core.words import refs
from omnipel.core.words.refs import Ref
from omnipel.shop.document import lawful
from omnipel.shop.starter import starter

OTHERS: dict[Ref, Any] = {
    refs.CLEARANCE: 3.0,
    refs.SEAM_ALLOWANCE: 19.0,
    refs.CLOSING_ALLOWANCE: 21.0,
    refs.JOIN: "bound",
    refs.HEM_KIND: FinishKind.SINGLE_HEM,
    refs.HEM_WIDTH: 33.0,
    refs.TURN_UNDER: 9.0,
    refs.RING: RingSchool.MEET_AND_TRIM,
    refs.HEM_ORDER: HemOrder.HEM_FIRST,
    refs.CLIPS: ClipSchool.DISC,
    refs.CLOTH_THICKNESS: 2.0,
    refs.CLOTH_WIDTH: 999.0,
    refs.PADDING: 5.0,
    refs.PADDING_INSET: 33.0,
    refs.QUILTING_ALONG: 0.04,
    refs.QUILTING_ACROSS: 0.04,
    refs.SHRINK_WARP: 0.04,
    refs.SHRINK_WEFT: 0.04,
    refs.PREWASHED: True,
    refs.LINING_SCHOOL: LiningSchool.BAGGED,
    refs.LINING_ALLOWANCE: 17.0,
    refs.TURNING_GAP: 90.0,
    refs.LINING_WIDTH: 901.0,
    refs.LINING_PIECED: True,
    refs.LINING_AROUND: 9000.0,
    refs.CLOSURE_KIND: ClosureKind.ZIP,
    refs.CLOSURE_LENGTH: 150.0,
}
"""Another value for each choice about a cover."""


def dressed(form: str, scheme: str) -> Job:
    """A job in which lining, padding and closure are chosen, where its scheme has a use for them."""
    job = starter(form, scheme)
    cover = replace(
        job.cover,
        lining=replace(job.cover.lining, school=LiningSchool.BAGGED),
        padding=job.cover.padding or 4.0,
        closure=Closure(kind=ClosureKind.LACING),
    )
    return replace(job, cover=cover)


def otherwise(form: str, scheme: str) -> Job:
    """A job in which every pick of its scheme is the last one."""
    job = starter(form, scheme)
    for option in SCHEMES[scheme].options:
        if option.kind is OptionKind.PICK:
            job = changed(job, Change(refs.option(option.key), option.picks[-1]))
    return job


def small(job: Job) -> Job:
    """The same thing so small that its round seams want relief clips."""
    return replace(job, readings=tuple(replace(r, repeats=(r.repeats[0] * 0.4,)) for r in job.readings))


def other_values(option: Option, job: Job) -> list[Any]:
    """Lawful values of an option besides the one that it has."""
    now = job.cover.options.get(option.key, option.usual(job.cover.scheme, job.cover.habits))
    match option.kind:
        case OptionKind.YES:
            return [not now]
        case OptionKind.PICK:
            return [pick for pick in option.picks if pick != now]
        case OptionKind.COUNT:
            return [float(now) + 5.0 if float(now) + 5.0 <= option.high else float(now) - 1.0]
        case _:
            more = float(now) * 1.2 or 25.0
            return [more if more <= option.high else float(now) * 0.8]


WITH: dict[str, list[dict[str, Any]]] = {
    "wall-and-lid": [{}, {"skirt": True}],
    "cap": [{}, {"school": "from the rim"}, {"school": "from loose"}, {"fastening": "cord"}, {"layers": "reversible"}],
    "wheel-cap": [{}, {"depth": 160.0}],
    "sheet": [{}, {"fastener": "ties"}, {"fastener": "nothing"}],
}
"""Choices of a scheme under which its others are tried."""


def wrongly(job: Job) -> list[tuple[Ref, Any]]:
    """What is offered and changes nothing, or is not offered and changes something, as the other choices stand."""
    drafted = draft(job)
    before, scheme = shown(drafted), SCHEMES[job.cover.scheme]
    found = []
    for ref, other in OTHERS.items():
        value = 0.0 if ref == refs.PADDING and job.cover.padding else LiningSchool.AS_ONE if meant(job, ref) == other else other
        changes = shown(draft(changed(job, Change(ref, value)))) != before
        if changes is not uses(scheme, ref, job.cover, drafted.cover):  # type: ignore[union-attr]
            found.append((ref, value))
    offered = options_used(scheme, job.cover, drafted.body, drafted.cover)  # type: ignore[union-attr]
    for option in scheme.options:
        ref = refs.option(option.key)
        changes_it = [(value, shown(draft(changed(job, Change(ref, value)))) != before) for value in other_values(option, job)]
        found += [(ref, value) for value, changes in changes_it if changes is not (option in offered)]
    return found


@pytest.mark.parametrize(("form", "scheme", "made"), some(lawful_pairs(), (starter, dressed, otherwise), of=4))
def test_a_choice_is_offered_if_it_changes_anything(form: str, scheme: str, made: Any) -> None:
    assert wrongly(small(made(form, scheme))) == []


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
@pytest.mark.parametrize("made", [starter, dressed, otherwise], ids=["plain", "dressed", "otherwise"])
def test_how_far_cloth_gathers_is_asked_where_anything_follows_from_it(form: str, scheme: str, made: Any) -> None:
    for chosen in WITH.get(scheme, [{}]):
        job = made(form, scheme)
        job = replace(job, cover=replace(job.cover, options={**job.cover.options, **chosen}))
        little, much = (draft(changed(job, Change(refs.GATHER_LIMIT, limit))) for limit in (1.0, 6.0))
        follows = [(shown(drafted)[4:], {f.code for f in drafted.findings}) for drafted in (little, much)]
        assert (follows[0] != follows[1]) is uses(SCHEMES[scheme], refs.GATHER_LIMIT, job.cover, little.cover)  # type: ignore[union-attr]


@pytest.mark.parametrize(("form", "scheme"), some(lawful_pairs(), of=2))
def test_an_option_is_offered_if_it_changes_anything(form: str, scheme: str) -> None:
    job = starter(form, scheme)
    for chosen in WITH.get(scheme, [{}]):
        assert wrongly(replace(job, cover=replace(job.cover, options=chosen))) == [], chosen


@pytest.mark.parametrize(("form", "scheme"), some(lawful_pairs(), of=3))
def test_what_a_size_set_by_hand_stands_in_for_is_not_offered(form: str, scheme: str) -> None:
    for chosen in WITH.get(scheme, [{}]):
        job = starter(form, scheme)
        job = replace(job, cover=replace(job.cover, options=chosen))
        sizes = draft(job).cover  # type: ignore[union-attr]
        one_by_one = form == next(
            first for first, other in lawful_pairs() if other == scheme
        )  # which size stands in for what is its scheme's
        few = sizes.by_hand if EFFORT >= 1.0 else sizes.by_hand[::8]
        for names in (*((name,) for name in few if one_by_one), sizes.by_hand):
            by_hand = tuple(Override(size=name, value=sizes.sizes[name].value * 1.01, reason="a remnant") for name in names)
            assert wrongly(changed(job, Change(refs.by_hand(), by_hand))) == [], (chosen, names)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_size_that_can_be_set_by_hand_is_cut(form: str, scheme: str) -> None:
    drafted = draft(starter(form, scheme))
    before = shown(drafted)
    assert len(set(drafted.cover.by_hand)) == len(drafted.cover.by_hand) > 0  # type: ignore[union-attr]
    for name in drafted.cover.by_hand:  # type: ignore[union-attr]
        made = Override(size=name, value=drafted.cover.sizes[name].value * 1.01, reason="a remnant")  # type: ignore[union-attr]
        after = shown(draft(changed(drafted.job, Change(refs.by_hand(), made, Act.ADD))))
        # Panels (1) or what is bought (4) change, not only the number itself.
        assert (after[1] != before[1]) or (after[4] != before[4]), name


def test_every_reference_to_a_choice_leads_somewhere() -> None:
    job = starter("drum", "wall-and-lid")
    known = [ref for ref in vars(refs).values() if isinstance(ref, Ref) and ref.of is refs.Of.CHOICE]
    assert {*FIELDS, *(ref for scheme in SCHEMES.values() for ref in scheme.without)} <= {
        *known,
        refs.edge(""),
        refs.seam("", "kind"),
        refs.parting(),
    }
    for ref in known:
        meant(job, ref)


def test_nothing_is_said_about_a_choice_whose_size_is_set_by_hand() -> None:
    far = changed(starter("slab", "slip-sleeve"), Change(refs.option("tuck"), 500.0))
    by_hand = changed(far, Change(refs.by_hand(), Override(size="finished_length", value=700.0, reason="a remnant"), Act.ADD))
    said = [{(f.code, f.where) for f in draft(job).findings} for job in (far, by_hand)]
    assert [("hardly-meant", refs.option("tuck")) in found for found in said] == [True, False]
    assert refs.option("tuck") not in {where for _, where in said[1]}


def test_what_is_said_about_a_choice_leads_to_the_size_set_by_hand_instead() -> None:
    short = changed(
        starter("cap-body", "cap"), Change(refs.by_hand(), Override(size="elastic_cut", value=300.0, reason="left over"), Act.ADD)
    )
    (found,) = (f for f in advised(draft(short), lawful).findings if f.code == "elastic-too-short")
    assert found.where == refs.by_hand("elastic_cut")
    assert [change for remedy in found.remedies for change in remedy.changes] == [Change(found.where, act=Act.REMOVE)]
    bare = changed(
        starter("box", "drape"), Change(refs.by_hand(), Override(size="finished_length", value=10.0, reason="left over"), Act.ADD)
    )
    assert [(f.code, f.where) for f in draft(bare).findings] == [("size-impossible", refs.by_hand("finished_length"))]


def seen(job: Job) -> tuple[object, ...]:
    """What is seen of the panels and of what is bought."""
    drafted = draft(job)
    all_of_it = shown(drafted)
    return (all_of_it[1], *all_of_it[3:], *(str(f.text) for f in drafted.findings if f.code == "letters-missing"))


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_ease_by_direction_is_offered_where_it_changes_anything(form: str, scheme: str) -> None:
    """And with all directions alike the cover is the one with that gap on every side."""
    by_side = starter(form, scheme)
    gap = by_side.cover.clearance.amount
    alike = Clearance(school=ClearanceSchool.DIMENSION, amount=gap * 2.0, drop=gap)
    job = changed(by_side, Change(refs.ANY_CLEARANCE, alike))
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    assert {n: s.value for n, s in drafted.cover.sizes.items()} == pytest.approx(
        {n: s.value for n, s in draft(by_side).cover.sizes.items()}  # type: ignore[union-attr]
    )
    for ref, ease in ((refs.EASE_ALONG, gap * 2.0 + 14.0), (refs.EASE_DROP, gap + 9.0)):
        after = draft(changed(job, Change(ref, ease)))
        assert isinstance(after, Drafted)
        assert "promise-broken" not in [f.code for f in after.findings]
        offered = uses(SCHEMES[scheme], ref, job.cover, drafted.cover)
        assert (seen(after.job) != seen(job)) is offered, ref
        more = [after.cover.sizes[n].value - size.value for n, size in drafted.cover.sizes.items()]
        wanted = 14.0 if ref == refs.EASE_ALONG else 9.0
        assert not offered or any(abs(size - wanted) < 1e-6 for size in more), more


@pytest.mark.parametrize(
    ("form", "scheme", "kind"), some([("box", "wall-and-top"), ("drum", "wall-and-lid"), ("slab", "envelope")], sorted(KINDS))
)
def test_what_is_put_on_a_cover_asks_only_what_changes_it(form: str, scheme: str, kind: str) -> None:
    """Every length and every own choice of a kind, as the others stand, with each pick of the others."""
    job = starter(form, scheme)
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    face = Facing.TOP if form == "slab" else Facing.FRONT
    plain = begun(KINDS[kind], "it", face, drafted.cover, job.cover)
    lengths = {"from_centre": 7.0, "from_top": plain.from_top + 9.0, "width": plain.width * 0.8, "height": plain.height * 0.7}
    for feature in (plain, *(replace(plain, options={o.key: v}) for o in KINDS[kind].options for v in another(o))):
        given = changed(job, Change(refs.feature(), feature, Act.ADD))
        before, where = seen(given), refs.feature(given.cover.features[-1].id)
        idle = lying_of(given).idle
        asked = asked_of(feature, job.cover, idle)
        for name, value in lengths.items():
            assert (seen(changed(given, Change(where.at(name), value))) != before) is (name in asked), (name, feature.options)
        offered = {option.key for option in options_asked(feature, job.cover, idle)}
        values = values_of(KINDS[kind], feature, job.cover)
        for option in KINDS[kind].options:
            ways = [v for v in another(option) if v != values[option.key]] + [option.usual(kind, job.cover.habits)]
            changes = any(seen(changed(given, Change(where.at(f"options.{option.key}"), v))) != before for v in ways)
            assert changes is (option.key in offered), (option.key, feature.options)


def lying_of(job: Job) -> Lying:
    """Where the last thing put on a cover lies."""
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    return drafted.cover.lying.get(job.cover.features[-1].id, Lying("", (0.0, 0.0), (0.0, 0.0, 0.0)))


def another(option: Option) -> list[Choice]:
    """Other values of a choice than the usual one."""
    match option.kind:
        case OptionKind.PICK:
            return list(option.picks[1:])
        case OptionKind.YES:
            return [not option.default]
        case OptionKind.TEXT | OptionKind.DRAWING:
            return {"text": ["Q"], "typeface": ["none such"], "drawing": ["M 0 0 L 30 0 L 0 20 z"]}[option.key]
        case OptionKind.COUNT:
            return [float(option.default) + 1.0]
        case _:
            return [option.low + 29.0 if option.kind is OptionKind.LENGTH else 1.3]
