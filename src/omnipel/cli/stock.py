"""What every command about cloth shares: the jobs it is given, and what the shop has."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from omnipel.cli.usage import UsageError, voiced
from omnipel.core.words.phrases import Name, Phrase, tr

if TYPE_CHECKING:
    import argparse
    from collections.abc import Sequence

    from omnipel.core.cloth.stock import Stock
    from omnipel.core.draft import Drafted
    from omnipel.core.job.laying import Remnant
    from omnipel.core.words.units import Unit


def drafts(paths: Sequence[Path]) -> list[Drafted]:
    """The drafts of job files.

    Raises:
        UsageError: one has no panels yet.
    """
    from omnipel.core.draft import Drafted, draft
    from omnipel.exchange.files.travel import read_job as read

    made = []
    for path in paths:
        drafted = draft(read(path))
        if not isinstance(drafted, Drafted):
            why: Phrase = drafted.findings[0].text if drafted.findings else tr("something is missing")
            fault = Name(voiced(drafted.job.unit).sentence(why))
            raise UsageError(tr("{job}: there are no panels yet. {fault}", job=Name(str(path)), fault=fault))
        made.append(drafted)
    return made


def shop_of(asked: argparse.Namespace) -> Path:
    """Where the user's shop lies, or the one that was named."""
    if asked.shop is not None:
        return Path(asked.shop)
    import platformdirs

    return Path(platformdirs.user_data_dir("omnipel")) / "shop.sqlite"


def setting_of(asked: argparse.Namespace, key: str) -> str:
    """A setting of that shop; "" where there is none."""
    path = shop_of(asked)
    if not path.is_file():
        return ""
    from omnipel.shop.store import Store

    with Store(path, read_only=True) as store:
        return str(store.setting(key, ""))


def stock_of(asked: argparse.Namespace) -> Stock:
    """What the user's shop has, or the one that was named; nothing where there is none."""
    from omnipel.core.cloth.stock import Stock

    path = shop_of(asked)
    if not path.is_file():
        return Stock()
    from omnipel.shop.stockroom import Stockroom
    from omnipel.shop.store import Store

    with Store(path, read_only=True) as store:
        return Stockroom(store).stock()


def piece_of(text: str, unit: Unit) -> Remnant:
    """A piece of cloth as it is written: its length along the warp by its width.

    Raises:
        UsageError: it is none.
    """
    from omnipel.core.job.laying import Remnant
    from omnipel.core.words.notation import TapeError, parse_length

    try:
        long, wide = (parse_length(part, unit) for part in text.replace("×", "x").lower().split("x"))
        if not (long > 0.0 and wide > 0.0):
            raise ValueError(text)
    except (TapeError, ValueError) as error:
        said = tr("--piece takes a length and a width, as 1200x800: {text}", text=Name(text))
        raise UsageError(said) from error
    return Remnant(id="piece", name=text, length=long, width=wide)
