"""A length of hook-and-loop, or a zip, laid on a panel."""

from omnipel.core.drafting.panel import MarkKind, Shows
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.placing import off_edges
from omnipel.core.words.phrases import Phrase, Rule, tr


def _strip(put: Put, goods: Phrase, mark: MarkKind) -> None:
    put.made.say(off_edges(put, "pocket-too-wide"))
    shows = Shows.STITCHES if mark is MarkKind.LINE else None
    put.draw(put.feature.name, put.local, mark, closed=True, shows=shows)
    put.buy(goods, put.width if put.feature.width >= put.feature.height else put.height)


def hook_and_loop(put: Put) -> None:
    """Sewn on all round."""
    _strip(put, tr("hook-and-loop"), MarkKind.LINE)


def zip_(put: Put) -> None:
    """Set into a cut."""
    _strip(put, tr("zip"), MarkKind.CUT_OUT)


HOOK_AND_LOOP = Kind(
    key="hook-and-loop",
    words=tr("hook-and-loop"),
    about=tr("A strip sewn on all round; its other half is on what it holds."),
    lies=Lies.SEWN,
    put=hook_and_loop,
    usual=(Rule(150.0, 6.0), Rule(25.0, 1.0)),
)

ZIP = Kind(
    key="zip",
    words=tr("zip"),
    about=tr("Set into a cut in the panel; to part a whole panel at a height is a seam with a zip."),
    lies=Lies.CUT,
    put=zip_,
    usual=(Rule(10.0, 3 / 8), Rule(200.0, 8.0)),
)
