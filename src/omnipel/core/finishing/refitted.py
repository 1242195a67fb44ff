"""Edges of a cover finished otherwise: panels cut to it, patterns of their own where pieces come to differ, sizes told anew."""

from collections.abc import Mapping
from dataclasses import replace

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.patterns import Finishes, refinished_pieces
from omnipel.core.words.working import Worked


def refitted(cover: Cover, wanted: Mapping[str, Finishes]) -> Cover:
    """The cover with edges of some pieces finished otherwise: sizes that are told of a panel are those of what it has become."""
    if not wanted:
        return cover
    panels, pieces = refinished_pieces(cover.panels, cover.pieces, wanted)
    known, cut_from = {panel.name: panel for panel in panels}, {piece.name: piece.panel for piece in pieces}
    after = {piece.panel: known[cut_from[piece.name]] for piece in reversed(cover.pieces)}
    new: dict[int, Worked] = {}
    for old in cover.panels:
        made = after.get(old.name) or known[old.name]
        if made is not old:
            new |= {id(old.cut_length): made.cut_length, id(old.cut_width): made.cut_width}
            new |= {id(size): made.sizes[key] for key, size in old.sizes.items() if key in made.sizes}
    sizes = {name: new.get(id(size), size) for name, size in cover.sizes.items()}
    return replace(cover, panels=panels, pieces=pieces, sizes=sizes)
