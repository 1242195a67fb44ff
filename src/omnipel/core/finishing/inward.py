"""The inner layers of a cover whose lining hangs by itself: the same cover once more, drafted at the gap of each.

A lining is smaller than its outer by itself and by what lies between them, so that it is its inside that keeps the gap; the outer's sew line lies
outside of them all.
"""

from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, Final

from omnipel.core.covers.scheme import Brief, Cover, Scheme
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.job.document import LiningSchool
from omnipel.core.job.findings import Impossible
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import worked

CORNERS: Final = 3.0
"""In a corner, and where an edge is drawn in, two layers lie further apart than on a face, by no more than this."""


@dataclass(frozen=True)
class Inner:
    """One inner layer as far as it corresponds to the outer: what to cut for a piece of that, and where it lies."""

    cover: Cover | None
    apart: float = 0.0
    """How far its edges lie from those of the outer at most, mm."""

    def panel(self, piece: Piece, host: Panel) -> Panel:
        """What is cut for a piece of the outer; the outer's own panel where this layer has none like it."""
        own = self.cover.flat.get(piece.name) if self.cover is not None else None
        return own if own is not None and [e.name for e in own.edges] == [e.name for e in host.edges] else host

    def piece(self, piece: Piece) -> Piece:
        """The piece of this layer that lies inside of one of the outer; one that lies where the outer does promises nothing of its own."""
        found = next((own for own in self.cover.pieces if own.name == piece.name), None) if self.cover is not None else None
        return replace(piece, clear=None) if found is None else replace(piece, place=found.place, clear=found.clear)


@dataclass(frozen=True)
class Inward:
    """Drafts the layers inside of an outer.

    Args:
        scheme: which drafted the outer.
        brief: which it drafted it from.
        body: which it covers.
        sewn: what is done to every layer after its scheme.
    """

    scheme: Scheme
    brief: Brief
    body: Any
    sewn: Callable[[Cover], Cover] = lambda cover: cover

    def sewn_by(self, sewn: Callable[[Cover], Cover]) -> "Inward":
        """The same, with what is done to every layer after its scheme."""
        return replace(self, sewn=sewn)

    def layer(self, cloth: Cloth) -> Inner:
        """The cover at the gap of a layer; a bagged lining is a little longer than its drop, so that it does not draw the edge up."""
        brief = self.brief.of(cloth)
        body, looser = self.body, self._looser(cloth)
        if looser:
            more = worked(tr("looser"), looser)
            body = replace(body, drop=body.drop + more)
        try:
            made = self.sewn(self.scheme.draft(body, brief))
        except Impossible:  # nothing is left of it within the others: it is cut like the outer
            return Inner(None)
        between = (self.brief.t.value - brief.t.value) / 2.0
        return Inner(made, CORNERS * between + looser)

    def _looser(self, cloth: Cloth) -> float:
        """How much longer a layer hangs."""
        bagged = cloth is Cloth.LINING and self.brief.choices.lining.school is LiningSchool.BAGGED
        drops = is_dataclass(self.body) and any(f.name == "drop" for f in fields(self.body))
        return self.brief.habit("lining looser") if bagged and drops else 0.0
