"""The edges of openings: each is finished and held as it was decided, and what that takes is as long as that very edge.

What is decided for one opening goes before what holds for all edges of the cover; a lining that is bagged or bound decides it for those left open.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import replace

import numpy as np

from omnipel.core.covers.dressed import Dressed, decided
from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.drafting.lengths import edge_length, tightest
from omnipel.core.drafting.panel import Edge, MarkKind, Notch
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.topology import Opening, surface
from omnipel.core.drafting.walking import walk
from omnipel.core.finishing.drawn_in import judged
from omnipel.core.finishing.facings import facings
from omnipel.core.finishing.refitted import refitted
from omnipel.core.finishing.strips import TIGHTEST, binding_width, piping, strip
from omnipel.core.job.document import CoverChoices, LiningSchool
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.job.finish import Finish, FinishKind, usual_finish
from omnipel.core.plane.curves import Arc
from omnipel.core.tolerances import ELASTIC_STRETCH
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, mm, term, tr, trn
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, worked

USUAL_WIDE: Mapping[Hold, str] = {Hold.CORD: "drawcord", Hold.ELASTIC: "elastic", Hold.HOOK_AND_LOOP: "hook-and-loop"}
"""The habit of how wide each is."""
EASY = 0.9
"""An elastic is stretched no further than to this share of what it can take."""
BACK = math.cos(math.radians(120.0))
"""An edge that turns by more than this turns back on itself."""
ENTRY = 3.0
"""Cord or elastic is drawn in through a gap so many times as wide as it is."""


def with_edges(cover: Cover, choices: CoverChoices, asked: tuple[str, ...]) -> Cover:
    """The cover with the edges of its openings finished and held as decided; `asked` are those that are not the scheme's own to decide."""
    asked = (*asked, *cover.slits)
    found = surface(cover.panels, cover.pieces, cover.seams).openings if cover.openings else ()
    rounds: dict[str, Opening] = {}
    for name, run in cover.openings.items():
        opening = next((o for o in found if o.has(run.piece, run.edge)), None)
        if opening is not None and opening not in rounds.values():  # a seam left open to its end is part of another opening
            rounds[name] = opening
    cover = refitted(cover, _decided(cover, choices, rounds, asked))
    dressed = tuple(_dressed(cover, choices, name, opening, name in asked) for name, opening in rounds.items())
    cover = replace(cover, edges=dressed, gathers=cover.gathers or any(edge.drawn for edge in dressed))
    for edge in dressed:
        if edge.asked:
            cover = _with_goods(cover, choices, edge)
    return replace(cover, findings=(*cover.findings, *_unused(cover, choices, dressed)))


def _decided(
    cover: Cover, choices: CoverChoices, rounds: Mapping[str, Opening], asked: tuple[str, ...]
) -> dict[str, dict[str, tuple[Finish, Ref | None]]]:
    """What is decided about the free edges of each piece. A seam left open is turned back, unless something else is decided for it."""
    wanted: dict[str, dict[str, tuple[Finish, Ref | None]]] = {}
    for name, opening in rounds.items():
        slit = name in cover.slits
        if name not in asked or (slit and choices.edges.get(name, EdgeChoice()).finish is None):
            continue
        how = decided(choices, name)
        for run in opening.runs:
            edge = _edge(cover, run)
            if (slit or edge.source == refs.HEM) and edge.finish.kind is not FinishKind.FOLD:
                wanted.setdefault(run.piece, {})[run.edge] = (how.finish, how.source)
    return wanted


def _dressed(cover: Cover, choices: CoverChoices, name: str, opening: Opening, asked: bool) -> Dressed:
    chosen = choices.edges.get(name, EdgeChoice()) if asked else EdgeChoice()
    length = length_of(cover, opening)
    finish = next(
        (e.finish for e in (_edge(cover, run) for run in opening.runs) if e.finish.kind is not FinishKind.FOLD), choices.hem
    )
    order = chosen.order or choices.hem_order
    made = Dressed(name, opening.runs, length, finish, order, chosen.held_by, asked=asked)
    if not made.drawn:
        return made
    limit = choices.cloth.gather_limit
    furthest = min(limit, ELASTIC_STRETCH * EASY) if made.held_by is Hold.ELASTIC else limit
    return replace(made, drawn_to=chosen.drawn_to or length.value / furthest)


def length_of(cover: Cover, opening: Opening) -> Worked:
    """How long the edge of an opening is: the edges of every piece around it."""
    total: Worked | None = None
    for run in opening.runs:
        part = edge_length(cover.flat[run.piece], _edge(cover, run))
        total = part if total is None else total + part
    return total if total is not None else worked(tr("nothing"), 0.0)


def _with_goods(cover: Cover, choices: CoverChoices, edge: Dressed) -> Cover:
    """What an edge takes: binding, facing, cord, elastic, hook-and-loop; where cord or elastic goes in; whether all that can be."""
    habits, called = choices.habits, tr("the {edge}", edge=term(edge.name))
    bought: list[Hardware] = []
    if edge.finish.kind is FinishKind.BOUND:
        bend = tightest(tuple(_edge(cover, run).curve for run in edge.runs))
        bought.append(_binding(edge, choices, bend, cover.thickness - choices.padding))
    if edge.finish.kind is FinishKind.PIPED:
        bend = tightest(tuple(_edge(cover, run).curve for run in edge.runs))
        ends = 2 * _turns_back(cover, edge.runs)
        bought += piping(edge.length, edge.finish.width, edge.finish.turn_under, bend, ends, choices, called)
        cover = replace(cover, findings=(*cover.findings, *_stiff(edge, choices, bend)))
    if edge.finish.kind is FinishKind.FACING:
        cover = facings(cover, edge, habits)
    wide = width_of(choices, edge)
    match edge.held_by:
        case Hold.CORD:
            cord = edge.length + worked(tr("tail"), habits.mm("tail")) * 2.0
            bought.append(Hardware(term(edge.held_by), cord, note=_in_edge(called, edge, wide), size=wide))
        case Hold.ELASTIC:
            elastic = worked(tr("drawn to"), edge.drawn_to, refs.edge(edge.name, "drawn_to"))
            elastic = elastic + worked(tr("overlap"), habits.mm("elastic overlap"))
            bought.append(Hardware(term(edge.held_by), elastic, note=_in_edge(called, edge, wide), size=wide))
        case Hold.HOOK_AND_LOOP:
            note = tr("along {edge}, {wide} wide", edge=called, wide=mm(wide))
            bought.append(Hardware(term(edge.held_by), edge.length, note=note, size=wide))
        case Hold.NOTHING:
            pass
    cover = replace(cover, hardware=(*cover.hardware, *bought), findings=(*cover.findings, *judged(edge, choices, wide)))
    return _with_entry(cover, edge, max(habits.mm("entry gap"), habits.system.up(ENTRY * wide))) if edge.drawn else cover


def width_of(choices: CoverChoices, edge: Dressed) -> float:
    """How wide what holds an edge is, mm."""
    chosen = choices.edges.get(edge.name, EdgeChoice()).wide
    return chosen or (choices.habits.mm(USUAL_WIDE[edge.held_by]) if edge.held_by in USUAL_WIDE else 0.0)


def _in_edge(called: Phrase, edge: Dressed, wide: float) -> Phrase:
    return tr("{wide} wide, in {edge}, drawn in to {drawn}", wide=mm(wide, fine=True), edge=called, drawn=mm(edge.drawn_to))


def _turns_back(cover: Cover, runs: tuple[Run, ...]) -> int:
    """How often an edge turns back on itself where the next begins, as at the ends of a slot: no cord goes around there."""
    ends = np.array((0.0, 0.01, 0.99, 1.0))
    ways = []
    for run in runs:
        begin, after, before, end = walk((run,), named(cover.pieces), cover.flat, ends)
        ways.append((after - begin, end - before))
    nexts = [*ways[1:], ways[0]] if ways else []
    return sum(
        float(was @ comes) < BACK * float(np.linalg.norm(was) * np.linalg.norm(comes))
        for (_, was), (comes, _) in zip(ways, nexts, strict=True)
    )


def _stiff(edge: Dressed, choices: CoverChoices, bend: float) -> Iterator[Finding]:
    """A cord that is too thick for the bends of its edge."""
    cord = edge.finish.width
    if bend >= TIGHTEST * cord:
        return
    own = choices.edges.get(edge.name, EdgeChoice()).finish is not None
    where = refs.edge(edge.name, "finish.width") if own else refs.HEM_WIDTH
    text = tr(
        "The {edge} is piped: a cord of {wide} does not go around a bend of {bend}.",
        edge=term(edge.name),
        wide=mm(cord, fine=True),
        bend=mm(bend),
    )
    thinner = choices.habits.system.down(bend / TIGHTEST)
    remedies = (Remedy(tr("A cord of {wide}", wide=mm(thinner, fine=True)), (Change(where, thinner),)),) if thinner else ()
    yield Finding("construction-unsuited", Severity.LOOK, text, where, remedies)


def _binding(edge: Dressed, choices: CoverChoices, bend: float, thick: float) -> Hardware:
    """A strip that is folded around the edge, its ends joined."""
    length = edge.length + worked(tr("to join it"), choices.habits.mm("binding join"))
    what = tr("along the {edge}, {shown} when finished", edge=term(edge.name), shown=mm(edge.finish.width))
    return strip(tr("binding"), length, binding_width(edge.finish.width, thick), bend, choices.cloth.cut_width, what)


def _with_entry(cover: Cover, edge: Dressed, gap: float) -> Cover:
    """The gap through which cord or elastic is drawn in: marked in the middle of the edge's longest part, a straight one before a bent one."""
    if edge.finish.folded == 0.0:
        return cover
    folded = [run for run in edge.runs if _edge(cover, run).finish.folded]
    run = max(folded, key=lambda run: (_straight(cover, run), cover.flat[run.piece].count == 1, _edge(cover, run).curve.length))
    panel, along = cover.flat[run.piece], _edge(cover, run).curve.length
    share = min(0.45, gap / along / 2.0)
    marks = tuple(Notch(run.edge, 0.5 + side * share, "gap", MarkKind.POINT) for side in (-1.0, 1.0))
    note = trn(
        "entry gap of {gap} in the {edge}",
        "entry gap of {gap} in the {edge}, in one of them",
        panel.count,
        gap=mm(gap),
        edge=term(run.edge),
    )
    made = replace(panel, notches=(*panel.notches, *marks), notes=(*panel.notes, note))
    return replace(cover, panels=tuple(made if p.name == panel.name else p for p in cover.panels))


def _straight(cover: Cover, run: Run) -> bool:
    curve = _edge(cover, run).curve
    return isinstance(curve, Arc) and not curve.curvature


def _unused(cover: Cover, choices: CoverChoices, dressed: tuple[Dressed, ...]) -> Iterator[Finding]:
    """Decisions about openings that this cover does not have, or that its scheme makes itself; edges to be bagged without a lining."""
    known = {edge.name for edge in dressed if edge.asked}
    for name in choices.edges:
        if name not in known:
            text = tr(
                "This cover has no opening “{opening}” to decide about: what was decided about it changes nothing.",
                opening=term(name),
            )
            drop = Remedy(tr("Forget it"), (Change(refs.edge(name), act=Act.REMOVE),))
            yield Finding("choice-unused", Severity.LOOK, text, refs.edge(name), (drop,))
    if choices.lining.school in (LiningSchool.NONE, LiningSchool.AS_ONE):
        for edge in dressed:
            if edge.asked and edge.finish.kind is FinishKind.BAGGED:
                yield _nothing_to_bag(edge, choices)


def _nothing_to_bag(edge: Dressed, choices: CoverChoices) -> Finding:
    where = refs.edge(edge.name, "finish") if choices.edges.get(edge.name, EdgeChoice()).finish is not None else refs.HEM
    text = tr("The {edge} is to be bagged with a lining, but there is none: it would stay raw.", edge=term(edge.name))
    lining = Remedy(tr("Line it, bagged"), (Change(refs.LINING_SCHOOL, LiningSchool.BAGGED),))
    hem = usual_finish(FinishKind.DOUBLE_HEM, choices.habits, 0.0)
    hemmed = Remedy(tr("Hem it {width}", width=mm(hem.width)), (Change(where, hem),))
    return Finding("nothing-to-bag", Severity.STOP, text, where, (hemmed, lining))


def _edge(cover: Cover, run: Run) -> Edge:
    return cover.flat[run.piece].edge(run.edge)
