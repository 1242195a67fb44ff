"""The edges of openings: folded, stitched, bound, faced, piped or sealed, flat or when they are round; what runs in them and what holds them."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any, Final

from omnipel.core.covers.dressed import Dressed
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Run, SeamKind
from omnipel.core.finishing.facings import is_facing
from omnipel.core.finishing.operation import After, Check, Operation, Pace, Work
from omnipel.core.finishing.stitching import PINS_APART
from omnipel.core.job.document import Iron
from omnipel.core.job.edges import Hold
from omnipel.core.job.finish import FOLDED, Finish, FinishKind
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, mm, term, tr

OVERLAP: Final = 3
"""An elastic's ends are zigzagged across so often."""


def of_edges(making: Making) -> Iterator[Operation]:
    """Every opening's edge."""
    for edge in making.edges:
        yield from _edge(making, edge)
    yield from _loose(making)


def _edge(making: Making, edge: Dressed) -> Iterator[Operation]:
    groups: dict[Finish, list[Run]] = {}
    for run in edge.runs:
        groups.setdefault(_finish(making, run), []).append(run)
    for k, (finish, runs) in enumerate(groups.items()):
        key = f"edge:{edge.name}" + (f"#{k + 1}" if k else "")
        yield from _finished(making, edge, key, finish, runs)
    if edge.held_by is Hold.HOOK_AND_LOOP:
        words = tr("Sew hook-and-loop along {edge}", edge=_called(edge))
        long = making.long(edge.runs)
        touch = _does(making, edge, f"edge:{edge.name}/touch", "touch edge", words, edge.runs, Work(Pace.STRAIGHT, 2.0 * long))
        done = (After(f"edge:{edge.name}/stitch", tr("on the finished edge")),) if edge.finish.folded else ()
        yield replace(touch, after=done)


def _finish(making: Making, run: Run) -> Finish:
    """How an edge is finished, whatever is cut longer to be trimmed."""
    finish = making.edge(run).finish
    return Finish(kind=finish.kind, width=finish.width, turn_under=finish.turn_under)


def _called(edge: Dressed) -> Phrase:
    return tr("the {edge}", edge=term(edge.name))


def _does(making: Making, edge: Dressed, key: str, deed: str, words: Phrase, runs: Sequence[Run], *work: Work) -> Operation:
    return Operation(
        key=key,
        deed=deed,
        words=words,
        ref=refs.edge(edge.name, "finish"),
        on=tuple(dict.fromkeys(run.piece for run in runs)),
        edges=tuple(runs),
        opening=edge.name,
        work=work,
    )


def _finished(making: Making, edge: Dressed, key: str, finish: Finish, runs: list[Run]) -> Iterator[Operation]:
    match finish.kind:
        case kind if kind in FOLDED:
            yield from _folded(making, edge, key, finish, runs)
        case FinishKind.BOUND:
            yield _bound(making, edge, key, finish, runs)
        case FinishKind.FACING:
            yield from _faced(making, edge, key, finish, runs)
        case FinishKind.PIPED:
            yield from _piped(making, edge, key, finish, runs)
        case FinishKind.RAW if making.choices.cloth.frays and not making.choices.cloth.hot_cut:
            words = tr("Seal or zigzag {edge}: it stays raw and this cloth frays", edge=_called(edge))
            yield _does(making, edge, f"{key}/seal", "seal edge", words, runs, Work(Pace.HOT_CUT, making.long(runs)))
        case _:
            return


def _rounds(making: Making, edge: Dressed, runs: list[Run]) -> list[list[Run]]:
    """What is hemmed in one go: opposite sides first where hems of one flat piece meet in square corners."""
    mitred = all(making.flat[run.piece].mitred for run in runs)
    alone = len({run.piece for run in runs}) == 1 and len(runs) > 2 and len(runs) % 2 == 0
    if alone and not mitred and making.first(edge):
        return [runs[0::2], runs[1::2]]
    return [runs]


def _folded(making: Making, edge: Dressed, key: str, finish: Finish, runs: list[Run]) -> Iterator[Operation]:
    flat, rounds = making.first(edge), _rounds(making, edge, runs)
    if flat:
        runs_in_order = [run for part in rounds for run in part]
        rounds = rounds if len(rounds) > 1 else [runs_in_order]
    before = ""
    for k, part in enumerate(rounds):
        own = f"{key}/{k + 1}" if len(rounds) > 1 else key
        order = (After(before, tr("the corner stacks in order: two opposite sides first")),) if before else ()
        for step in _hemmed(making, edge, own, finish, part, flat=flat, part_of=len(rounds) > 1):
            folds = order and step.deed in ("press hem", "score hem")
            yield replace(step, after=(*step.after, *order)) if folds else step
        before = f"{own}/stitch"
    if _drawn(finish):
        yield from _threaded(making, edge, key, finish, runs, before)


def _drawn(finish: Finish) -> bool:
    return finish.kind in (FinishKind.CORD_CASING, FinishKind.ELASTIC_CASING)


def _hemmed(
    making: Making, edge: Dressed, key: str, finish: Finish, runs: list[Run], *, flat: bool, part_of: bool
) -> Iterator[Operation]:
    """Folded, then stitched; a cord lies in its fold before a flat casing is stitched."""
    cloth, long = making.choices.cloth, making.long(runs)
    called = tr("{edge}, {sides}", edge=_called(edge), sides=listed(term(run.edge) for run in runs)) if part_of else _called(edge)
    ironed, casing = cloth.iron is not Iron.NEVER, _drawn(finish)
    what = tr("casing") if casing else tr("hem")
    words = (
        tr("Press the {what} of {edge}", what=what, edge=called)
        if ironed
        else tr("Score and tape the {what} of {edge}", what=what, edge=called)
    )
    checks = [Check(tr("{what} as folded", what=what), finish.width)]
    if finish.turn_under:
        checks.append(Check(tr("turned under"), finish.turn_under))
    corners = (tr("fold the corners to a mitre"),) if any(making.flat[run.piece].mitred for run in runs) else ()
    fold = _does(
        making, edge, f"{key}/press", "press hem" if ironed else "score hem", words, runs, Work(Pace.PRESSING, 2.0 * long)
    )
    yield replace(fold, checks=tuple(checks), notes=corners)
    last = f"{key}/press"
    laid_in = finish.kind is FinishKind.CORD_CASING and making.laid_in(edge)
    if laid_in:
        words = tr("Lay the cord into the fold of {edge}, clear of the stitch line, and pin both its ends", edge=called)
        lay = _does(making, edge, f"{key}/cord", "lay cord", words, runs, Work(Pace.PIN, max(2.0, long / 150.0)))
        cord = Check(tr("cord free to slide"))
        yield replace(lay, checks=(cord,), after=(After(last, tr("the fold has to be there")),))
        last = f"{key}/cord"
    words = tr("Stitch the casing of {edge}", edge=called) if casing else tr("Stitch the hem of {edge}", edge=called)
    stitched = _does(
        making,
        edge,
        f"{key}/stitch",
        "casing" if casing else "hem",
        words,
        runs,
        Work(Pace.HEM, long),
        Work(Pace.PIN, long / PINS_APART),
    )
    notes = [tr("close to the inner fold; never across the cord")] if casing else [tr("close to the inner fold")]
    if casing and not laid_in:
        notes.append(tr("leave the marked gap open"))
    seams = tuple(
        i for run in runs for i in making.in_seam.get((run.piece, run.edge), ()) if making.seams[i].kind == SeamKind.CAUGHT
    )
    why = tr("the cord cannot be laid in once it is stitched") if last.endswith("cord") else tr("what is folded is stitched")
    yield replace(stitched, notes=tuple(notes), after=(After(last, why),), seams=tuple(dict.fromkeys(seams)))


def _threaded(making: Making, edge: Dressed, key: str, finish: Finish, runs: Sequence[Run], stitched: str) -> Iterator[Operation]:
    """What runs in a casing: an elastic drawn in, joined, its gap closed; a cord drawn in where it was not laid in, its ends finished."""
    flat, called = making.first(edge), _called(edge)
    if edge.asked and not edge.drawn:
        return
    if finish.kind is FinishKind.ELASTIC_CASING:
        yield from elastic(making, key, called, (After(stitched, tr("the casing is stitched first")),), edge.name, runs)
        return
    drawn: tuple[After, ...] = ()
    if not flat:
        words = tr("Draw the cord into the casing of {edge} through its gap; secure both ends before you pull", edge=called)
        thread = _does(making, edge, f"{key}/thread", "thread", words, runs, Work(Pace.FIXED, 2.0 + making.long(runs) / 1000.0))
        yield replace(thread, after=(After(stitched, tr("the casing is stitched first")),))
        drawn = (After(f"{key}/thread", tr("the cord has to be in")),)
    crossed = making.over_cord(edge, runs)
    if crossed:
        words = tr("Sew the ends of the casing of {edge} together by hand, over the cord and not through it", edge=called)
        work = Work(Pace.HAND, len(crossed) * 2.0 * finish.width), Work(Pace.PIECE, float(len(crossed)))
        sewn = tuple(After(f"{making.keys[i]}/sew", tr("the seam beside it is sewn first")) for i in crossed)
        by_hand = _does(making, edge, f"{key}/by hand", "sew over cord", words, runs, *work)
        yield replace(
            by_hand, after=(After(stitched, tr("the casing is stitched first")), *sewn), checks=(Check(tr("cord free to slide")),)
        )
        drawn = (After(f"{key}/by hand", tr("the casing is whole before it is drawn in")),)
    words = tr("Draw the cord of {edge} to its girth, lock it across the end, cut off and seal what is over", edge=called)
    checks = (Check(tr("drawn in to"), edge.drawn_to),) if edge.drawn_to else ()
    done = _does(making, edge, f"{key}/draw", "finish cord", words, runs, Work(Pace.FIXED, 3.0))
    yield replace(
        done, checks=checks, after=drawn or (After(stitched, tr("the casing is stitched first")),), cautions=("small parts",)
    )


def elastic(
    making: Making, key: str, called: Phrase, after: tuple[After, ...], opening: str = "", runs: Sequence[Run] = ()
) -> Iterator[Operation]:
    """Drawn in, its ends overlapped and sewn, the gap closed; nothing is ironed any more then."""
    lap = making.choices.habits.mm("elastic overlap")
    on = tuple(dict.fromkeys(run.piece for run in runs)) or making.surface[:1]
    ref = refs.edge(opening, "finish") if opening else refs.option("fastening")

    def does(action: str, deed: str, words: Phrase, minutes: float, *before: After, **more: Any) -> Operation:
        return Operation(key=f"{key}/{action}", deed=deed, words=words, ref=ref, on=on, edges=tuple(runs), opening=opening,
                         work=(Work(Pace.FIXED, minutes),), after=before, **more)  # fmt: skip

    long = next((item.length.value for item in making.goods if str(item.name) == "elastic" and item.length is not None), 0.0)
    pin = (tr("pin its far end to the gap before you pull: it must not follow"),)
    yield does("thread", "thread", tr("Draw the elastic into the casing of {edge}", edge=called), 3.0, *after, notes=pin,
               checks=(Check(tr("elastic as cut"), long),) if long else (), cautions=("small parts",))  # fmt: skip
    words = tr("Overlap the elastic's ends by {lap} and zigzag them three times: {edge}", lap=mm(lap), edge=called)
    yield does(
        "join", "join elastic", words, 1.5, After(f"{key}/thread", tr("it has to be in")), checks=(Check(tr("not twisted")),)
    )
    words = tr("Close the gap of {edge}", edge=called)
    yield does("close", "close casing", words, 1.5, After(f"{key}/join", tr("its end would be lost in the casing")))


def _bound(making: Making, edge: Dressed, key: str, finish: Finish, runs: list[Run]) -> Operation:
    words = tr("Bind {edge}: from the inside, then turned over and topstitched", edge=_called(edge))
    long = making.long(runs)
    seams = tuple(
        i for run in runs for i in making.in_seam.get((run.piece, run.edge), ()) if making.seams[i].kind == SeamKind.BOUND
    )
    join = (tr("join its ends, or fold the start under"),)
    bind = _does(making, edge, f"{key}/bind", "bind edge", words, runs, Work(Pace.BINDING, long))
    return replace(
        bind, seams=tuple(dict.fromkeys(seams)), notes=join, checks=(Check(tr("binding, finished width"), finish.width),)
    )


def _faced(making: Making, edge: Dressed, key: str, finish: Finish, runs: list[Run]) -> Iterator[Operation]:
    long, called = making.long(runs), _called(edge)
    words = tr("Sew the facing of {edge} on, right sides together", edge=called)
    seams = tuple(
        i for run in runs for i in making.in_seam.get((run.piece, run.edge), ()) if making.seams[i].kind == SeamKind.CAUGHT
    )
    mine = {run.piece for run in runs}
    strips = tuple(name for name, piece in making.pieces.items() if piece.on in mine and is_facing(making.flat[name]))
    join = (tr("join the strips at their ends first"),) if len(strips) > 1 else ()
    face = _does(
        making, edge, f"{key}/face", "face edge", words, runs, Work(Pace.CURVED, long), Work(Pace.PIN, long / PINS_APART)
    )
    yield replace(face, on=(*face.on, *strips), notes=join)
    words = tr("Turn the facing of {edge} to the inside, its edge under, and stitch it down", edge=called)
    turned = _does(making, edge, f"{key}/stitch", "hem", words, runs, Work(Pace.HEM, long))
    after = (After(f"{key}/face", tr("it is turned when it is sewn on")),)
    yield replace(
        turned, after=after, seams=tuple(dict.fromkeys(seams)), checks=(Check(tr("depth of the facing"), finish.width),)
    )


def _piped(making: Making, edge: Dressed, key: str, finish: Finish, runs: list[Run]) -> Iterator[Operation]:
    long, called = making.long(runs), _called(edge)
    words = tr("Make the piping for {edge}: cord in its strip, stitched close", edge=called)
    make = _does(making, edge, f"{key}/piping", "make piping", words, (), Work(Pace.STRAIGHT, long))
    yield replace(make, on=(), checks=(Check(tr("piping is long enough"), long),))
    words = tr("Sew the piping to {edge}, turn its allowance in and stitch it down", edge=called)
    seams = tuple(
        i for run in runs for i in making.in_seam.get((run.piece, run.edge), ()) if making.seams[i].kind == SeamKind.CAUGHT
    )
    sew = _does(making, edge, f"{key}/pipe", "pipe edge", words, runs, Work(Pace.CURVED, long), Work(Pace.HEM, long))
    yield replace(sew, after=(After(f"{key}/piping", tr("there has to be piping")),), seams=tuple(dict.fromkeys(seams)))


def _loose(making: Making) -> Iterator[Operation]:
    """Free edges that belong to no opening that is told of: turned back and stitched where they are folded."""
    told = {(run.piece, run.edge) for edge in making.edges for run in edge.runs}
    for name in making.surface:
        panel = making.flat[name]
        if panel.cloth is not Cloth.OUTER:
            continue
        for own in panel.edges:
            if (name, own.name) not in told and (name, own.name) not in making.in_seam and own.finish.kind in FOLDED:
                words = tr("Hem the {edge} of {piece}", edge=term(own.name), piece=term(name))
                yield Operation(
                    key=f"piece:{name}/{own.name}/stitch",
                    deed="hem",
                    words=words,
                    ref=refs.panel(panel.name),
                    on=(name,),
                    edges=(Run(name, own.name),),
                    work=(Work(Pace.HEM, own.curve.length),),
                    checks=(Check(tr("hem as folded"), own.finish.width),),
                )
