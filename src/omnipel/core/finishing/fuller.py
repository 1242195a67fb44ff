"""Strips cut longer than what they are gathered or eased onto: one that hangs free at its other edge is made as much fuller all along."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.patterns import regrouped
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import reshaped
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.joining import SeamChoice
from omnipel.core.plane.curves import Arc, Points, line
from omnipel.core.space.cells import Box
from omnipel.core.space.frames import Solid
from omnipel.core.space.placements import Placement
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, Ratio, term, tr

LEVEL: Final = 1e-6
"""Ends of an edge that differ by less in height, as a share of the panel's, are level."""


@dataclass(frozen=True, eq=False)
class DrawnIn:
    """A fuller panel where the plain one lies: as many times drawn in along x, from where that begins."""

    plain: Placement
    begins: float
    ratio: float

    def at(self, points: Points) -> Solid:
        """Points in space."""
        return self.plain.at(np.column_stack((self.begins + (points[:, 0] - self.begins) / self.ratio, points[:, 1])))

    def cells(self, box: Box, chord_error: float, *, laid: bool = False) -> list[Points]:
        """Those of the plain panel, drawn out."""
        low, high = (self.begins + (x - self.begins) / self.ratio for x in (box[0], box[2]))
        cells = self.plain.cells((low, box[1], high, box[3]), chord_error, laid=laid)
        return [np.column_stack((self.begins + (cell[:, 0] - self.begins) * self.ratio, cell[:, 1])) for cell in cells]


def chosen_ratio(chosen: SeamChoice) -> float:
    """How many times fuller one side is cut; 1 where it is not."""
    how = CONSTRUCTIONS.get(chosen.kind)
    return 1.0 if how is None or how.fuller is None else chosen.fuller or how.fuller[0]


def ungathered(choices: CoverChoices) -> CoverChoices:
    """The choices with seams plain that would be gathered or eased."""
    plain = {name: replace(chosen, kind="") if chosen_ratio(chosen) > 1.0 else chosen for name, chosen in choices.seams.items()}
    return replace(choices, seams=plain)


def with_fullness(cover: Cover, choices: CoverChoices) -> tuple[Cover, CoverChoices]:
    """The cover with strips made fuller where a seam is to be gathered or eased; and the choices without what no strip allows."""
    asked = {name: ratio for name, chosen in choices.seams.items() if (ratio := chosen_ratio(chosen)) > 1.0}
    if not asked:
        return cover, choices
    taken = {(run.piece, run.edge) for seam in cover.seams for side in seam.sides for run in side}
    ratios: dict[str, float] = {}
    seams: list[Seam] = []
    refused: list[str] = []
    for seam in cover.seams:
        ratio = asked.get(seam.name, 0.0)
        if not ratio or seam.onto or seam.ratio != 1.0:
            seams.append(seam)
            refused += [seam.name] if ratio and not seam.onto else []
            continue
        side = next((side for side in seam.sides if _hangs(cover, side, taken, ratios)), None)
        if side is None:
            seams.append(seam)
            refused.append(seam.name)
            continue
        other = seam.b if side is seam.a else seam.a
        ratios |= dict.fromkeys((run.piece for run in side), ratio)
        seams.append(replace(seam, a=side, b=other, ratio=ratio, kind=choices.seams[seam.name].kind, easier="", easier_more=0.0))
    panels, pieces = regrouped(cover.panels, cover.pieces, lambda piece: ratios.get(piece.name, 1.0), fuller)
    pieces = tuple(drawn_in(piece, cover.flat[piece.name], ratios.get(piece.name, 1.0)) for piece in pieces)
    known = {panel.name: panel for panel in panels}
    sizes = {id(old.length): known[new.panel].length for old, new in _pairs(cover, pieces) if new.name in ratios}
    sizes |= {id(old.cut_length): known[new.panel].cut_length for old, new in _pairs(cover, pieces) if new.name in ratios}
    told = {name: sizes.get(id(size), size) for name, size in cover.sizes.items()}
    findings = tuple(_refused(name) for name in dict.fromkeys(refused))
    made = replace(cover, panels=panels, pieces=pieces, seams=tuple(seams), sizes=told, findings=(*cover.findings, *findings))
    plain = {name: replace(chosen, kind="") if name in refused else chosen for name, chosen in choices.seams.items()}
    return replace(made, gathers=made.gathers or bool(ratios)), replace(choices, seams=plain)


def _pairs(cover: Cover, pieces: Iterable[Piece]) -> list[tuple[Panel, Piece]]:
    return [(cover.flat[piece.name], piece) for piece in pieces]


def _hangs(cover: Cover, side: Sequence[Run], taken: set[tuple[str, str]], ratios: Mapping[str, float]) -> bool:
    """Whether a side is one whole level edge of strips that are free at the other: rectangles, not made fuller already."""
    own = {(run.piece, run.edge) for run in side}
    for piece in dict.fromkeys(run.piece for run in side):
        panel = cover.flat[piece]
        both = levels(panel)
        if both is None or piece in ratios:
            return False
        mine = {(piece, edge) for other, edge in own if other == piece}
        low, high = ({(piece, name) for name in level} for level in both)
        if not ((mine == low and not high & taken) or (mine == high and not low & taken)):
            return False
    return True


def levels(panel: Panel) -> tuple[list[str], list[str]] | None:
    """The names of the lower and of the upper edges of a rectangle; None where a panel is none."""
    low, high = panel.sew_points.min(axis=0), panel.sew_points.max(axis=0)
    near = LEVEL * float((high - low).max())
    found: tuple[list[str], list[str]] = [], []
    for edge in panel.edges:
        if not isinstance(edge.curve, Arc) or edge.curve.curvature:
            return None
        ends = np.array((edge.curve.start, edge.curve.end))
        for level, y in zip(found, (low[1], high[1]), strict=True):
            if np.abs(ends[:, 1] - y).max() < near:
                level.append(edge.name)
        upright = np.ptp(ends[:, 0]) < near and min(np.abs(ends[:, 0] - x).max() for x in (low[0], high[0])) < near
        if edge.name not in (*found[0], *found[1]) and not upright:
            return None
    return found


def fuller(panel: Panel, ratio: float, note: Phrase | None = None) -> Panel:
    """A rectangle so many times as long; `note` says how that is drawn in."""
    if ratio == 1.0:
        return panel
    begins = float(panel.sew_points[:, 0].min())

    def moved(points: Points) -> Points:
        return np.column_stack((begins + (points[:, 0] - begins) * ratio, points[:, 1]))

    def edge(e: Edge) -> Edge:
        start, end = moved(np.array((e.curve.start, e.curve.end)))
        return replace(e, curve=line((float(start[0]), float(start[1])), (float(end[0]), float(end[1]))))

    figures = tuple(replace(f, points=moved(f.points)) for f in panel.figures)
    notes = (*panel.notes, note or tr("cut fuller, {ratio}: two rows to draw it in", ratio=Ratio(ratio)))
    edges = tuple(map(edge, panel.edges))
    return reshaped(panel, edges, panel.length * ratio, panel.width, figures=figures, notes=notes)


def drawn_in(piece: Piece, plain: Panel, ratio: float) -> Piece:
    """A piece of a panel made fuller, where the plain one lay."""
    begins = float(plain.sew_points[:, 0].min())
    return replace(piece, place=DrawnIn(piece.place, begins, ratio)) if ratio != 1.0 else piece


def _refused(name: str) -> Finding:
    text = tr(
        "{seam} cannot be gathered or eased: neither side is a strip whose whole edge is sewn there and that hangs free at its other edge.",
        seam=term(name),
    )
    where = refs.seam(name, "kind")
    return Finding(
        "construction-unsuited",
        Severity.LOOK,
        text,
        where,
        (Remedy(tr("Sew {seam} as usual", seam=term(name)), (Change(where, ""),)),),
    )
