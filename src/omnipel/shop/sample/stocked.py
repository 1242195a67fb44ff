"""What the co-operative has in its store room, and what things cost there: made-up prices."""

from collections.abc import Iterator

from omnipel.core.cloth.stock import Goods, StashPiece
from omnipel.core.job.laying import Flaw, Remnant
from omnipel.shop.sample.making import CHECK, MOSS, SLATE
from omnipel.shop.stockroom import GOODS, PIECE, Change

PRICES = (
    ("cord 5", 0.6, 0.0), ("drawcord 6", 0.7, 4000.0), ("elastic 10", 0.45, 0.0), ("piping cord 4", 0.5, 6000.0), ("webbing 25", 1.3, 2500.0),
    ("hook-and-loop 25", 2.4, 700.0), ("zip", 4.2, 0.0), ("thread Tex 90", 0.012, 900_000.0), ("thread Tex 70", 0.01, 400_000.0),
    ("thread Tex 40", 0.008, 0.0), ("overlock thread", 0.004, 2_000_000.0), ("basting tape", 0.22, 20_000.0), ("tie tape", 0.35, 0.0),
)  # fmt: skip
"""Goods by length: price of a metre, and how much is there, mm."""
COUNTED = (
    ("snaps", 0.4, 12.0), ("grommets", 0.25, 40.0), ("buckle", 1.1, 0.0), ("needles 110", 0.6, 5.0), ("needles 100", 0.6, 4.0),
    ("needles 80", 0.5, 0.0), ("spray glue", 9.5, 1.0), ("label", 0.2, 30.0),
)  # fmt: skip
"""Goods by number: price of one, and how many are there."""


def stocked() -> Iterator[Change]:
    """All of it."""
    for key, price, there in PRICES:
        yield Change(GOODS, key, Goods(key=key, price=price, there=there))
    for key, price, there in COUNTED:
        yield Change(
            GOODS, key, Goods(key=key, price=price, there=there, by_length=False, where="drawer under the cutting table")
        )
    pieces = (
        (MOSS, 820.0, 700.0, "press house, top shelf", (Flaw(x=520.0, y=300.0, length=90.0, width=60.0),)),
        (MOSS, 1400.0, 460.0, "press house, top shelf", ()),
        (SLATE, 1100.0, 650.0, "cart lodge, on the roll", ()),
        (CHECK, 900.0, 1100.0, "kitchen cupboard", ()),
    )
    for number, (cloth, long, wide, where, flaws) in enumerate(pieces, 1):
        piece = Remnant(id=str(number), name=cloth.name, length=long, width=wide, flaws=flaws)
        yield Change(PIECE, str(number), StashPiece(cloth=cloth, piece=piece, where=where, since="2026-01-01"))
