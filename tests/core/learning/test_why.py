"""Why a cover came out as it did, held against causes that were put in."""

from dataclasses import replace

import numpy as np
import pytest
from tests.core.learning.people import Shop, thing

from omnipel.core.draft import Drafted, draft
from omnipel.core.fit.going_on import Fit
from omnipel.core.job.trying import Deed, Stage, TryOn, Went
from omnipel.core.learning.errors import CLOTH, HEM, SEAM, of_reading
from omnipel.core.learning.estimates import Experience
from omnipel.core.learning.evidence import lesson
from omnipel.core.learning.righting import righting
from omnipel.core.learning.sizes import MOST, sizes, slack_sum
from omnipel.core.learning.why import chance, why
from omnipel.core.sewing.making import Making
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter

DRUM = ("drum", "wall-and-lid")
SHOPS = 200


def making(*tries: TryOn, pair: tuple[str, str] = DRUM) -> Making:
    drafted = draft(replace(starter(*pair), tries=tries))
    assert isinstance(drafted, Drafted)
    return Making(drafted)


def cause(rng: np.random.Generator, true: dict[str, float]) -> dict[str, float]:
    """Something that went wrong, far more than usual."""
    sign = 1.0 if rng.random() < 0.5 else -1.0
    place = [key for key in true if key not in ("height", "drop")][int(rng.integers(len(true) - (2 if "drop" in true else 1)))]
    return [
        {SEAM: sign * float(rng.uniform(2.5, 5.0))},
        dict.fromkeys(CLOTH, float(rng.uniform(0.01, 0.02))),
        {of_reading(place): sign * float(rng.uniform(0.01, 0.02)) * true[place]},
    ][int(rng.integers(3))]


def test_the_right_cause_comes_first_where_it_explains_twice_as_much_as_the_next() -> None:
    right, asked = 0, 0
    for seed in range(SHOPS):
        shop = Shop(seed, faults={SEAM: 0.0, HEM: 0.0})
        base, true = thing(shop.rng)
        sewn = shop.sewn(shop.measured(true, base, Experience()), true, cause(shop.rng, true), again=True)
        found = why(sewn.making, sewn.making.drafted.job.tries)
        if not found.causes:
            continue
        known = {size.key: size for size, _ in found.sizes}
        fit = sewn.making.drafted.fit
        assert isinstance(fit, Fit)
        sum_ = known[found.key].sum if found.key else slack_sum(fit.tightest, sewn.making)
        brought: dict[str, float] = {}
        for key, slope in sum_.items():
            group = "cloth" if key in CLOTH else key
            brought[group] = brought.get(group, 0.0) + slope * sewn.errors.get(key, 0.0)
        first, *others = sorted(brought, key=lambda key: -abs(brought[key]))
        if abs(brought[first]) >= 2.0 * max((abs(brought[key]) for key in others), default=0.0) and abs(brought[first]) > 3.0:
            asked += 1
            right += found.causes[0].key == first
    print(right, asked)
    assert asked >= SHOPS // 2
    assert right >= 0.8 * asked


@pytest.mark.parametrize("pair", [DRUM, ("box", "saddle-and-ends"), ("tub", "tapered-tub")])
def test_one_girth_alone_is_told_by_the_classic_rule(pair: tuple[str, str]) -> None:
    """Short by k over n seams: each seam was taken k/2n too deep."""
    asked = next(size for size in sizes(making(pair=pair), Stage.FINISHED) if size.key.startswith("edge:"))
    tried = TryOn(made={asked.key: asked.planned.value - 14.0})
    found = why(making(tried, pair=pair), (tried,))
    assert found.classic
    assert found.by == pytest.approx(-14.0)
    assert [c.key for c in found.causes] == [SEAM]
    assert found.causes[0].alone == pytest.approx(14.0 / (2 * asked.seams))
    said = Voice(Unit.INCH_16).sentence(found.told)
    assert "9/16" in said, said
    assert "mm" not in said


def test_how_it_went_on_tells_of_the_tape_where_the_cover_is_as_planned() -> None:
    girth = next(size for size in sizes(making(), Stage.FINISHED) if size.key == "edge:lower edge")
    tried = TryOn(made={girth.key: girth.planned.value}, went=Went.NOT)
    found = why(making(tried), (tried,))
    assert found.causes[0].key == "reading:girth"
    assert found.causes[0].alone < 0.0
    assert found.causes[0].share > 0.8
    said = str(found.told)
    assert said.startswith("room around it")
    assert "the girth was read" in said
    assert "short" in said
    held = chance(found.posterior, making(tried))
    assert held is not None
    assert held < 0.5
    right = TryOn(made={girth.key: girth.planned.value}, went=Went.RIGHT)
    fine = why(making(right), (right,))
    assert not fine.causes
    assert "as planned" in str(fine.told)


def test_what_tells_most_is_asked_first_and_nothing_twice() -> None:
    for pair in (DRUM, ("box", "saddle-and-ends"), ("turned", "gores"), ("wheel", "wheel-both-faces"), ("cap-body", "cap")):
        for stage in Stage:
            asked = sizes(making(pair=pair), stage)
            assert 0 < len(asked) <= MOST
            assert len({size.key for size in asked}) == len(asked)
            tells = [round(size.tells, 3) for size in asked]
            assert tells[0] == max(tells), (pair, stage, tells)
            assert all(size.sigma > 0.0 and size.planned.value > 0.0 for size in asked)


def test_later_sizes_count_before_earlier_ones_and_each_moves_the_chance() -> None:
    key = "edge:lower edge"
    planned = next(size for size in sizes(making(), Stage.FINISHED) if size.key == key).planned.value
    first, then = TryOn(made={key: planned - 90.0}), TryOn(stage=Stage.FINISHED, made={key: planned})
    tight = chance(why(making(first), (first,)).posterior, making(first))
    put_right = chance(why(making(first, then), (first, then)).posterior, making(first, then))
    assert tight is not None
    assert put_right is not None
    assert put_right > tight + 0.1


def test_what_no_sewing_brings_about_is_measured_again_and_nothing_is_concluded_from_it() -> None:
    plain = making()
    asked = {size.key: size for size in sizes(plain, Stage.FIRST)}
    edge, lid, girth = asked["edge:lower edge"], asked["panel:lid/across"], asked["again:girth"]
    usual = TryOn(id="a", went=Went.NOT, made={edge.key: edge.planned.value - 9.0})
    alone = lesson(making(usual))
    for size, made, words in (
        (lid, lid.planned.value * 3.0, "measure it again"),
        (edge, 12.0, "measure it again"),
        (girth, girth.planned.value * 0.35, "read it again"),
    ):
        assert size.beyond(made)
        assert not size.beyond(size.planned.value + 4.0)
        typed = making(replace(usual, made={**usual.made, size.key: made}))
        found = why(typed, typed.drafted.job.tries)
        assert words in Voice(Unit.MM).say(found.told)
        if size is not edge:
            assert lesson(typed) == alone
        # What does not go on is never taken in, whatever was typed.
        deeds = {option.what.deed for option in righting(typed, found).options}
        assert not deeds & {Deed.TAKE_IN, Deed.DART}
