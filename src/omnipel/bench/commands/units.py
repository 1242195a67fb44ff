"""The unit that new jobs begin in."""

from PySide6.QtCore import QLocale

from omnipel.core.words.units import Unit
from omnipel.shop.store import Store


def local_unit() -> Unit:
    """What people measure in where this desktop stands."""
    imperial = QLocale().measurementSystem() is not QLocale.MeasurementSystem.MetricSystem
    return Unit.INCH_16 if imperial else Unit.MM


def shop_unit(store: Store) -> Unit:
    """The unit new jobs begin in: what was asked at first start, else what the desktop's country measures in."""
    kept = store.setting("unit", local_unit().value)
    return Unit(kept) if kept in {unit.value for unit in Unit} else local_unit()
