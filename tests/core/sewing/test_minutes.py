"""Minutes: sums that add up, ranges, what is learnt of a person."""

import math
import random
import re
from statistics import fmean

import pytest
from tests.core.sewing.jobs import COVERS

from omnipel.core.draft import Drafted, draft
from omnipel.core.finishing.operation import DEEDS, Pace
from omnipel.core.sewing.howto import how
from omnipel.core.sewing.paces import ONCE, PRIOR, RATES, Factor, Person, Timed, learnt, spanned
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.words.phrases import Minutes, PerCovered, PerRun, Stitches, Voice
from omnipel.core.words.units import Unit


def plan(cover: str, person: Person | None = None, copies: int = 1) -> Plan:
    made = draft(COVERS[cover]())
    assert isinstance(made, Drafted)
    return planned(made, person, copies)


def shown(words: str) -> float:
    """Minutes as they are written."""
    hours, minutes = re.search(r"(\d+) h", words), re.search(r"([\d.]+) min", words)
    return 60.0 * float(hours[1] if hours else 0) + float(minutes[1] if minutes else 0)


@pytest.mark.parametrize("cover", COVERS)
def test_every_sum_of_minutes_adds_up_as_it_is_shown(cover: str) -> None:
    for step in plan(cover).steps:
        words = Voice().say(step.work.told())
        if " = " not in words:
            assert step.work.minutes < 0.25, words
            continue
        total, parts = words.split(" = ")
        terms = re.split(r" \+ ", parts)
        assert shown(total) == pytest.approx(sum(shown(term.split("(")[0]) for term in terms)), words
        assert abs(shown(total) - step.work.minutes) <= 0.5


def test_minutes_are_what_length_pace_pieces_and_pins_make() -> None:
    steps = plan("saddle and ends").by_key
    sew, pin = steps["seam:saddle to right end/sew"], steps["seam:saddle to right end/pin"]
    long = next(check.length for check in sew.operation.checks if check.length)
    assert long == pytest.approx(1602.0)
    assert sew.paced == pytest.approx(long / 1000.0 * RATES[Pace.STRAIGHT].minutes + 2 * 0.5 + 2 * 0.75)
    assert pin.paced == pytest.approx(round(long / 60.0) * 0.25)
    slow = plan("saddle and ends", Person(rates={Pace.STRAIGHT: 3.0})).by_key["seam:saddle to right end/sew"]
    assert slow.paced - sew.paced == pytest.approx(2.0 * long / 1000.0)


def test_changing_over_is_told_where_it_happens_only() -> None:
    steps = plan("padded case").steps
    changes = [step for step in steps if step.work.minutes > step.paced + 1e-9]
    assert all(step.changeover for step in changes)
    feet = [step.rig.foot for step in steps if step.rig.foot]
    changed = sum(a != b for a, b in zip(feet, feet[1:], strict=False))
    told = sum("changing the foot" in Voice().say(part.words) for step in steps for part in step.work.parts)
    assert told == changed > 0


def test_a_time_is_written_as_one_says_it() -> None:
    say = Voice().say
    assert [say(Minutes(m)) for m in (0.0, 0.1, 2.3, 59.6, 60.0, 72.0)] == [
        "0 min",
        "0.5 min",
        "2.5 min",
        "1 h",
        "1 h",
        "1 h 12 min",
    ]
    assert (say(PerRun(1.0)), Voice(Unit.INCH_16).say(PerRun(1.0))) == ("1 min a metre", "0.91 min a yard")
    covered = [voice.say(PerCovered(10.0)) for voice in (Voice(), Voice(Unit.INCH_16))]
    assert covered == ["10.00 per square metre covered", "0.93 per square foot covered"]  # 10 × 0.3048²
    stitched = {unit: Voice(unit).say(Stitches(2.5)) for unit in Unit}
    assert {words for unit, words in stitched.items() if unit.denominator} == {"10 to the inch"}
    assert {words for unit, words in stitched.items() if not unit.denominator} == {"2.5 mm"}  # machines know no centimetres


def test_a_factor_is_the_running_mean_of_a_normal() -> None:
    took = [12.0, 9.0, 15.0, 11.0]
    factor = Factor()
    for minutes in took:
        factor = factor.after(10.0, minutes)
    known, seen = 1.0 / PRIOR**2, len(took) / ONCE**2
    mean = seen * fmean(math.log(minutes / 10.0) for minutes in took) / (known + seen)
    assert (factor.n, factor.mean, factor.spread) == (4, pytest.approx(mean), pytest.approx((known + seen) ** -0.5))
    assert factor.after(10.0, 0.0) == factor  # ticked, not timed
    assert factor.after(0.0, 5.0) == factor


def test_after_three_covers_the_plan_is_mostly_the_persons_own() -> None:
    base = [(step.operation.deed, step.paced) for step in plan("saddle and ends").steps]
    lot, near, within, before = random.Random(3), 0, 0, 0
    for _ in range(200):
        own = {deed: math.exp(lot.gauss(0.0, PRIOR)) for deed in DEEDS}
        all_round = math.exp(lot.gauss(0.0, 0.2))

        def cover(own: dict[str, float] = own, all_round: float = all_round) -> list[Timed]:
            return [
                Timed(deed, minutes, minutes * own[deed] * all_round * math.exp(lot.gauss(0.0, ONCE))) for deed, minutes in base
            ]

        person = learnt([step for _ in range(3) for step in cover()])
        took = sum(step.took for step in cover())
        likely, low, high = spanned(base, person)
        near += abs(likely / took - 1.0) <= 0.15
        within += low <= took <= high
        before += abs(spanned(base, Person())[0] / took - 1.0) <= 0.15
    assert near >= 160
    assert 140 <= within <= 190  # eight of ten
    assert before < near


def test_a_range_grows_with_what_is_not_known() -> None:
    parts = [("sew", 10.0), ("sew", 10.0), ("pin", 5.0)]
    known = learnt([Timed("sew", 10.0, 10.0)] * 20 + [Timed("pin", 5.0, 5.0)] * 20)
    new, old = spanned(parts, Person()), spanned(parts, known)
    assert new[0] == pytest.approx(25.0)
    assert new[2] - new[1] > old[2] - old[1] > 0.0
    assert spanned([], Person()) == (0.0, 0.0, 0.0)


def test_every_kind_of_step_says_how_it_is_done_in_three_to_six_sentences() -> None:
    for deed in DEEDS:
        told = [Voice().say(sentence) for sentence in how(deed)]
        assert 3 <= len(told) <= 6, deed
        assert all(sentence.endswith((".", ":")) and len(sentence) < 170 for sentence in told), deed
