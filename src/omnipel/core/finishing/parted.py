"""Panels parted by a level line: where a zip runs around at a height, or cloth is joined."""

from dataclasses import replace

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.parting import ACROSS, UPRIGHT, Halves, parted_across, parted_upright, pieces_parted, seams_parted
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.job.finish import seam
from omnipel.core.job.joining import Parting
from omnipel.core.tolerances import CLOSES
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.working import worked


def with_partings(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its panels parted as decided."""
    for parting in choices.parted:
        cover = _parted(cover, choices, parting)
    return cover


def _parted(cover: Cover, choices: CoverChoices, parting: Parting) -> Cover:
    where = refs.parting(parting.id)
    leave = Remedy(tr("Do not part it"), (Change(where, act=Act.REMOVE),))
    panel = next((p for p in cover.panels if p.name == parting.panel), None)
    if panel is None:
        text = tr("This cover has no panel “{panel}” that could be parted.", panel=term(parting.panel))
        return replace(cover, findings=(*cover.findings, Finding("choice-unused", Severity.LOOK, text, where, (leave,))))
    across = 0 if parting.upright else 1
    high = float(np.ptp(panel.sew_points[:, across]))
    at = high - parting.at if parting.from_top else parting.at
    words = UPRIGHT if parting.upright else ACROSS
    halves = None
    if 0.0 < at < high:
        here = worked(tr("parted at"), parting.at, where.at("at"))
        rest = (panel.length if parting.upright else panel.width) - here
        sizes = (rest, here) if parting.from_top else (here, rest)
        cut = (seam(choices.seam_allowance), refs.SEAM_ALLOWANCE)
        part = parted_upright if parting.upright else parted_across
        halves = part(panel, at, parts_of(panel.name, words), sizes, cut)
    if halves is None:
        called, sized, there = term(panel.name), mm(high), mm(parting.at)
        text = (
            tr("The {panel} is {high} long: an upright line at {at} does not part it in two.", panel=called, high=sized, at=there)
            if parting.upright
            else tr(
                "The {panel} is {high} high: a level line at {at} does not part it in two.", panel=called, high=sized, at=there
            )
        )
        middle = Remedy(tr("In the middle"), (Change(where.at("at"), choices.habits.system.near(high / 2.0)),))
        return replace(cover, findings=(*cover.findings, Finding("parting-misses", Severity.STOP, text, where, (middle, leave))))
    seam_name = f"piecing of {panel.name}" if parting.joined else f"parting of {panel.name}"
    return with_halves(cover, panel.name, halves, seam_name, SeamKind.PLAIN if parting.joined else "zipped", words)


def parts_of(name: str, words: tuple[str, str] = ACROSS) -> tuple[str, str]:
    """What the two parts of a panel are called."""
    return f"{name}, {words[0]}", f"{name}, {words[1]}"


def _closes(piece: Piece, halves: Halves) -> bool:
    """Whether the line a panel is parted by closes on itself when it is sewn: around a wall that is closed into a ring."""
    curve = halves.lower.edge(halves.edge).curve
    begin, end = piece.place.at(np.array((curve.start, curve.end)))
    return float(np.linalg.norm(begin - end)) < CLOSES


def with_halves(cover: Cover, name: str, halves: Halves, called: str, kind: str, words: tuple[str, str] = ACROSS) -> Cover:
    """The cover with a panel in two parts, called by `words`: seams and openings run over them, and what was one piece is joined, by seams of a kind."""
    panel_of = cover.panel_of
    upper = {edge.name for edge in halves.upper.edges}
    names = (halves.lower.name, halves.upper.name)

    def run(old: Run) -> Run:
        if panel_of[old.piece] != name:
            return old
        return replace(old, piece=f"{old.piece}, {words[old.edge in upper]}")

    parts = {(p.name, edge): names_ for p in cover.pieces if p.panel == name for edge, names_ in halves.names.items()}
    seams = tuple(replace(s, a=tuple(map(run, s.a)), b=tuple(map(run, s.b))) for s in seams_parted(cover.seams, parts))
    joins = tuple(
        Seam(
            called,
            (Run(f"{piece.name}, {words[0]}", halves.edge),),
            (Run(f"{piece.name}, {words[1]}", halves.edge, reversed=True),),
            kind=kind,
            ring=_closes(piece, halves),
            parts=True,
        )
        for piece in cover.pieces
        if piece.panel == name
    )
    panels = tuple(part for panel in cover.panels for part in ((halves.lower, halves.upper) if panel.name == name else (panel,)))
    openings = {key: run(old) for key, old in cover.openings.items()}
    pieces = pieces_parted(cover.pieces, name, names, words)
    return replace(cover, panels=panels, pieces=pieces, seams=(*seams, *joins), openings=openings)
