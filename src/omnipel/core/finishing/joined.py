"""Seams as they are sewn: each as decided for it, else as the job's school has it, else as its scheme does.

Panels are parted first, then seams are left open where that is decided, then every seam gets its construction: allowances on both sides, what it takes, what
speaks against it.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace

from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.drafting.lengths import edge_length, tightest
from omnipel.core.drafting.panel import MarkKind, Notch, Panel
from omnipel.core.drafting.seams import Seam, SeamKind, Way
from omnipel.core.finishing.constructions import CONSTRUCTIONS, schools
from omnipel.core.finishing.constructions.construction import Construction, Joining
from omnipel.core.finishing.fuller import with_fullness
from omnipel.core.finishing.left_open import begins, left_open, sewn_length
from omnipel.core.finishing.parted import with_partings
from omnipel.core.finishing.refitted import refitted
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.job.finish import Finish, FinishKind, Trimmed, trimmed
from omnipel.core.job.joining import SeamChoice
from omnipel.core.words import refs
from omnipel.core.words.phrases import Ratio, mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked

CHOSEN = frozenset((SeamKind.PLAIN, SeamKind.FELLED, SeamKind.GATHERED, "zipped", "eased"))
"""How a scheme joins what a person may join otherwise; laps, boxed corners and what goes with a lining are as they are."""
OF_SCHEMES = frozenset(map(str, SeamKind))
"""How schemes join by themselves; any other kind is the key of a construction."""
SCHOOLED = frozenset((SeamKind.PLAIN, SeamKind.FELLED))
"""What follows the school of the job."""


def with_seams(cover: Cover, choices: CoverChoices, outer: Mapping[str, float] | None = None) -> Cover:
    """The cover with its panels parted and its seams sewn as decided; an inner layer is left open where the seams of its `outer`, so long, are."""
    cover, choices = with_fullness(with_partings(cover, choices), choices)
    asked = {seam.name: seam for seam in cover.seams if seam.kind in CHOSEN}
    lost = [name for name in choices.seams if name not in asked]
    lengths = {name: sewn_length(cover, seam) for name, seam in asked.items()}
    cover = replace(cover, findings=(*cover.findings, *(_unknown(name) for name in lost)), joins=lengths)
    if outer:
        choices = _in_proportion(choices, {name: length / outer[name] for name, length in lengths.items() if outer.get(name)})
    wanted: dict[str, dict[str, tuple[Finish, Ref | None]]] = {}
    seams: list[Seam] = []
    decided: list[tuple[Construction, Joining, SeamChoice]] = []
    cover = replace(cover, seams=tuple(_stretched(cover, seam, choices.seams.get(seam.name)) for seam in cover.seams))
    for name in asked:
        cover = left_open(cover, choices, name)
    for seam in cover.seams:
        name = seam.whole or seam.name
        key = _key(seam, choices) if name in asked else ""
        if not key or (construction := CONSTRUCTIONS.get(key)) is None:
            seams.append(seam)
            continue
        chosen = choices.seams.get(name, SeamChoice())
        made, joining = _made(cover, seam, construction, chosen, choices)
        seams.append(made)
        decided.append((construction, joining, chosen))
        _want(cover, made, construction.sides(joining), chosen, wanted)
    cover = refitted(replace(cover, seams=tuple(seams)), wanted)
    cover = replace(cover, panels=_with_stretches(cover))
    return _with_goods(cover, decided)


def _in_proportion(choices: CoverChoices, shares: Mapping[str, float]) -> CoverChoices:
    """The choices with places along seams as shares of those they were decided for."""
    seams = {
        name: replace(
            chosen, **{at: getattr(chosen, at) * shares.get(name, 1.0) for at in ("start", "stop", "open_from", "open_to")}
        )
        for name, chosen in choices.seams.items()
    }
    return replace(choices, seams=seams)


def _key(seam: Seam, choices: CoverChoices) -> str:
    """The construction of a seam, where somebody decides it or it takes something to sew it; "" where it stays as its scheme has it."""
    chosen = choices.seams.get(seam.whole or seam.name)
    school = choices.join if seam.kind in SCHOOLED and choices.join in schools() else ""
    if chosen is not None:
        return chosen.kind or school or str(seam.kind)
    return school or (str(seam.kind) if seam.kind not in OF_SCHEMES else "")


def _made(
    cover: Cover, seam: Seam, construction: Construction, chosen: SeamChoice, choices: CoverChoices
) -> tuple[Seam, Joining]:
    """The seam as it is sewn, and what there is to know about it to sew it so."""
    curves = [cover.flat[run.piece].edge(run.edge).curve for side in seam.sides for run in side]
    whole, stretch = sewn_length(cover, seam), seam.stretch if construction.stretches else None
    parts = [edge_length(cover.flat[run.piece], cover.flat[run.piece].edge(run.edge)) for run in seam.a]
    run = sum(parts[1:], parts[0]) / seam.ratio
    if stretch is not None:
        run = run - worked(tr("not over"), whole - (stretch[1] - stretch[0]))
    allowance = chosen.allowance if chosen.allowance is not None else _allowance(cover, seam)
    joining = Joining(
        seam=seam.whole or seam.name,
        length=run,
        times=1,
        ring=seam.ring and stretch is None,
        bend=tightest(tuple(curves)),
        wide=chosen.wide or (choices.habits.mm(construction.habit) if construction.habit else 0.0),
        allowance=allowance,
        thick=choices.cloth.thickness,
        choices=choices,
        fuller=seam.ratio,
    )
    rows = construction.rows if chosen.rows is None else chosen.rows
    made = replace(
        seam,
        kind=construction.key if seam.ratio == 1.0 else seam.kind,
        rows=rows,
        tacked=chosen.tacked,
        stretch=stretch,
        wide=joining.wide,
    )
    return made, joining


def _allowance(cover: Cover, seam: Seam) -> float:
    """The allowance that a seam has by its scheme: that of its first side."""
    return cover.flat[seam.a[0].piece].edge(seam.a[0].edge).finish.width


def _stretched(cover: Cover, seam: Seam, chosen: SeamChoice | None) -> Seam:
    """The seam with from where to where its construction runs, mm along its first side; nothing where it runs all along."""
    if chosen is None or not (chosen.start or chosen.stop):
        return seam
    whole = sewn_length(cover, seam)
    stop = min(chosen.stop or whole, whole)
    start = min(chosen.start, stop)
    return replace(seam, stretch=(whole - stop, whole - start) if begins(cover, seam).turned else (start, stop))


def _want(
    cover: Cover,
    seam: Seam,
    finishes: tuple[Finish, Finish],
    chosen: SeamChoice,
    wanted: dict[str, dict[str, tuple[Finish, Ref | None]]],
) -> None:
    """What the edges of a seam are to be finished with."""
    where = refs.seam(seam.whole or seam.name, "allowance")
    for k, (side, finish) in enumerate(zip(seam.sides, finishes, strict=True)):
        if k and seam.onto:
            continue
        own = replace(finish, width=chosen.under) if k and chosen.under is not None else finish
        for run in side:
            edge = cover.flat[run.piece].edge(run.edge)
            if edge.finish.width == own.width and edge.finish.kind in (FinishKind.SEAM, FinishKind.TRIMMED):
                continue
            made = trimmed(own.width, edge.finish.spare) if isinstance(edge.finish, Trimmed) else own
            wanted.setdefault(run.piece, {})[run.edge] = (made, where)


def _with_stretches(cover: Cover) -> tuple[Panel, ...]:
    """The panels with marks where a construction begins and ends that does not run all along its seam."""
    marks: dict[str, dict[tuple[str, float], Notch]] = {}
    for seam in cover.seams:
        if seam.stretch is None:
            continue
        for side in seam.sides:
            way = Way(side, cover.flat)
            whole = sewn_length(cover, seam)
            for words, at in zip(("from", "to"), seam.stretch, strict=True):
                if 0.0 < at < whole:
                    run, fraction = way.locate(at / whole)
                    mark = Notch(run.edge, fraction, words, MarkKind.POINT)
                    marks.setdefault(cover.panel_of[run.piece], {})[run.edge, round(fraction, 6)] = mark
    return tuple(
        replace(panel, notches=(*panel.notches, *marks[panel.name].values())) if panel.name in marks else panel
        for panel in cover.panels
    )


def _with_goods(cover: Cover, decided: Iterable[tuple[Construction, Joining, SeamChoice]]) -> Cover:
    """What the seams take, those alike told together, and what there is to say about them."""
    alike: dict[object, list[tuple[Construction, Joining, SeamChoice]]] = {}
    for construction, joining, chosen in decided:
        key = (joining.seam, construction.key, round(joining.length.value, 3), joining.ring)
        alike.setdefault(key, []).append((construction, joining, chosen))
    hardware: list[Hardware] = []
    findings: list[Finding] = []
    told: set[str] = set()
    for group in sorted(alike.values(), key=lambda group: -group[0][1].length.value):  # what runs longest is judged
        construction, joining, chosen = group[0]
        joining = replace(joining, times=len(group))
        if joining.length.value > 0.0:
            hardware += construction.goods(joining)
        if joining.seam not in told:
            told.add(joining.seam)
            findings += _judged(construction, joining, chosen, cover.joins[joining.seam])
    return replace(cover, hardware=(*cover.hardware, *hardware), findings=(*cover.findings, *findings))


def _judged(construction: Construction, joining: Joining, chosen: SeamChoice, most: float) -> Iterator[Finding]:
    """What speaks against a seam as it is decided."""
    back = Remedy(tr("Sew {seam} as usual", seam=joining.called), (Change(joining.where.at("kind"), ""),))
    system = joining.choices.habits.system
    for against in construction.against(joining):
        better: tuple[Remedy, ...] = ()
        if against.part and against.better > 0.0:
            what = {"allowance": tr("allowance"), "fuller": tr("fuller")}.get(against.part, construction.wide)
            better_ = Ratio(against.better) if against.part == "fuller" else mm(against.better)
            words = tr("{what}: {better}", what=what, better=better_)
            better = (Remedy(words, (Change(joining.where.at(against.part), against.better),)),)
        text = tr("{seam}, {how}: {why}.", seam=joining.called, how=construction.words, why=against.text)
        yield Finding(
            "construction-unsuited", Severity.LOOK, text, joining.where.at("kind"), (*better, *((back,) if chosen.kind else ()))
        )
    for part in ("start", "stop", "open_to"):
        if getattr(chosen, part) > most + 1.0:
            text = tr(
                "{seam} is {length} long: {what} lies beyond its end.",
                seam=joining.called,
                length=mm(most),
                what=mm(getattr(chosen, part)),
            )
            less = Remedy(tr("To its end"), (Change(joining.where.at(part), 0.0 if part != "open_to" else system.down(most)),))
            shut = Remedy(tr("Do not leave it open"), tuple(Change(joining.where.at(p), 0.0) for p in ("open_from", "open_to")))
            remedies = (shut, less) if part == "open_to" else (less,)
            yield Finding("stretch-beyond-seam", Severity.STOP, text, joining.where.at(part), remedies)
    if chosen.stop and chosen.start >= chosen.stop:
        text = tr(
            "{seam}: nothing lies between {start} and {stop}.", seam=joining.called, start=mm(chosen.start), stop=mm(chosen.stop)
        )
        all_along = (Change(joining.where.at("start"), 0.0), Change(joining.where.at("stop"), 0.0))
        yield Finding("stretch-beyond-seam", Severity.STOP, text, joining.where.at("stop"), (Remedy(tr("All along"), all_along),))


def _unknown(name: str) -> Finding:
    text = tr("This cover has no seam “{seam}” to decide about: what was decided about it changes nothing.", seam=term(name))
    drop = Remedy(tr("Forget it"), (Change(refs.seam(name), act=Act.REMOVE),))
    return Finding("choice-unused", Severity.LOOK, text, refs.seam(name, "kind"), (drop,))
