"""What to believe when readings contradict: nothing is averaged; the likeliest culprit is left out, and a person decides."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

from omnipel.core.tape.adjustment import Adjusted, Observation, Unknown, adjust, within_bounds

MOST_CULPRITS: Final = 4
"""More wrong readings than this in one job are no slips: measure again."""

Explains = Callable[[Observation, Adjusted], float]
"""How well a known slip explains an observation beside what the others come to: 0 (not at all) and up."""


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Observations of which one cannot be right: the one the draft leaves out, the others that might be it, and what the rest came to."""

    left_out: Observation
    suspects: tuple[Observation, ...]
    rest: Adjusted


@dataclass(frozen=True, slots=True)
class Settled:
    """An adjustment of readings that agree, and what was left out for it."""

    adjusted: Adjusted
    used: tuple[Observation, ...]
    contradictions: tuple[Contradiction, ...]


def settle(
    unknowns: Sequence[Unknown],
    observations: Sequence[Observation],
    *,
    firm: frozenset[str] = frozenset(),
    explains: Explains = lambda _o, _a: 0.0,
) -> Settled:
    """Adjust what agrees; leave out what cannot be right, likeliest culprit first.

    Args:
        unknowns: what is looked for.
        observations: what was read, and what the form knows beforehand.
        firm: places whose reading a person stands by; they are culprits last.
        explains: how well a known slip explains an observation.
    """
    used = list(observations)
    found: list[Contradiction] = []
    whole = adjust(unknowns, used, bounded=False)
    while len(found) < MOST_CULPRITS and whole.contradicts:
        culprit = _culprit(unknowns, used, whole, firm, explains)
        if culprit is None:
            break
        found.append(culprit)
        used = [o for o in used if o is not culprit.left_out]
        whole = culprit.rest
    return Settled(within_bounds(whole, unknowns, used), tuple(used), tuple(found))


def _culprit(
    unknowns: Sequence[Unknown], used: list[Observation], whole: Adjusted, firm: frozenset[str], explains: Explains
) -> Contradiction | None:
    checked = [o for o in used if (whole.residuals.get(o.place) or 0.0) > 1.0]
    trials = [(o, adjust(unknowns, [x for x in used if x is not o], bounded=False)) for o in checked]
    if not trials:
        return None
    least = min(rest.worst for _, rest in trials)
    clean = [(o, rest) for o, rest in trials if rest.worst <= max(rest.limit, least * 1.001)]
    loose = [(o, rest) for o, rest in clean if o.place not in firm] or clean
    ranked = sorted(loose, key=lambda pair: (explains(*pair), _size(pair[1])), reverse=True)
    best, rest = ranked[0]
    suspects = tuple(o for o, _ in ranked)
    return Contradiction(best, suspects, rest)


def _size(adjusted: Adjusted) -> float:
    """How large the thing comes out; the larger cover is the safer one."""
    return sum(adjusted.values.values())
