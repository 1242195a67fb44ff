"""Linings and paddings as derived panel sets: own cloth, own allowance, smaller padding, turning gap.

A lining meets the outer at the edges that stay free, as each of these is finished: bagged it is sewn to it and turned through a gap, bound both
end in the binding, and a hem, casing or facing is folded over its raw edge. Layers as one are cut alike and sewn together as if they were one
cloth. Padding is smaller than its panel, so that none lies in a seam.
"""

import math
from collections.abc import Mapping
from dataclasses import replace
from typing import Final

import numpy as np

from omnipel.core.covers.layering import HANGS
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, Edge, MarkKind, Notch, Panel
from omnipel.core.drafting.pieces import Piece, named
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import outline
from omnipel.core.drafting.walking import walk
from omnipel.core.finishing.inner import chosen, missing, stiffened
from omnipel.core.finishing.inward import Inner, Inward, Sewn, free_edges
from omnipel.core.finishing.padding import padded
from omnipel.core.finishing.pieced import pieced
from omnipel.core.finishing.pleated import pleated
from omnipel.core.job.document import CoverChoices, LiningSchool
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import RAW, FinishKind, seam
from omnipel.core.plane.curves import Arc
from omnipel.core.tolerances import LEAST_GAP, MOST_EASE, MOST_GAP, SEAM
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, Share, mm, term, tr


def with_layers(cover: Cover, choices: CoverChoices, inward: Inward, sewn: Sewn) -> Cover:
    """The cover with lining and padding panels, their seams and checks; `inward` drafts those that have a gap of their own, each then `sewn`."""
    surface = {piece.panel for piece in cover.pieces if not piece.on}
    hosts = [p for p in cover.panels if p.cloth is Cloth.OUTER and p.name in surface]
    hangs, outer = choices.lining.school in HANGS, cover
    if choices.lining.school is not LiningSchool.NONE and not any(p.cloth is Cloth.LINING for p in cover.panels):
        cover = _lined(cover, hosts, choices, inward.layer(Cloth.LINING, outer, sewn))
        cover = pleated(cover, choices) if hangs else cover
        if choices.lining.pieced and hangs:
            cover = pieced(cover, choices)
        cover = _with_gap(cover, choices)
    if choices.padding and not any(p.cloth is Cloth.PADDING for p in cover.panels):
        cover = padded(cover, hosts, choices, inward.layer(Cloth.PADDING, outer, sewn))
    if choices.stiffener.thickness:
        cover = stiffened(cover, hosts, choices)
    return cover


def _lined(cover: Cover, hosts: list[Panel], choices: CoverChoices, inner: Inner) -> Cover:
    lining, school = choices.lining, choices.lining.school
    as_one = school is LiningSchool.AS_ONE
    if as_one:
        cover = replace(cover, findings=(*cover.findings, *missing(cover, hosts, lining.on, refs.LINING_ON)))
        hosts = chosen(hosts, lining.on)
    mine = {p.name for p in hosts}
    outer = [piece for piece in cover.pieces if piece.panel in mine and not piece.on]
    pieces = [
        replace(
            inner.piece(piece),
            name=f"lining {piece.name}",
            panel=f"lining {piece.panel}",
            mirrored=not piece.mirrored,
            on=piece.name if as_one else "",
        )
        for piece in outer
    ]
    free = frozenset((cover.panel_of[piece], edge) for piece, edge in free_edges(cover))
    flat, first = cover.flat, {piece.panel: piece for piece in reversed(outer)}
    panels = [_lining_panel(p, inner.panel(first[p.name], p), choices, free) for p in hosts]
    cover = replace(cover, pieces=(*cover.pieces, *pieces))
    if as_one:
        return replace(cover, panels=(*cover.panels, *panels))
    own = {piece.name for piece in outer}
    seams = [
        replace(s, name=f"lining: {s.name}", a=_lining_runs(s.a), b=_lining_runs(s.b), easier="")
        for s in (inner.cover or cover).seams
        if all(run.piece in own for run in (*s.a, *s.b))
    ]
    findings = list(cover.findings)
    meeting = [(piece, e) for piece in outer for e in flat[piece.name].edges if (piece.panel, e.name) in free]
    cut = {panel.name: panel for panel in panels}
    lies, hung = named((*outer, *pieces)), flat | {piece.name: cut[piece.panel] for piece in pieces}
    met = [_met(piece, e, lies, hung, inner) for piece, e in meeting]
    seams += met
    findings += _eased(met, meeting, inner.apart)
    return replace(cover, panels=(*cover.panels, *panels), seams=(*cover.seams, *seams), openings={}, findings=tuple(findings))


def _met(piece: Piece, edge: Edge, lies: Mapping[str, Piece], flat: Mapping[str, Panel], inner: Inner) -> Seam:
    """How the lining meets the outer at a free edge: its own edge there lies inside of the outer's, and is the shorter by that.

    Where the edge is drawn in the layers between move it further than they are thick; as far as it then lies is no fault of the seam.
    """
    words, kind = _MEETS.get(edge.finish.kind, ("catch", SeamKind.CAUGHT))
    sides = (Run(f"lining {piece.name}", edge.name),), (Run(piece.name, edge.name),)
    if inner.cover is None:
        return Seam(f"{words} {piece.panel}, {edge.name}", *sides, kind=kind)
    room = SEAM + abs(edge.curve.length - flat[f"lining {piece.name}"].edge(edge.name).curve.length)
    ours, theirs = (walk(side, lies, flat, np.linspace(0.0, 1.0, 9)) for side in sides)
    apart = min(float(np.linalg.norm(ours - theirs, axis=1).max()), MOST_APART * inner.apart)
    return Seam(f"{words} {piece.panel}, {edge.name}", *sides, kind=kind, tolerance=room, between=max(apart, inner.apart))


def _eased(met: list[Seam], meeting: list[tuple[Piece, Edge]], apart: float) -> list[Finding]:
    """An outer that would have to be eased onto its lining by more than cloth gives."""
    if not apart:
        return []
    whole = math.fsum(edge.curve.length for _, edge in meeting)
    spare = math.fsum(seam.tolerance - SEAM for seam in met)
    if spare <= MOST_EASE * whole or spare <= SEAM:
        return []
    text = tr(
        "The lining lies inside of the padding and its edge is {less} shorter than that of the outer, {share}: more than can be eased in without pleats "
        "({most}).",
        less=mm(spare),
        share=Share(spare / whole, 1),
        most=Share(MOST_EASE),
    )
    as_one = Remedy(tr("Sew the layers as one"), (Change(refs.LINING_SCHOOL, LiningSchool.AS_ONE),))
    return [Finding("lining-eased", Severity.LOOK, text, refs.LINING_SCHOOL, (as_one,))]


MOST_APART: Final = 10.0
"""The edges of layers lie apart by no more than so many times what lies between them, wherever they are drawn in."""
_MEETS = {FinishKind.BAGGED: ("bag", SeamKind.BAGGED), FinishKind.BOUND: ("bind", SeamKind.BOUND)}
"""By the finish of the outer; what else there is holds the lining's raw edge."""


def _lining_panel(host: Panel, inner: Panel, choices: CoverChoices, free: frozenset[tuple[str, str]]) -> Panel:
    """The lining of a panel with its own allowances, on the sew line of the `inner` one; `free` edges are where it meets the outer."""
    school, own = choices.lining.school, seam(choices.lining.seam_allowance)

    def edge(e: Edge) -> Edge:
        if school is LiningSchool.AS_ONE:
            return e
        outer = host.edge(e.name).finish if (host.name, e.name) in free else None
        if outer is None or outer.kind is FinishKind.BAGGED:
            return Edge(e.name, e.curve, own, refs.LINING_ALLOWANCE)
        return Edge(e.name, e.curve, outer if outer.kind is FinishKind.BOUND else RAW, None)

    edges = tuple(map(edge, inner.edges))
    round_ = {key: inner.sizes[key] for key in ("radius", "cut radius") if key in inner.sizes}
    made = outline(f"lining {host.name}", edges, inner.length, inner.width, cloth=Cloth.LINING, grain=host.grain, sizes=round_)
    openings = tuple(f for f in inner.figures if f.kind is MarkKind.CUT_OUT)
    return replace(made, figures=openings, take_up=host.take_up)


def _lining_runs(side: tuple[Run, ...]) -> tuple[Run, ...]:
    return tuple(replace(run, piece=f"lining {run.piece}") for run in side)


def _with_gap(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with the gap that a bagged lining is turned through: two marks in its longest seam of two straight edges; and whether a hand goes through.

    There is one where the lining meets the outer in bagged edges only.
    """
    flat, gap = cover.flat, choices.lining.turning_gap
    cloths = [({flat[run.piece].cloth for side in seam.sides for run in side}, seam) for seam in cover.seams]
    met = [seam for cloth, seam in cloths if cloth == {Cloth.OUTER, Cloth.LINING}]
    if not met or any(seam.kind != SeamKind.BAGGED for seam in met):
        return cover
    sewn: dict[tuple[str, str], bool] = {}
    for cloth, joined in cloths:
        if cloth == {Cloth.LINING}:
            level = all(_straight(flat[run.piece].edge(run.edge)) for side in joined.sides for run in side)
            sewn |= {(cover.panel_of[run.piece], run.edge): level for side in joined.sides for run in side}
    where = refs.TURNING_GAP
    findings = []
    if not LEAST_GAP <= gap <= MOST_GAP:
        least, most = Rule(80.0, 3.0), Rule(150.0, 6.0)
        text = (
            tr("The turning gap of {gap} is too small for a hand: {least} to {most}.", gap=mm(gap), least=least, most=most)
            if gap < LEAST_GAP
            else tr(
                "The turning gap of {gap} is longer than closes neatly: {least} to {most}.", gap=mm(gap), least=least, most=most
            )
        )
        usual = choices.habits.mm("turning gap")
        remedy = Remedy(tr("Leave {gap} open", gap=mm(usual)), (Change(where, usual),))
        findings.append(Finding("turning-gap", Severity.LOOK, text, where, (remedy,)))
    linings = [panel for panel in cover.panels if panel.cloth is Cloth.LINING]
    _, at, host, edge = max(
        (((panel.name, e.name) in sewn, sewn.get((panel.name, e.name), _straight(e))), e.curve.length, i, e.name)
        for i, panel in enumerate(linings)
        for e in panel.edges
    )
    share = min(0.45, gap / at / 2.0)
    marks = tuple(Notch(edge, 0.5 + side * share, "gap", MarkKind.POINT) for side in (-1.0, 1.0))
    note, panel = tr("turning gap of {gap} in the {edge}", gap=mm(gap), edge=term(edge)), linings[host]
    opened = replace(panel, notches=(*panel.notches, *marks), notes=(*panel.notes, note))
    panels = tuple(opened if p.name == panel.name else p for p in cover.panels)
    return replace(cover, panels=panels, findings=(*cover.findings, *findings))


def _straight(edge: Edge) -> bool:
    return isinstance(edge.curve, Arc) and not edge.curve.curvature
