"""The inner layers of a cover whose lining hangs by itself: the same cover once more, drafted at the gap of each.

A lining is smaller than its outer by itself and by what lies between them, so that it is its inside that keeps the gap; the outer's sew line lies
outside of them all.
"""

from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, Final

from omnipel.core.covers.layering import HANGS
from omnipel.core.covers.scheme import Brief, Cover, Scheme
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.finishing.fuller import chosen_ratio
from omnipel.core.job.document import LiningSchool
from omnipel.core.job.findings import Impossible
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import worked

CORNERS: Final = 4.0
"""In a corner, and where an edge is drawn in, two layers lie further apart than on a face, by no more than this."""


@dataclass(frozen=True)
class Inner:
    """One inner layer: what to cut for a piece of the outer, and where it lies; without a cover of its own it is cut and lies as the outer does."""

    cover: Cover | None
    apart: float = 0.0
    """How far its edges lie from those of the outer at most, mm."""

    def panel(self, piece: Piece, host: Panel) -> Panel:
        """What is cut for a piece of the outer."""
        return self.cover.flat[piece.name] if self.cover is not None else host

    def piece(self, piece: Piece) -> Piece:
        """The piece of this layer that lies inside of one of the outer; one that lies where the outer does promises nothing of its own."""
        if self.cover is None:
            return replace(piece, clear=None)
        own = next(own for own in self.cover.pieces if own.name == piece.name)
        return replace(piece, place=own.place, clear=own.clear)


Sewn = Callable[[Cover, Cloth], Cover]
"""What is done to the draft of a layer: seams, edges and openings as the outer has them."""


@dataclass(frozen=True)
class Inward:
    """Drafts the layers inside of an outer.

    Args:
        scheme: which drafted the outer.
        brief: which it drafted it from.
        body: which it covers.
    """

    scheme: Scheme
    brief: Brief
    body: Any

    def layer(self, cloth: Cloth, outer: Cover, sewn: Sewn) -> Inner:
        """The cover at the gap of a layer; a bagged lining is a little longer than its drop, so that it does not draw the edge up.

        Where layers are one, or nothing is left of it within the others, or it is made of other pieces than the `outer` and other edges stay free, it is
        cut like that; but for padding of what is gathered, which is not.
        """
        if not self._own(cloth):
            return Inner(None)
        brief = self.brief.of(cloth)
        body, looser = self.body, self._looser(cloth)
        if looser:
            more = worked(tr("looser"), looser)
            body = replace(body, drop=body.drop + more)
        try:
            made = sewn(self.scheme.draft(body, brief), cloth)
        except Impossible:
            return Inner(None)
        if not _corresponds(outer, made):
            return Inner(None)
        between = (self.brief.t.value - brief.t.value) / 2.0
        return Inner(made, CORNERS * between + looser)

    def _own(self, cloth: Cloth) -> bool:
        """Whether a layer is drafted for itself."""
        choices = self.brief.choices
        gathered = self.scheme.gathered or any(chosen_ratio(chosen) > 1.0 for chosen in choices.seams.values())
        return choices.lining.school in HANGS or (cloth is Cloth.PADDING and gathered)

    def _looser(self, cloth: Cloth) -> float:
        """How much longer a layer hangs."""
        bagged = cloth is Cloth.LINING and self.brief.choices.lining.school is LiningSchool.BAGGED
        drops = is_dataclass(self.body) and any(f.name == "drop" for f in fields(self.body))
        return self.brief.habit("lining looser") if bagged and drops else 0.0


def _corresponds(outer: Cover, inner: Cover) -> bool:
    """Whether an inner layer has the pieces of its outer, and the same edges of them stay free."""
    return free_edges(outer) == free_edges(inner) and surface_of(outer) <= inner.flat.keys()


def surface_of(cover: Cover) -> set[str]:
    """The pieces of the outer's own surface."""
    return {piece.name for piece in cover.pieces if not piece.on and cover.flat[piece.name].cloth is Cloth.OUTER}


def free_edges(cover: Cover) -> frozenset[tuple[str, str]]:
    """Edges of the outer's surface that are in no seam, by piece and edge: where a lining meets it. What others are only caught on is free."""
    sewn = (run for seam in cover.seams for side in ((seam.a,) if seam.onto else seam.sides) for run in side)
    taken = {(run.piece, run.edge) for run in sewn}
    mine = {(name, edge.name) for name in surface_of(cover) for edge in cover.flat[name].edges}
    return frozenset(mine - taken)
