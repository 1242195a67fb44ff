"""Each deed: what it needs of the cover, what is cut for it, how it is done. Formulas: trade's book, seams and ease.

A seam let out by y on each side gives 2y around; n of them 2ny. Where a seam ends in a ring that stays as it is, the ring takes what can be eased into it;
what is more tapers to nothing there.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import Final

import numpy as np

from omnipel.core.covers.altered import Altered, Chore
from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, counted
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.altering.across import LEFT, SLOW, Across, across, called, given_by, mouth, pieces_on
from omnipel.core.finishing.altering.strip import strip
from omnipel.core.finishing.closing import SPREAD
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.findings import Impossible
from omnipel.core.job.finish import FOLDED, seam
from omnipel.core.job.trying import Alteration, Deed
from omnipel.core.plane.curves import Arc
from omnipel.core.space.placements import Laid
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, Rule, mm, term, tr, trn
from omnipel.core.words.working import Worked, worked

ROUND_A_PORT: Final = Rule(20.0, 0.75)
"""A patch is larger than the old opening by so much on each side."""
LEAST_HEM: Final = 10.0
"""A hem that was let down is turned at least so deep, mm."""


def with_alterations(cover: Cover, chosen: Sequence[Alteration], choices: CoverChoices) -> Cover:
    """The cover with what is cut and bought for what is to be done to it."""
    made = tuple(altered(cover, one, choices) for one in chosen)
    done = [one for one in made if not one.refused]
    if not made:
        return cover
    pieces = (*cover.pieces, *(piece for one in done for piece in one.pieces))
    panels = counted((*cover.panels, *(panel for one in done for panel in one.panels)), pieces)
    bought = tuple(Hardware(name, length, size=size, note=one.words) for one in done for name, length, size in one.goods)
    return replace(cover, panels=panels, pieces=pieces, hardware=(*cover.hardware, *bought), altered=made)


def altered(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    """An alteration as it comes out on a cover; refused where it cannot be."""
    try:
        made = DEEDS[what.deed](cover, what, choices)
        return made if made.refused else _moving(cover, made)
    except (Impossible, KeyError) as error:
        why = error.text if isinstance(error, Impossible) else tr("what it was to be done to is not there any more")
        return Altered(what, term(what.deed), refused=why)


def _moving(cover: Cover, made: Altered) -> Altered:
    """With how sizes that were measured before and after it differ: around its mouth, and along what hangs there."""
    edge, what = mouth(cover), made.what
    if edge is None:
        return made
    panels = frozenset(cover.panel_of[name] for name in made.on if name in cover.panel_of)
    if what.deed in (Deed.HEM, Deed.HEM_DOWN):
        down = what.by if what.deed is Deed.HEM_DOWN else -what.by
        hung = {cover.panel_of[run.piece] for run in edge.runs}
        moves = {f"panel:{name}/{part}": down for name in hung for part in ("width", "width/back")}
        return replace(made, moves=moves)
    if not made.gives or what.deed is Deed.SLIT:
        return made
    by = -what.by if what.deed in (Deed.TAKE_IN, Deed.DART) else what.by
    return replace(made, moves={f"edge:{edge.name}": by}, panels_on=panels)


def _let_out(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    found = across(cover)
    words = tr("let {seams} out by {by}", seams=called(found), by=mm(what.by)) if found else term(what.deed)
    if not found:
        return Altered(what, words, refused=tr("no seam lies across"))
    each = what.by / (2.0 * len(found))
    room = min(one.room for one in found)
    facts = (
        (tr("let out on each side of a seam"), _each(what, found)),
        (tr("allowance left"), worked(tr("seam allowance"), room + LEFT, refs.SEAM_ALLOWANCE) - _each(what, found)),
    )
    made = Altered(
        what, words, facts, gives=given_by(cover, found, what.by), on=pieces_on(found), chores=tuple(_resewn(found, cover, each))
    )
    if each > room + 1e-9:
        left = tr("too little allowance: {room} can be let out on each side, {each} is wanted", room=mm(room), each=mm(each))
        return replace(made, refused=left)
    return made


def _take_in(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    found = across(cover)
    words = tr("take {seams} in by {by}", seams=called(found), by=mm(what.by)) if found else term(what.deed)
    if not found:
        return Altered(what, words, refused=tr("no seam lies across"))
    each = _each(what, found)
    gives = tuple((depth, -by) for depth, by in given_by(cover, found, what.by))
    facts = ((tr("taken in on each side of a seam"), each),)
    return Altered(what, words, facts, gives=gives, on=pieces_on(found), chores=tuple(_resewn(found, cover, each.value)))


def _slit(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    edge = mouth(cover)
    if edge is None or not cover.profile:
        return Altered(what, term(what.deed), refused=tr("there is no edge to slit from"))
    long = worked(tr("slit"), what.long, refs.alteration(what.id, "long"))
    words = tr("slit it {long} up from the edge, with a flap under it", long=mm(what.long))
    habit = choices.habits.mm
    wide = worked(tr("each side"), habit("slit flap")) * 2.0
    tall = long + worked(tr("lap"), habit("flap lap"))
    name = f"flap of slit {what.id or '1'}"
    panel = even(name, wide, tall, seam(choices.seam_allowance), refs.SEAM_ALLOWANCE)
    depths = [passage.depth for passage in cover.profile]
    high, low = min(depths), max(depths)
    spread = SPREAD * min(what.long, low - high)
    ends = (high, low) if not cover.from_below else (low, high)
    begins = ends[1] - what.long if not cover.from_below else ends[1] + what.long
    gives = tuple(sorted({(ends[0], 0.0), (begins, 0.0), (ends[1], spread)}))
    run = max(edge.runs, key=lambda r: cover.flat[r.piece].edge(r.edge).curve.length)
    piece = _under(cover, run.piece, run.edge, panel, what)
    goods = ((tr("hook-and-loop"), tall, habit("hook-and-loop")),)
    facts = ((tr("slit"), long), (tr("flap, cut wide"), panel.cut_length), (tr("flap, cut long"), panel.cut_width))
    minutes = what.long / 1000.0
    chores = (
        Chore("unpick", "unpick", tr("Unpick the hem for a hand's breadth where the slit will be"), 2.0),
        Chore("cut", "cut in", tr("Cut the slit, straight up"), 1.5, tr("slit"), what.long),
        Chore("bind", "bind in", tr("Bind both sides of the slit, and tack its upper end"), 5.0 + 8.0 * minutes),
        Chore("flap", "sew in", tr("Hem the flap, sew it under the slit along one side"), 8.0 + 4.0 * minutes),
        Chore("touch", "sew in", tr("Sew hook-and-loop to the flap and to the other side"), 3.0 + 4.0 * minutes),
        Chore("hem", "hem again", tr("Close the hem"), 3.0),
    )
    return Altered(what, words, facts, gives=gives, panels=(panel,), pieces=(piece,), goods=goods, on=(run.piece,), chores=chores)


def _under(cover: Cover, host_name: str, edge_name: str, panel: Panel, what: Alteration) -> Piece:
    """The flap under a slit in the middle of an edge."""
    host = next(piece for piece in cover.pieces if piece.name == host_name)
    curve = cover.flat[host_name].edge(edge_name).curve
    points = curve.points()
    middle, along = points[len(points) // 2], np.array(curve.end) - np.array(curve.start)
    if isinstance(curve, Arc) and not curve.curvature:
        middle = (np.array(curve.start) + np.array(curve.end)) / 2.0
    along = along / max(float(np.linalg.norm(along)), 1e-9)
    start = middle - along * (panel.length.value / 2.0)
    place = Laid(host.place, (float(start[0]), float(start[1])), (float(along[0]), float(along[1])))
    return Piece(
        panel.name, panel.name, place, mirrored=host.mirrored, on=host.name, feature=f"alteration:{what.id}", inside=True
    )


def _hem(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    edge = mouth(cover)
    if edge is None:
        return Altered(what, term(what.deed), refused=tr("there is no edge to turn"))
    metres = edge.length.value / 1000.0
    deeper = what.deed is Deed.HEM
    words = (
        tr("turn {edge} {by} deeper", edge=term(edge.name), by=mm(what.by))
        if deeper
        else tr("let {edge} down by {by}", edge=term(edge.name), by=mm(what.by))
    )
    there = edge.finish.allowance
    turned = worked(tr("hem"), what.by, refs.alteration(what.id, "by"))
    facts: tuple[tuple[Phrase, Worked], ...] = ((tr("shorter by") if deeper else tr("longer by"), turned),)
    chores = (
        Chore("unpick", "unpick", tr("Unpick {edge}", edge=term(edge.name)), 2.0 + 3.0 * metres),
        Chore("hem", "hem again", tr("Fold and sew {edge} anew", edge=term(edge.name)), 3.0 + 2.5 * metres),
    )
    on = tuple(dict.fromkeys(run.piece for run in edge.runs))
    made = Altered(what, words, facts, on=on, chores=chores)
    if deeper:
        return made
    facts = (*facts, (tr("hem left"), worked(tr("hem and turn-under"), there, refs.HEM) - turned))
    if edge.finish.kind not in FOLDED or there - what.by < LEAST_HEM:
        return replace(made, facts=facts, refused=tr("the hem holds too little: {there}", there=mm(there)))
    return replace(made, facts=facts)


def _drawn(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    edge = next((edge for edge in cover.edges if edge.name == what.on and edge.drawn), None)
    if edge is None:
        return Altered(what, term(what.deed), refused=tr("nothing draws that edge in"))
    goods = next(
        (h for h in cover.hardware if h.length is not None and str(h.name).startswith(("elastic", "cord", "drawcord"))), None
    )
    held = term(edge.held_by)
    by = worked(tr("longer") if what.by > 0.0 else tr("shorter"), what.by, refs.alteration(what.id, "by"))
    words = (
        tr("a {held} {by} longer in {edge}", held=held, by=mm(what.by), edge=term(edge.name))
        if what.by > 0.0
        else tr("a {held} {by} shorter in {edge}", held=held, by=mm(-what.by), edge=term(edge.name))
    )
    if goods is None or goods.length is None or goods.length.value + what.by <= 0.0:
        return Altered(what, words, refused=tr("nothing of it would be left"))
    new = goods.length + by
    chores = (
        Chore("open", "unpick", tr("Open the casing for a hand's breadth and take the {held} out", held=held), 3.0),
        Chore("draw", "draw in", tr("Draw the new {held} in, join its ends", held=held), 5.0, tr("cut"), new.value),
        Chore("close", "hem again", tr("Close the casing"), 2.0),
    )
    bought = ((goods.name, new, goods.size),) if what.by > 0.0 else ()
    on = tuple(dict.fromkeys(run.piece for run in edge.runs))
    return Altered(what, words, ((tr("{held}, cut", held=held), new),), goods=bought, on=on, chores=chores)


def _port(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    feature = next((f for f in choices.features if f.id == what.on), None)
    lying = cover.lying.get(what.on)
    if feature is None or lying is None:
        return Altered(what, term(what.deed), refused=tr("it is not on the cover any more"))
    words = tr("move “{port}”: {where}", port=Name(feature.name), where=_moved(what))
    more = worked(tr("each side"), choices.habits.system.take(ROUND_A_PORT)) * 2.0
    wide = worked(tr("old opening"), feature.width) + more
    high = worked(tr("old opening"), feature.height if feature.height else feature.width) + more
    panel = even(f"patch of {feature.name}", wide, high, seam(choices.seam_allowance), refs.SEAM_ALLOWANCE)
    host = next(piece for piece in cover.pieces if piece.name == lying.piece)
    corner = lying.flat[0] - wide.value / 2.0, lying.flat[1] - high.value / 2.0
    piece = Piece(panel.name, panel.name, Laid(host.place, corner), mirrored=host.mirrored, on=host.name,
                  feature=f"alteration:{what.id}", inside=True)  # fmt: skip
    around = 2.0 * (feature.width + feature.height)
    binding = worked(tr("around the new opening"), around) + worked(tr("overlap"), choices.habits.mm("binding join"))
    facts = ((tr("patch, cut wide"), panel.cut_length), (tr("patch, cut high"), panel.cut_width))
    chores = (
        Chore(
            "patch",
            "sew in",
            tr("Turn the patch's edges under and stitch it behind the old opening, twice around"),
            8.0 + 3.0 * around / 1000.0,
        ),
        Chore("cut", "cut in", tr("Mark and cut the opening where it has to be: {where}", where=_moved(what)), 3.0),
        Chore("bind", "bind in", tr("Bind its edge"), 6.0 + 8.0 * around / 1000.0),
    )
    return Altered(what, words, facts, panels=(panel,), pieces=(piece,), on=(host.name,),
                   goods=((tr("binding"), binding, 0.0),), chores=chores)  # fmt: skip


def _moved(what: Alteration) -> Phrase:
    """By how much, and which way."""
    parts = []
    if abs(what.right) > 0.5:
        parts.append(
            tr("{by} to the right", by=mm(what.right)) if what.right > 0.0 else tr("{by} to the left", by=mm(-what.right))
        )
    if abs(what.down) > 0.5:
        parts.append(tr("{by} down", by=mm(what.down)) if what.down > 0.0 else tr("{by} up", by=mm(-what.down)))
    if len(parts) == 2:
        return tr("{one}, {other}", one=parts[0], other=parts[1])
    return parts[0] if parts else tr("not at all")


def _dart(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    edge = mouth(cover)
    if edge is None or not cover.profile:
        return Altered(what, term(what.deed), refused=tr("there is no edge to take a dart from"))
    words = tr("a dart: {by} at the edge, to nothing {long} up", by=mm(what.by), long=mm(what.long))
    depths = [passage.depth for passage in cover.profile]
    high, low = min(depths), max(depths)
    end, other = (high, low) if cover.from_below else (low, high)
    tip = end + what.long if cover.from_below else end - what.long
    tip = min(max(tip, high), low)
    gives = tuple(sorted({(other, 0.0), (tip, 0.0), (end, -what.by)}))
    facts = (
        (tr("folded on each side"), worked(tr("dart"), what.by) / 2.0),
        (tr("length of the dart"), worked(tr("dart"), what.long)),
    )
    metres = what.long / 1000.0
    run = max(edge.runs, key=lambda r: cover.flat[r.piece].edge(r.edge).curve.length)
    chores = (
        Chore("unpick", "unpick", tr("Unpick the hem for a hand's breadth"), 2.0),
        Chore(
            "sew",
            "sew in",
            tr("Fold, pin and sew the dart from the edge to its tip"),
            4.0 + 3.0 * metres,
            tr("at the edge, folded"),
            what.by / 2.0,
        ),
        Chore("hem", "hem again", tr("Close the hem"), 3.0),
    )
    return Altered(what, words, facts, gives=gives, on=(run.piece,), chores=chores)


def _each(what: Alteration, found: Sequence[Across]) -> Worked:
    """What of it each side of each seam takes."""
    n = len(found)
    how = trn("over both sides of {n} seam", "over both sides of {n} seams", n)
    return worked(tr("all around"), what.by, refs.alteration(what.id, "by")).named(tr("all around"), how) / (2.0 * n)


def _resewn(found: Sequence[Across], cover: Cover, each: float) -> Iterator[Chore]:
    """Seams unpicked and sewn anew."""
    metres, seams = sum(one.long for one in found) / 1000.0, called(tuple(found))
    yield Chore(
        "unpick", "unpick", tr("Unpick {seams}, and the hem for a hand's breadth beside", seams=seams), 3.0 + SLOW * metres
    )
    yield Chore(
        "sew", "sew in", tr("Sew {seams} anew on the new line", seams=seams), 3.0 + 1.8 * metres, tr("from the old line"), each
    )
    yield Chore("hem", "hem again", tr("Close the hem"), 3.0)


DEEDS: Final[dict[Deed, Callable[[Cover, Alteration, CoverChoices], Altered]]] = {
    Deed.LET_OUT: _let_out,
    Deed.TAKE_IN: _take_in,
    Deed.STRIP: strip,
    Deed.SLIT: _slit,
    Deed.HEM: _hem,
    Deed.HEM_DOWN: _hem,
    Deed.DRAWN: _drawn,
    Deed.PORT: _port,
    Deed.DART: _dart,
}
"""What each deed comes to."""
