"""A strip that is set in beside a seam: its panel, where it lies, how it is sewn. In a ring that stays it ends as wide as can be eased in."""

from collections.abc import Iterator
from typing import Final

import numpy as np

from omnipel.core.covers.altered import Altered, Chore
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.finishing.altering.across import SLOW, Across, across, called, eased_in, given_by, mouth, pieces_on
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.finish import Finish, seam
from omnipel.core.job.trying import Alteration
from omnipel.core.space.placements import Laid
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, term, tr
from omnipel.core.words.working import Worked, worked

NARROWEST: Final = Rule(25.0, 1.0)
"""No narrower strip is let in: what is too much is cut away beside it."""
LEAST_TAPER: Final = 1.0
"""A strip that ends narrower by less is cut straight, mm."""


def strip(cover: Cover, what: Alteration, choices: CoverChoices) -> Altered:
    """What is missing around, as a panel of its own."""
    found = across(cover)
    if not found:
        return Altered(what, term(what.deed), refused=tr("no seam lies across"))
    one = next((a for a in found if a.seam.name == what.on), max(found, key=lambda a: a.through))
    system = choices.habits.system
    wide, gives = max(what.by, system.take(NARROWEST)), what.by
    words = tr("set in a strip {wide} wide beside {seam}", wide=mm(wide), seam=called((one,)))
    width = worked(tr("what is missing"), gives)
    if wide > gives:
        width = width + worked(tr("cut away beside it"), wide - gives)
    edge = cover.flat[one.side.piece].edge(one.side.edge)
    length = worked(tr("the seam it is set into"), one.long)
    panel = _strip_panel(cover, choices, one, length, width, f"strip {what.id or '1'}")
    piece = _beside(cover, one, edge, panel, f"alteration:{what.id}")
    facts = [
        (tr("strip, finished"), panel.width),
        (tr("strip, cut wide"), panel.cut_width),
        (tr("strip, cut long"), panel.cut_length),
    ]
    eased = eased_in(cover, (one,), gives)
    if eased < gives - LEAST_TAPER:
        facts.append((tr("strip, at its closed end"), worked(tr("what can be eased in there"), eased)))
    chores = list(_strip_chores(one, panel.name, wide - gives, eased if eased < gives - LEAST_TAPER else None))
    return Altered(what, words, tuple(facts), gives=given_by(cover, (one,), gives), panels=(panel,), pieces=(piece,),
                   on=pieces_on((one,)), chores=tuple(chores))  # fmt: skip


def _strip_panel(cover: Cover, choices: CoverChoices, one: Across, length: Worked, width: Worked, name: str) -> Panel:
    """The strip, drawn along its seam: sewn on both sides, hemmed where it ends at an open edge."""
    side, hem = seam(choices.seam_allowance), mouth(cover)
    end = hem.finish if hem is not None else choices.hem
    sources = {"bottom": refs.SEAM_ALLOWANCE, "top": refs.SEAM_ALLOWANCE, "left": refs.HEM, "right": refs.HEM}
    other: Finish = end if one.through else side
    if not one.through:
        sources["left"] = refs.SEAM_ALLOWANCE
    return rectangle(name, length, width, bottom=side, top=side, right=end, left=other, sources=sources,
                     names={"right": "lower edge", "left": "upper edge", "bottom": "one side", "top": "other side"})  # fmt: skip


def _beside(cover: Cover, one: Across, edge: Edge, panel: Panel, feature: str) -> Piece:
    """Where the strip lies: on the piece beside its seam, along it."""
    host = next(piece for piece in cover.pieces if piece.name == one.side.piece)
    start, end = np.array(edge.curve.start), np.array(edge.curve.end)
    along = (end - start) / max(float(np.linalg.norm(end - start)), 1e-9)
    place = Laid(host.place, (float(start[0]), float(start[1])), (float(along[0]), float(along[1])))
    return Piece(panel.name, panel.name, place, mirrored=host.mirrored, on=host.name, feature=feature)


def _strip_chores(one: Across, strip: str, away: float, eased: float | None) -> Iterator[Chore]:
    """`eased` is how wide the strip ends in a ring that takes no more; None where it is as wide all along."""
    metres = one.long / 1000.0
    unpick = tr("Unpick {seam}, and the hem for a hand's breadth on each side", seam=called((one,)))
    if not one.through:
        unpick = tr("Unpick {seam}, the hem and the seam it ends in for a hand's breadth on each side", seam=called((one,)))
    yield Chore("unpick", "unpick", unpick, 3.0 + SLOW * metres)
    if eased is not None:
        taper = tr("Mark {strip} narrower towards its closed end: {eased} wide there", strip=term(strip), eased=mm(eased))
        yield Chore("taper", "cut in", taper, 2.0 + metres, tr("wide at its closed end"), eased)
    if away > 0.5:
        yield Chore("trim", "cut in", tr("Cut {away} away from one side", away=mm(away)), 2.0 + metres, tr("cut away"), away)
    words = tr("Sew {strip} in, right sides together, first on one side, then on the other", strip=term(strip))
    yield Chore("sew", "sew in", words, 4.0 + 2.0 * 1.8 * metres)
    if not one.through:
        again = tr("Close the seam at the end of {strip}, easing in what is wider now", strip=term(strip))
        yield Chore("ease", "sew in", again, 4.0)
    yield Chore("hem", "hem again", tr("Close the hem over {strip}", strip=term(strip)), 3.0)
