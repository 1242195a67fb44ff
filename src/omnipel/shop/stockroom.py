"""The shop's cloths, stash and prices, in the same database as its jobs. Every change is a booking, and every booking can be undone."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any, Final

from pydantic import TypeAdapter, ValidationError

from omnipel.core.cloth.kinds import KINDS
from omnipel.core.cloth.stock import Goods, StashPiece, Stock
from omnipel.core.job.document import ClothChoice
from omnipel.core.words.habits import System
from omnipel.shop.store import NOW, Store

CLOTH, PIECE, GOODS = "cloth", "piece", "goods"
TYPES: Final[Mapping[str, type]] = {CLOTH: ClothChoice, PIECE: StashPiece, GOODS: Goods}
"""What is kept, by its kind."""


@cache
def _adapter(kind: str) -> TypeAdapter[Any]:
    return TypeAdapter(TYPES[kind])


@dataclass(frozen=True)
class Change:
    """One thing in the shop as it will be; None where it is there no more."""

    kind: str
    key: str
    after: ClothChoice | StashPiece | Goods | None


@dataclass(frozen=True)
class Booking:
    """A change that was made: its number, what it was, when, whether it has been undone."""

    number: int
    reason: str
    made: str
    undone: bool


class Stockroom:
    """What a shop has."""

    def __init__(self, store: Store) -> None:
        self.store = store

    def stock(self, system: System = System.METRIC) -> Stock:
        """All of it: the kinds that every shop begins with, as the shop has changed them, and its own. What cannot be read is left out."""
        rows = self.store.db.execute("SELECT kind, key, document FROM stock ORDER BY rowid").fetchall()
        known: dict[str, dict[str, Any]] = {kind: {} for kind in TYPES}
        known[CLOTH] = {key: kind.begun(system) for key, kind in KINDS.items()}
        for kind, key, text in rows:
            if kind not in TYPES:
                continue
            try:
                known[kind][key] = _adapter(kind).validate_json(text)
            except ValidationError:
                continue  # one line that is damaged is one line, not a shop
        return Stock(known[GOODS], known[PIECE], known[CLOTH])

    def book(self, reason: str, changes: Sequence[Change]) -> int:
        """Make changes, as one booking; its number.

        Raises:
            StoreError: it cannot be written.
        """
        with self.store.writing():
            self.store.db.execute(
                "DELETE FROM bookings WHERE undone = 1"
            )  # what was undone is not done again after something else
            told = []
            for change in changes:
                after = None if change.after is None else _dumped(change)
                told.append([change.kind, change.key, self._text(change.kind, change.key), after])
                self._set(change.kind, change.key, after)
            self.store.db.execute(
                f"INSERT INTO bookings (reason, made, changes) VALUES (?, {NOW}, ?)",
                (reason, json.dumps(told, ensure_ascii=False)),
            )
            number = self.store.db.execute("SELECT max(number) FROM bookings").fetchone()[0]
        return int(number)

    def undo(self) -> Booking | None:
        """Take the last booking back; None where there is none."""
        return self._step("SELECT number FROM bookings WHERE undone = 0 ORDER BY number DESC LIMIT 1", back=True)

    def redo(self) -> Booking | None:
        """Do the last one again that was taken back; None where there is none."""
        return self._step("SELECT number FROM bookings WHERE undone = 1 ORDER BY number LIMIT 1", back=False)

    def bookings(self) -> list[Booking]:
        """All bookings, the last one first."""
        rows = self.store.db.execute("SELECT number, reason, made, undone FROM bookings ORDER BY number DESC").fetchall()
        return [Booking(int(number), reason, made, bool(undone)) for number, reason, made, undone in rows]

    def free_key(self, kind: str) -> str:
        """A key that nothing of the kind has had."""
        rows = self.store.db.execute("SELECT key FROM stock WHERE kind = ?", (kind,)).fetchall()
        told = self.store.db.execute("SELECT changes FROM bookings").fetchall()
        keys = {row[0] for row in rows} | {key for (text,) in told for of, key, *_ in json.loads(text) if of == kind}
        return str(max((int(key) for key in keys if key.isdecimal()), default=0) + 1)

    def _step(self, which: str, *, back: bool) -> Booking | None:
        row = self.store.db.execute(which).fetchone()
        if row is None:
            return None
        with self.store.writing():
            reason, made, text = self.store.db.execute(
                "SELECT reason, made, changes FROM bookings WHERE number = ?", (row[0],)
            ).fetchone()
            changes = json.loads(text)
            for kind, key, before, after in reversed(changes) if back else changes:
                self._set(kind, key, before if back else after)
            self.store.db.execute("UPDATE bookings SET undone = ? WHERE number = ?", (int(back), row[0]))
        return Booking(int(row[0]), reason, made, back)

    def _text(self, kind: str, key: str) -> str | None:
        row = self.store.db.execute("SELECT document FROM stock WHERE kind = ? AND key = ?", (kind, key)).fetchone()
        return None if row is None else str(row[0])

    def _set(self, kind: str, key: str, text: str | None) -> None:
        if text is None:
            self.store.db.execute("DELETE FROM stock WHERE kind = ? AND key = ?", (kind, key))
        else:
            self.store.db.execute(
                "INSERT INTO stock VALUES (?, ?, ?) ON CONFLICT (kind, key) DO UPDATE SET document = excluded.document",
                (kind, key, text),
            )


def _dumped(change: Change) -> str:
    """A thing as it is kept; checked, so that what is kept can be read."""
    adapter = _adapter(change.kind)
    return str(adapter.dump_json(adapter.validate_python(adapter.dump_python(change.after))).decode())
