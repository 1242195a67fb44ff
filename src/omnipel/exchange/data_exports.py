"""Exports as plain data, for other programs."""

from __future__ import annotations

from typing import Final

from omnipel.core.words.phrases import tr
from omnipel.exchange import writers
from omnipel.exchange.export import Export

PLAIN: Final = tr("Plain data")
DATA: Final = (
    Export(
        "lays",
        tr("Lays as plain data"),
        tr("Where every piece lies on its cloth, for other programs, as docs/lay.schema.json tells."),
        PLAIN,
        ".json",
        b"{",
        writers.plain("lays"),
        tr("Lengths in it are millimetres."),
    ),
    Export(
        "takeoff",
        tr("Shopping list as plain data"),
        tr("What is bought with its sums and prices, for other programs, as docs/takeoff.schema.json tells."),
        PLAIN,
        ".json",
        b"{",
        writers.plain("takeoff"),
        tr("Lengths in it are millimetres."),
    ),
    Export(
        "orderdata",
        tr("Order of work as plain data"),
        tr("Every step with its minutes, reasons, settings and cautions, for other programs, as docs/order.schema.json tells."),
        PLAIN,
        ".json",
        b"{",
        writers.plain("order"),
        tr("Lengths in it are millimetres."),
    ),
    Export(
        "json",
        tr("Draft as plain data"),
        tr("Sizes, panels, seams, fit and findings for other programs, as docs/file-format.md tells."),
        PLAIN,
        ".json",
        b"{",
        writers.data,
        tr("Lengths in it are millimetres."),
        needs_panels=False,
    ),
)
