"""Monotone badness: scaled until it is absurd, a decision is said, and what is once said is never unsaid."""

from collections.abc import Callable
from typing import Any

import pytest
from tests.wild import some

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.options import OptionKind
from omnipel.core.covers.used import options_used, uses
from omnipel.core.draft import draft
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import ClosureKind, Job
from omnipel.core.job.edges import Hold
from omnipel.core.job.findings import Change, Severity
from omnipel.core.job.finish import double_hem
from omnipel.core.words import refs
from omnipel.core.words.refs import Ref
from omnipel.shop.starter import starter

STEPS = 9
BOUNDS = {
    refs.HEM_WIDTH: 500.0,
    refs.TURN_UNDER: 500.0,
    refs.SEAM_ALLOWANCE: 500.0,
    refs.CLOSING_ALLOWANCE: 500.0,
    refs.CLOTH_THICKNESS: 1000.0,
    refs.PADDING: 1000.0,
    refs.PADDING_INSET: 1000.0,
    refs.CLEARANCE: 1000.0,
    refs.SHRINK_WARP: 0.5,
    refs.SHRINK_WEFT: 0.5,
    refs.QUILTING_ALONG: 0.5,
    refs.QUILTING_ACROSS: 0.5,
}
"""What a job file may hold at the most."""

SENSIBLE = {
    "bow": "a long ribbon is only long",
    "tails": "a long tail is only long",
    "tie": "a long tie is only long",
    "overlap": "a hand's breadth of elastic, or of strip, sewn twice",
    "casing_turn_under": "an inch or two",
    "casing": "a wide casing, as long as its panel has room for it",
    "cord": "a rope of 20 to 30, as long as its casing is wide enough",
    "entry_gap": "a hand goes through",
    "share": "elastic holds at 40 % and stretches over at 1.7",
    "skirt_share": "as long as the wall",
    "spacing": "only the corners are held",
    "take_up": "loose quilting takes up so much",
    "zip_allowance": "wide zips are made",
    "zip_height": "just under the top",
    "turning_gap": "bounded by what closes neatly",
    "gores": "narrow petals, as long as they are wider than their allowances",
    "panels": "as gores",
    "dome_bands": "as gores",
    "heading": "as long as half of the cosy is left",
    "ribbon": "as long as a quarter of the cosy is left",
    "rounding": "a large thing may be as round as that",
    "flap": "a large wheel may have as wide a flap",
}
"""Choices whose upper bound is itself no absurdity on some things."""


def said(job: Job) -> bool:
    return any(f.severity in (Severity.STOP, Severity.LOOK) for f in draft(job).findings)


def climbed(job: Job, put: Callable[[Job, float], Job], low: float, high: float, *, whole: bool = False) -> list[bool]:
    """Whether anything is said while a decision climbs from what is usual to its bound."""
    values = [low * (high / low) ** (k / (STEPS - 1)) for k in range(STEPS)]
    return [said(put(job, float(round(v)) if whole else v)) for v in values]


@pytest.mark.parametrize(("form", "scheme", "ref"), some(lawful_pairs(), BOUNDS), ids=str)
def test_no_absurd_choice_is_silent(form: str, scheme: str, ref: Ref) -> None:
    job = starter(form, scheme)
    if ref in (refs.PADDING_INSET, refs.QUILTING_ALONG, refs.QUILTING_ACROSS) and refs.PADDING not in SCHEMES[scheme].without:
        job = changed(job, Change(refs.PADDING, 6.0))
    if not uses(SCHEMES[scheme], ref, job.cover, draft(job).cover):
        return
    low = float(meant(job, ref)) or (0.01 if BOUNDS[ref] < 1.0 else 1.0)
    seen = climbed(job, lambda j, v: changed(j, Change(ref, v)), low, BOUNDS[ref])
    assert seen == sorted(seen)
    assert seen[-1]


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_no_absurd_choice_of_a_scheme_is_silent(form: str, scheme: str) -> None:
    base = starter(form, scheme)
    for option in SCHEMES[scheme].options:
        if option.kind in (OptionKind.YES, OptionKind.PICK):
            continue
        job = base
        for key, values in option.only:
            job = changed(job, Change(refs.option(key), values[0]))
        if option not in options_used(SCHEMES[scheme], job.cover, draft(job).body):
            continue
        usual: Any = option.usual(scheme, job.cover.habits)
        whole = option.kind is OptionKind.COUNT
        low = max(float(usual), option.low, 4.0 if whole else 0.01)
        if option.key in ("draw", "drawn"):
            loose = {"draw": "skirt_sew_length", "drawn": "half_ungathered"}[option.key]
            low = draft(job).cover.sizes[loose].value / job.cover.cloth.gather_limit  # type: ignore[union-attr]
            low *= 2.0 if option.key == "drawn" else 1.0
        seen = climbed(job, lambda j, v, o=option: changed(j, Change(refs.option(o.key), v)), low, option.high, whole=whole)  # type: ignore[misc]
        if not usual and not whole:  # 0 means something of its own: what is far too little may be said, too
            seen = seen[seen.index(False) :]
        assert seen == sorted(seen), (option.key, seen)
        assert seen[-1] or option.key in SENSIBLE, option.key


@pytest.mark.parametrize(
    ("form", "scheme", "kind"),
    some(
        [pair for pair in lawful_pairs() if refs.CLOSURE not in SCHEMES[pair[1]].without],
        [kind for kind in ClosureKind if kind is not ClosureKind.NONE],
    ),
)
def test_no_absurd_closure_is_silent(form: str, scheme: str, kind: ClosureKind) -> None:
    job = changed(starter(form, scheme), Change(refs.choice("closure.kind"), kind), Change(refs.choice("hem.width"), 35.0))

    def put(job: Job, length: float) -> Job:
        return changed(job, Change(refs.choice("closure.length"), length))

    assert all(said(put(job, length)) for length in (100_000.0, 1.0, 0.0))
    _sensible_between(job, put)


@pytest.mark.parametrize(
    ("form", "scheme", "hold"), some([pair for pair in lawful_pairs() if SCHEMES[pair[1]].edges], [Hold.CORD, Hold.ELASTIC])
)
def test_no_absurd_cord_is_silent(form: str, scheme: str, hold: Hold) -> None:
    name = SCHEMES[scheme].edges[0]
    casing = Change(refs.edge(name, "finish"), double_hem(35.0, 10.0))
    job = changed(starter(form, scheme), Change(refs.edge(name, "held_by"), hold), casing)

    def put(job: Job, length: float) -> Job:
        return changed(job, Change(refs.edge(name, "drawn_to"), length))

    assert said(put(job, 100_000.0))
    assert said(put(job, 1.0))
    assert not said(put(job, 0.0))  # as far as the cloth gathers
    _sensible_between(job, put)


def _sensible_between(job: Job, put: Callable[[Job, float], Job]) -> None:
    """Bad below, good between, bad above."""
    good = [length for length in (50.0 * 1.15**k for k in range(50)) if not said(put(job, length))]
    assert good
    lengths = [50.0 * 1.15**k for k in range(50)]
    first, last = lengths.index(good[0]), lengths.index(good[-1])
    assert lengths[first : last + 1] == good  # bad below, good between, bad above
