"""Lays and takeoffs as plain data (`--json`, documented in docs/file-format.md) and as text for a terminal."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from omnipel.core.cloth.day import Together
from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.cloth.said import bought_words, cut_words, off_words, place_words
from omnipel.core.cloth.takeoff import Group, Line, Takeoff, said
from omnipel.core.words.phrases import Count, Money, Name, Phrase, Run, Share, Voice, listed, mm, term, tr
from omnipel.core.words.sums import sum_words
from omnipel.exchange.files.report import terms


def lay_data(lay: Lay, voice: Voice, least: float = 0.0) -> dict[str, Any]:
    """A lay: its cloth, how much of it is used, and where every piece lies."""
    cloth = lay.sheet.cloth
    return {
        "format": "omnipel-lay",
        "version": 1,
        "layer": lay.layer.value,
        "cloth": {"name": cloth.name, "usable_width": cloth.usable_width, "sold_by": cloth.sold_by, "price": cloth.price},
        "spread": lay.sheet.choice.spread.value,
        "gap": lay.sheet.gap,
        "ends": lay.sheet.ends,
        "used": {"value": lay.used.value, "terms": terms(lay.used, voice)},
        "length": lay.length,
        "least_length": least,
        "buy": lay.bought.value,
        "by_the_piece": by_the_piece(lay.sheet),
        "share_used": lay.share,
        "grounds": [
            {
                "id": ground.id,
                "name": voice.say(ground.name),
                "length": None if math.isinf(ground.length) else ground.length,
                "width": ground.width,
                "avoid": ground.avoid,
                "pieces": list(_pieces(lay, ground.id, voice)),
            }
            for ground in lay.grounds
        ],
        "left": list(lay.left),
        "no_longer_fit": list(lay.moved),
        "kept": lay.kept,
    }


def _pieces(lay: Lay, ground_id: str, voice: Voice) -> Iterator[dict[str, Any]]:
    ground = next(ground for ground in lay.grounds if ground.id == ground_id)
    for number, placed in enumerate(lay.on(ground), 1):
        cut, ring = lay.sheet.by_key[placed.piece], lay.outline(placed)
        yield {
            "order": number,
            "piece": placed.piece,
            "name": voice.say(cut.words),
            "panel": cut.panel.name if cut.panel is not None else None,
            "mirrored": cut.mirrored,
            "on_fold": cut.on_fold,
            "both_layers": cut.twice,
            "turned": round(math.degrees(placed.turn), 6),
            "from_cut_end": float(ring[:, 0].min()),
            "from_selvage": float(ring[:, 1].min()),
            "outline": ring.tolist(),
        }


def takeoff_data(taken: Takeoff, voice: Voice) -> dict[str, Any]:
    """A takeoff: every line with its sum, and the totals."""
    return {
        "format": "omnipel-takeoff",
        "version": 1,
        "covers": taken.covers,
        "lines": [
            {
                "key": line.key,
                "name": voice.say(line.words),
                "group": line.group.value,
                "needed": line.needed.value,
                "by_length": line.by_length,
                "terms": terms(line.needed, voice),
                "from_stash": line.stashed,
                "to_buy": line.to_buy,
                "price": line.price,
                "cost": None if line.unknown else line.cost(line.to_buy),
                "note": voice.say(line.note),
            }
            for line in taken.lines
        ],
        "material": taken.material,
        "from_stash": taken.stashed,
        "to_pay": taken.pay,
        "price_unknown": [line.key for line in taken.unknown],
        "per_cover": taken.per_cover,
        "per_square_metre": taken.per_area,
    }


def lay_text(lay: Lay, voice: Voice, off: float | None = None) -> str:
    """A lay for a terminal: what is used and bought, and each piece in the order of cutting."""
    cloth = lay.sheet.cloth
    head = tr("{layer}: {cloth}, {width} wide, {spread}", layer=term(lay.layer), cloth=cloth_words(cloth.name),
              width=mm(cloth.usable_width), spread=term(lay.sheet.choice.spread))  # fmt: skip
    lines = [voice.sentence(head)]
    if lay.placed and not lay.on(lay.bolt):
        lines.append("  " + voice.say(tr("nothing is to be bought: all of it lies on pieces that are there")))
    else:
        lines.append("  " + voice.say(tr("used: {used}", used=Name(sum_words(lay.used, voice)))))
    if lay.on(lay.bolt):
        lines.append("  " + voice.say(tr("to buy: {buy}", buy=bought_words(lay))))
        share = tr("{share} of it becomes cover", share=Share(lay.share))
        lines.append("  " + voice.say(share if off is None else tr("{share}; {off}", share=share, off=off_words(off))))
    for ground in lay.grounds:
        pieces = lay.on(ground)
        if ground.remnant is not None and pieces:
            lines.append("  " + voice.say(tr("on {piece}:", piece=ground.name)))
        for number, placed in enumerate(pieces, 1):
            ring, cut = lay.outline(placed), lay.sheet.by_key[placed.piece]
            size = ring.max(axis=0) - ring.min(axis=0)
            long = tr("{long} by {wide}", long=mm(float(size[0])), wide=mm(float(size[1])))
            lines.append(f"  {number:3}. {voice.say(cut_words(cut))}: {voice.say(long)}, {voice.say(place_words(lay, placed))}")
    if lay.left:
        left = listed(lay.sheet.by_key[key].words for key in lay.left)
        lines.append("  " + voice.say(tr("does not fit: {pieces}", pieces=left)))
    return "\n".join(lines)


def takeoff_text(taken: Takeoff, voice: Voice) -> str:
    """A shopping list for a terminal."""
    rows = [[voice.say(part) for part in shopping_row(line)] for line in taken.lines]
    wide = [max((len(row[k]) for row in rows), default=0) for k in range(4)]
    lines = ["  ".join(text.ljust(wide[k]) for k, text in enumerate(row)).rstrip() for row in rows]
    unknown = len(taken.unknown)
    lines += ["", voice.sentence(tr("to pay now: {pay}.", pay=taken.pay_words))]
    if taken.material:  # else nothing has a price
        worth = tr(
            "material {material}, of it from the stash {stash}.", material=Money(taken.material), stash=Money(taken.stashed)
        )
        lines.append(voice.sentence(worth))
    if taken.covers > 1 and taken.material:
        lines.append(voice.sentence(tr("each of {n} covers {cost}", n=Count(taken.covers), cost=Money(taken.per_cover))))
    if unknown:
        lines.append(voice.sentence(unknown_words(taken)))
    return "\n".join(lines)


def unknown_words(taken: Takeoff) -> Phrase:
    """What has no price yet."""
    return tr("price unknown: {goods}", goods=listed(line.words for line in taken.unknown))


def shopping_row(line: Line) -> tuple[Phrase, Phrase, Phrase, Phrase]:
    """What, how much, where from, what it costs."""
    if line.group is Group.OWN:
        return line.words, line.amount, tr("cut from the cloth"), tr("–")
    if line.to_buy <= 1e-9:
        source = tr("in the stash")
    elif line.stashed > 1e-9:
        source = tr("{amount} in the stash", amount=said(line.stashed, line.by_length))
    else:
        source = tr("to buy")
    cost = tr("price unknown") if line.unknown else tr("{cost}", cost=Money(line.cost(line.to_buy)))
    return line.words, line.amount, source, cost


def day_text(day: Together, lay: Lay, voice: Voice) -> str:
    """A cutting day for a terminal: the lay, and each job's share of it."""
    lines = [lay_text(lay, voice)]
    for share in day.shares:
        cost = (lay.sheet.cloth.price or 0.0) * lay.bought.value / 1000.0 * day.share(share.job)
        words = tr("{job}: {share} of it", job=Name(share.name), share=Share(day.share(share.job), 1))
        priced = tr("{words}, {cost}", words=words, cost=Money(cost)) if lay.sheet.cloth.price is not None else words
        lines.append("  " + voice.say(priced))
    if day.alone - lay.bought_length > 1.0:
        lines.append("  " + voice.say(tr("together {less} less to buy than one by one", less=Run(day.alone - lay.bought_length))))
    return "\n".join(lines)
