"""The shop's store: SQLite, every edit a new revision with the whole job, committed when it is made.

WAL with synchronous=FULL, so that what was committed survives a killed process and a power cut. A job has a line of revisions
and a position in it: undo and redo move the position, a new edit cuts off what lies ahead. Positions are stored too, so undo
survives a restart. One process writes at a time.

The shelf is read without the documents: what it shows of a job stands beside each revision, and its picture and state are kept.
"""

from __future__ import annotations

import json
import sqlite3
import zlib
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Final, Self

from omnipel.core.pictures.pens import KEPT
from omnipel.core.words.phrases import Name, tr
from omnipel.shop.opening import Database, StoreError
from omnipel.shop.reasons import reason_of
from omnipel.shop.timelog import read_again

if TYPE_CHECKING:
    from pathlib import Path
    from types import TracebackType

    from omnipel.core.job.document import Job

NOW: Final = "strftime('%Y-%m-%dT%H:%M:%f', 'now')"
NOTHING_ELSE: Final[Mapping[str, str]] = {}


@dataclass(frozen=True, slots=True)
class Kept:
    """How a job stood when it was last looked at: its state, its next step in words, its picture as `bench/parts/kept.py` packs it.

    `due` is what is due of its cover next: the day, a blank, what it is in words; "" where nothing is.
    """

    state: str
    step: str
    picture: bytes
    mark: int = 0
    due: str = ""

    def due_on(self, today: str) -> str:
        """What is due by a day, in words; "" where nothing is."""
        return self.due[11:] if self.due and self.due[:10] <= today else ""


@dataclass(frozen=True, slots=True)
class Card:
    """A job on the shelf.

    Args:
        revision: the one that stands.
        broken: its document is not there at all.
        state: how it stood, when that has been kept for this revision and this program; else "".
    """

    id: int
    revision: int
    name: str
    owner: str
    place: str
    form: str
    unit: str
    touched: str
    archived: bool
    broken: bool
    state: str


@dataclass(frozen=True, slots=True)
class Revision:
    """One committed change."""

    number: int
    reason: str
    made: str


class Store:
    """A shop on disk.

    Args:
        path: the database file; made when it is not there.
        read_only: open it for looking only.

    Raises:
        StoreError: it is no shop, of a newer version, or cannot be opened.
    """

    def __init__(self, path: Path, *, read_only: bool = False) -> None:
        self.path = path
        self.database = Database(path, read_only=read_only)
        self.db = self.database.connection
        self.writable, self.unwritable = self.database.writable, self.database.unwritable

    def __enter__(self) -> Self:
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self.close()

    def close(self) -> None:
        """Close the database and let the next process write."""
        self.database.close()

    @contextmanager
    def writing(self) -> Iterator[None]:
        """A change to the database: all of it, or nothing.

        Raises:
            StoreError: it cannot be written.
        """
        if not self.writable:
            raise StoreError(self.unwritable or tr("the shop is open in another window; this one can only look"))
        try:
            self.db.execute("BEGIN IMMEDIATE")
            yield
            self.db.execute("COMMIT")
        except sqlite3.Error as error:
            self._take_back()
            raise StoreError(tr("{path}: {fault}", path=Name(str(self.path)), fault=reason_of(error))) from error
        except BaseException:
            self._take_back()
            raise

    def _take_back(self) -> None:
        if self.db.in_transaction:
            self.db.execute("ROLLBACK")

    # Jobs

    def add(self, job: Job, reason: str = "new job") -> int:
        """Put a new job in the shop; its id."""
        with self.writing():
            cursor = self.db.execute(f"INSERT INTO jobs (position, touched) VALUES (1, {NOW})")
            key = int(cursor.lastrowid or 0)
            self._put(key, 1, job, reason)
            read_again(self.db, key)
        return key

    def commit(self, key: int, job: Job, reason: str, settings: Mapping[str, str] = NOTHING_ELSE) -> int:
        """Commit a change as a new revision; its number. What was undone before is cut off. `settings` are kept with it or not at all."""
        with self.writing():
            position = self._position(key)
            self.db.execute("DELETE FROM revisions WHERE job = ? AND number > ?", (key, position))
            self._put(key, position + 1, job, reason)
            self._move(key, position + 1)
            for name, value in settings.items():
                self._set(name, value)
        return position + 1

    def _put(self, key: int, number: int, job: Job, reason: str) -> None:
        from omnipel.shop.document import adapter  # pydantic: not before a job is written
        from omnipel.shop.migrations import VERSION

        self.db.execute(
            "INSERT INTO revisions (job, number, document, reason, made, format, name, owner, place, form, unit) "
            f"VALUES (?, ?, ?, ?, {NOW}, ?, ?, ?, ?, ?, ?)",
            (
                *(key, number, adapter().dump_json(job).decode(), reason, VERSION),
                *(job.name, job.owner, job.place, job.thing.form, job.unit.value),
            ),
        )

    def _move(self, key: int, position: int) -> None:
        self.db.execute(f"UPDATE jobs SET position = ?, touched = {NOW} WHERE id = ?", (position, key))
        read_again(self.db, key)

    def _position(self, key: int) -> int:
        row = self.db.execute("SELECT position FROM jobs WHERE id = ?", (key,)).fetchone()
        if row is None:
            raise KeyError(key)
        return int(row[0])

    def job(self, key: int) -> Job:
        """The job as it stands.

        Raises:
            KeyError: there is no such job.
            DocumentError: its document is damaged, or written by a newer Omnipel.
        """
        return self._document(key, self._position(key))

    def _document(self, key: int, number: int) -> Job:
        from omnipel.shop.document import of_row  # as above

        row = self.db.execute("SELECT document, format FROM revisions WHERE job = ? AND number = ?", (key, number)).fetchone()
        if row is None:
            raise KeyError((key, number))
        return of_row(row[0], row[1])

    def text(self, key: int) -> tuple[str, int]:
        """The document of a job as it stands on disk, whether or not it can be read, and its format; nothing when there is none."""
        row = self.db.execute(
            "SELECT document, format FROM revisions JOIN jobs ON job = jobs.id AND number = position WHERE job = ?", (key,)
        ).fetchone()
        return (str(row[0]), int(row[1])) if row else ("", 0)

    def name(self, key: int) -> str:
        """What a job is called, whether or not it can be read; "" when there is none."""
        row = self.db.execute(
            "SELECT name FROM revisions JOIN jobs ON job = jobs.id AND number = position WHERE job = ?", (key,)
        ).fetchone()
        return str(row[0]) if row else ""

    @staticmethod
    def mark(text: str) -> int:
        """A check sum of a document: what has been kept of a job counts while its document is the same."""
        return zlib.crc32(text.encode("utf-8", "surrogatepass"))

    def last_readable(self, key: int) -> int | None:
        """The latest revision at or before the one that stands that can be read, for a job that cannot."""
        from omnipel.shop.document import DocumentError  # as above

        rows = self.db.execute(
            "SELECT number FROM revisions WHERE job = ? AND number <= ? ORDER BY number DESC", (key, self._position(key))
        ).fetchall()
        for (number,) in rows:
            try:
                self._document(key, number)
            except DocumentError:
                continue
            return int(number)
        return None

    def undo(self, key: int) -> Job | None:
        """Step back one revision; None at the first."""
        return self._step(key, -1)

    def redo(self, key: int) -> Job | None:
        """Step forward again; None at the last."""
        return self._step(key, +1)

    def _step(self, key: int, by: int) -> Job | None:
        position = self._position(key) + by
        try:
            job = self._document(key, position)
        except KeyError:
            return None
        with self.writing():
            self._move(key, position)
        return job

    def go_to(self, key: int, number: int) -> Job:
        """Step to any revision of a job.

        Raises:
            KeyError: there is no such revision.
        """
        job = self._document(key, number)
        with self.writing():
            self._move(key, number)
        return job

    def history(self, key: int) -> tuple[tuple[Revision, ...], int]:
        """All revisions of a job, oldest first, and the number of the one that stands."""
        rows = self.db.execute("SELECT number, reason, made FROM revisions WHERE job = ? ORDER BY number", (key,)).fetchall()
        return tuple(Revision(*row) for row in rows), self._position(key)

    # The shelf

    def cards(self, *, archived: bool = False, deleted: bool = False, program: str = "") -> list[Card]:
        """The jobs on the shelf, last touched first (or those that were deleted). No document is read: indexes hold all that is shown."""
        # As one row, because each row that is fetched gives the interpreter away for a moment, and another thread takes it.
        rows = self.db.execute(
            "SELECT json_group_array(json_array(id, position, name, owner, place, form, unit, touched, archived, broken, state)) FROM ("
            "SELECT jobs.id, position, r.name, r.owner, r.place, r.form, r.unit, touched, archived, r.job IS NULL AS broken, state "
            "FROM jobs LEFT JOIN revisions r INDEXED BY revisions_shown ON r.job = jobs.id AND number = position "
            "LEFT JOIN kept INDEXED BY kept_states ON kept.job = jobs.id AND kept.revision = position AND program = ? "
            "WHERE deleted = ? AND archived <= ? ORDER BY touched DESC, jobs.id DESC)",
            (program, int(deleted), int(archived or deleted)),
        ).fetchone()
        return [_card(row) for row in json.loads(rows[0])]

    def kept(self, card: Card, program: str) -> Kept | None:
        """What a program has kept of a job at its revision; None when its document is no longer the one it was kept for."""
        row = self.db.execute(
            "SELECT state, step, picture, mark, due FROM kept WHERE job = ? AND revision = ? AND program = ?",
            (card.id, card.revision, program),
        ).fetchone()
        if row is None or row[3] != self.mark(self.text(card.id)[0]) or (row[2] and not row[2].startswith(KEPT)):
            return None
        return Kept(*row)

    def keep(self, program: str, kept: Sequence[tuple[int, int, Kept]]) -> None:
        """Keep pictures and states of jobs: id, revision and what is kept. What cannot be written is made again next time."""
        if not self.writable:
            return
        try:
            with self.writing():
                self.db.executemany(
                    "INSERT OR REPLACE INTO kept (job, revision, program, mark, state, step, picture, due) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                    [(key, revision, program, k.mark, k.state, k.step, k.picture, k.due) for key, revision, k in kept],
                )
        except StoreError:
            return

    def archive(self, key: int, away: bool = True) -> None:
        """Put a job away, or back on the shelf."""
        with self.writing():
            self.db.execute("UPDATE jobs SET archived = ? WHERE id = ?", (int(away), key))

    def delete(self, key: int, gone: bool = True) -> None:
        """Take a job off the shelf, or bring it back. Its revisions are kept, so that deleting can be undone."""
        with self.writing():
            self.db.execute("UPDATE jobs SET deleted = ? WHERE id = ?", (int(gone), key))

    # Settings

    def setting(self, name: str, default: str) -> str:
        """A setting of the shop; one that is damaged counts as not set."""
        row = self.db.execute("SELECT value FROM settings WHERE name = ?", (name,)).fetchone()
        try:
            return str(json.loads(row[0])) if row else default
        except (ValueError, TypeError):
            return default

    def set(self, name: str, value: str) -> None:
        """Keep a setting.

        Raises:
            StoreError: it cannot be written.
        """
        with self.writing():
            self._set(name, value)

    def _set(self, name: str, value: str) -> None:
        self.db.execute(
            "INSERT INTO settings VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value",
            (name, json.dumps(value)),
        )


def _card(row: list[Any]) -> Card:
    key, revision, name, owner, place, form, unit, touched, archived, broken, state = row
    words = name or "", owner or "", place or "", form or "", unit or ""
    return Card(key, revision, *words, touched, bool(archived), bool(broken), state or "")
