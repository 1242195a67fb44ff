"""Finished sizes that all covers of a box have in common."""

from dataclasses import dataclass

from omnipel.core.covers.scheme import Brief
from omnipel.core.forms.abilities import Boxy as BoxyBody
from omnipel.core.words import refs
from omnipel.core.words.working import Worked


@dataclass(frozen=True, slots=True)
class Boxy:
    """Finished sizes of a box's cover: l = L + 2u, w = W + 2u, h = drop + u; u itself, and the height of its top, mm."""

    l: Worked  # noqa: E741 - the trade's own letter
    w: Worked
    h: Worked
    u: Worked
    top: float


def boxy(brief: Brief, body: BoxyBody) -> Boxy:
    """The sizes of a box with clearance and half the thickness on every side but below it."""
    u = brief.u((body.length + body.width) * 2.0)
    return Boxy(
        brief.size("cover_length", body.length + u * 2.0, refs.ANY_CLEARANCE),
        brief.size("cover_width", body.width + u * 2.0, refs.ANY_CLEARANCE),
        brief.size("cover_height", body.drop + u, refs.ANY_CLEARANCE),
        u,
        body.ends + body.drop.value + u.value,
    )
