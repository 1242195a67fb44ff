"""What a shop has and what things cost there: pieces of cloth, goods, prices."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated, Final

from annotated_types import Ge, Le, Len

from omnipel.core.covers.scheme import Hardware
from omnipel.core.job.document import ClothChoice, Price
from omnipel.core.job.laying import Remnant

CONFIG = {"extra": "forbid", "allow_inf_nan": False}
LEAST_KEPT: Final = 300.0
"""A rest smaller than this in either direction is not worth keeping, mm, until a shop says otherwise."""


@dataclass(frozen=True, slots=True, kw_only=True)
class StashPiece:
    """A piece of cloth in the stash: of which cloth, its size and flaws, where it lies, since when."""

    __pydantic_config__ = CONFIG

    cloth: ClothChoice
    piece: Remnant
    where: Annotated[str, Len(0, 120)] = ""
    since: Annotated[str, Len(0, 40)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Goods:
    """Something that is bought besides cloth: its price for a metre or for one, and how much of it is in the stash, mm or so many."""

    __pydantic_config__ = CONFIG

    key: Annotated[str, Len(1, 120)]
    price: Price | None = None
    there: Annotated[float, Ge(0), Le(1e9)] = 0.0
    by_length: bool = True
    where: Annotated[str, Len(0, 120)] = ""


@dataclass(frozen=True)
class Stock:
    """What is there, and what it costs.

    Args:
        goods: by their keys.
        pieces: of cloth, by their ids.
        cloths: all cloths that are known, by their keys.
    """

    goods: Mapping[str, Goods] = field(default_factory=dict)
    pieces: Mapping[str, StashPiece] = field(default_factory=dict)
    cloths: Mapping[str, ClothChoice] = field(default_factory=dict)

    def price(self, key: str) -> float | None:
        """What a metre, or one, costs; None where nobody has said."""
        known = self.goods.get(key)
        return known.price if known is not None else None

    def there(self, key: str) -> float:
        """How much of it is in the stash, mm or so many."""
        known = self.goods.get(key)
        return known.there if known is not None else 0.0


NOTHING_THERE: Final = Stock()


def goods_key(item: Hardware) -> str:
    """What something that is bought is called among the shop's goods: its name, and its size where that tells it from others.

    >>> from omnipel.core.words.phrases import tr
    >>> goods_key(Hardware(tr("elastic"), size=10.0)), goods_key(Hardware(tr("snaps"), count=4))
    ('elastic 10', 'snaps')
    """
    return key_of(str(item.name), item.size)


def key_of(name: str, size: float = 0.0) -> str:
    """A name and a size in mm as a key: the size to a tenth."""
    return f"{name} {round(size, 1):g}" if size else name


def same_cloth(one: ClothChoice, other: ClothChoice) -> bool:
    """Whether two cloths are the same: by their name, and their colour where both say one."""
    return (one.name.casefold(), one.colour.casefold()) == (other.name.casefold(), other.colour.casefold())
