"""Patterns: pieces that are cut alike are cut from one panel; one that is finished otherwise becomes a pattern of its own."""

from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import replace
from typing import TypeVar

from omnipel.core.drafting.cut_sizes import refinished
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.job.finish import Finish
from omnipel.core.words.refs import Ref

Finishes = Mapping[str, tuple[Finish, Ref | None]]
"""Finishes of edges by their names, each with where it is decided."""


Sort = TypeVar("Sort", bound=Hashable)


def regrouped(
    panels: Sequence[Panel], pieces: Sequence[Piece], sort: Callable[[Piece], Sort], cut: Callable[[Panel, Sort], Panel]
) -> tuple[tuple[Panel, ...], tuple[Piece, ...]]:
    """Panels and pieces once pieces of one panel differ in some way: each sort becomes a pattern.

    Where several pieces stay alike most of a panel's pieces keep its name; other patterns are called after their first piece.
    """
    made: list[Panel] = []
    cut_from: dict[str, str] = {}
    for panel in panels:
        groups: dict[Sort, list[Piece]] = {}
        for piece in pieces:
            if piece.panel == panel.name:
                groups.setdefault(sort(piece), []).append(piece)
        most = max(groups.values(), key=len, default=[])
        for key, group in groups.items():
            alone = len(groups) > 1 and len(most) == 1
            name = panel.name if group is most and not alone else group[0].name
            made.append(cut(panel if name == panel.name else replace(panel, name=name), key))
            cut_from |= {piece.name: name for piece in group}
        if not groups:
            made.append(panel)
    turned = (replace(p, panel=cut_from[p.name]) if cut_from.get(p.name, p.panel) != p.panel else p for p in pieces)
    return tuple(made), tuple(turned)


def refinished_pieces(
    panels: Sequence[Panel], pieces: Sequence[Piece], wanted: Mapping[str, Finishes]
) -> tuple[tuple[Panel, ...], tuple[Piece, ...]]:
    """Panels and pieces with edges of some pieces finished otherwise, by the names of the pieces."""
    return regrouped(
        panels,
        pieces,
        lambda piece: frozenset(wanted.get(piece.name, {}).items()),
        lambda panel, finishes: refinished(panel, dict(finishes)),
    )
