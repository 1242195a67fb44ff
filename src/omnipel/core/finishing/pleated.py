"""A lining of a width of its own: what is more than is needed is laid in pleats, evenly, where it is sewn above and below; what is less is pieced."""

import math
from dataclasses import replace
from typing import Final

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, MarkKind, Notch, Panel
from omnipel.core.drafting.seams import Seam
from omnipel.core.finishing.fuller import drawn_in, fuller, levels
from omnipel.core.finishing.pieced import can_be_filled, filled
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, mm, term, tr

PLEATED: Final = "pleated"
"""How the seams are sewn that pleats lie in."""


def strips(cover: Cover) -> list[Panel]:
    """The strips of the lining that are closed into a ring: their width around is a choice."""
    panel_of = cover.panel_of
    closed = {
        panel_of[one.piece]
        for seam in cover.seams
        for one in seam.a
        for other in seam.b
        if len(seam.a) == 1 and one.piece == other.piece
    }
    return [p for p in cover.panels if p.cloth is Cloth.LINING and p.name in closed and p.count <= 1 and levels(p) is not None]


def pleated(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with strips of its lining as wide around as was chosen, the surplus in pleats; one that is too narrow is pieced, or said to be so."""
    own, free = choices.lining.around, [panel for panel in strips(cover) if _level_seams(cover, panel) is not None]
    cover = replace(cover, ringed=bool(free))
    for panel in free if own else ():
        ratio = own / panel.length.value
        if ratio < 1.0 - 1e-9 and choices.lining.pieced and can_be_filled(panel, own):
            cover = filled(cover, panel, own, choices)
        elif ratio < 1.0 - 1e-9:
            cover = replace(cover, findings=(*cover.findings, _too_narrow(panel, own)))
        elif ratio > 1.0 + 1e-9:
            cover = _pleated(cover, panel, ratio, choices.habits.mm("pleat"))
    return cover


def _pleated(cover: Cover, panel: Panel, ratio: float, deep: float) -> Cover:
    piece = next(piece for piece in cover.pieces if piece.panel == panel.name)
    both, sewn = levels(panel) or (), _level_seams(cover, panel) or {}
    seams = [_drawn(seam, ratio, swap=sewn[i]) if i in sewn else seam for i, seam in enumerate(cover.seams)]
    surplus = panel.length.value * (ratio - 1.0)
    count = max(1, math.ceil(surplus / (2.0 * deep) - 1e-9))
    note = tr(
        "{n} pleats, {deep} deep each, evenly: {own} become {needed}",
        n=Count(count),
        deep=mm(surplus / (2.0 * count)),
        own=mm(panel.length.value * ratio),
        needed=mm(panel.length.value),
    )
    made = fuller(panel, ratio, note)
    share = surplus / (2.0 * count) / made.length.value
    marks = [
        Notch(edge, at, "pleat", MarkKind.POINT)
        for level in both
        for edge in level[:1]
        for k in range(count)
        for at in ((k + 0.5) / count - share, (k + 0.5) / count + share)
    ]
    made = replace(made, notches=(*made.notches, *marks))
    panels = tuple(made if p.name == panel.name else p for p in cover.panels)
    pieces = tuple(drawn_in(p, panel, ratio) if p.name == piece.name else p for p in cover.pieces)
    return replace(cover, panels=panels, pieces=pieces, seams=tuple(seams))


def _level_seams(cover: Cover, panel: Panel) -> dict[int, bool] | None:
    """The seams of a strip's level edges by their number, and whether it is their second side; None where something else lies beside it in one."""
    piece = next(piece for piece in cover.pieces if piece.panel == panel.name)
    own = {(piece.name, edge) for level in levels(panel) or () for edge in level}
    found: dict[int, bool] = {}
    for i, seam in enumerate(cover.seams):
        sides = [{(run.piece, run.edge) for run in side} for side in seam.sides]
        mine = [bool(side & own) for side in sides]
        if any(side & own and not side <= own for side in sides) or all(mine):
            return None
        if any(mine):
            found[i] = mine[1]
    return found


def _drawn(seam: Seam, ratio: float, *, swap: bool) -> Seam:
    a, b = (seam.b, seam.a) if swap else (seam.a, seam.b)
    fuller_by = ratio / seam.ratio if swap else ratio  # it may be gathered besides
    made = replace(seam, a=a, b=b, ratio=fuller_by if swap else fuller_by * seam.ratio, tolerance=seam.tolerance * fuller_by)
    return made if seam.between else replace(made, kind=PLEATED)


def _too_narrow(panel: Panel, own: float) -> Finding:
    text = tr(
        "The {panel} is to be {own} around, and {needed} are needed: {less} are missing.",
        panel=term(panel.name),
        own=mm(own),
        needed=mm(panel.length.value),
        less=mm(panel.length.value - own),
    )
    as_needed = Remedy(tr("As wide as is needed"), (Change(refs.LINING_AROUND, 0.0),))
    pieced = Remedy(tr("Piece the lining"), (Change(refs.LINING_PIECED, True),))
    remedies = (pieced, as_needed) if can_be_filled(panel, own) else (as_needed,)
    return Finding("lining-narrow", Severity.STOP, text, refs.LINING_AROUND, remedies)
