"""The shop's store: SQLite, every edit a new revision with the whole job, committed when it is made.

WAL with synchronous=FULL, so that what was committed survives a killed process and a power cut. A job has a line of revisions
and a position in it: undo and redo move the position, a new edit cuts off what lies ahead. Positions are stored too, so undo
survives a restart. One process writes at a time; a lock file beside the database tells a second one.
"""

import contextlib
import fcntl
import json
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from types import TracebackType
from typing import Final, Self, TextIO
from urllib.parse import quote

from omnipel.core.job.document import Job
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, tr
from omnipel.shop.document import adapter

SCHEMA_VERSION: Final = 2
MIGRATIONS: Final = {
    1: """
        CREATE TABLE jobs (id INTEGER PRIMARY KEY, position INTEGER NOT NULL, touched TEXT NOT NULL, archived INTEGER NOT NULL DEFAULT 0);
        CREATE TABLE revisions (
            job INTEGER NOT NULL REFERENCES jobs(id) ON DELETE CASCADE, number INTEGER NOT NULL, document TEXT NOT NULL,
            reason TEXT NOT NULL, made TEXT NOT NULL, PRIMARY KEY (job, number));
        CREATE TABLE settings (name TEXT PRIMARY KEY, value TEXT NOT NULL);
    """,
    2: """
        ALTER TABLE jobs ADD COLUMN deleted INTEGER NOT NULL DEFAULT 0;
        CREATE INDEX jobs_by_touch ON jobs (deleted, archived, touched DESC);
    """,
}
"""Migration to each version from the one before."""


class StoreError(RuntimeError):
    """The shop cannot be opened or written: what, and what to do."""

    def __init__(self, phrase: Phrase) -> None:
        self.phrase = phrase
        super().__init__(str(phrase))


@dataclass(frozen=True, slots=True)
class Card:
    """A job on the shelf."""

    id: int
    job: Job
    touched: str
    archived: bool


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
        self._lock: TextIO | None = None
        self.unwritable = NOTHING
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            self.writable = not read_only and self._take_lock()
            if self.unwritable and path.exists():  # nothing can change it, so no other process's log has to be looked for
                self.db = sqlite3.connect(f"file:{quote(str(path))}?immutable=1", uri=True, isolation_level=None)
            else:
                self.db = sqlite3.connect(path, isolation_level=None, timeout=5.0)
            self.db.execute("PRAGMA foreign_keys = ON")
            if self.writable:
                self.db.execute("PRAGMA journal_mode = WAL")
                self.db.execute("PRAGMA synchronous = FULL")
            else:
                self.db.execute("PRAGMA query_only = ON")
            self._migrate()
        except BaseException as error:
            if hasattr(self, "db"):
                self.db.close()
            self._release()
            if isinstance(error, sqlite3.Error | OSError):
                raise StoreError(tr("{path}: {fault}", path=Name(str(path)), fault=Name(str(error)))) from error
            raise

    def __enter__(self) -> Self:
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self.close()

    def close(self) -> None:
        """Close the database and let the next process write."""
        self.db.close()
        self._release()

    def _take_lock(self) -> bool:
        try:
            self._lock = lock = open(self.path.with_suffix(".lock"), "w")  # noqa: SIM115 - held as long as the store is open
        except OSError as error:
            fault = Name((error.strerror or str(error)).lower())
            self.unwritable = tr("the shop's folder cannot be written ({fault})", fault=fault)
            return False
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            self._release()
            return False
        return True

    def _release(self) -> None:
        if self._lock is not None:
            self._lock.close()
            self._lock = None

    def _migrate(self) -> None:
        version = self.db.execute("PRAGMA user_version").fetchone()[0]
        if version > SCHEMA_VERSION:
            newer = tr(
                "{path} was written by a newer Omnipel (version {version}, this one knows {known}); update Omnipel",
                path=Name(str(self.path)),
                version=Count(version),
                known=Count(SCHEMA_VERSION),
            )
            raise StoreError(newer)
        if version < SCHEMA_VERSION and not self.writable:
            old = tr(
                "{path} has to be brought up to date first: close the other window and open it again", path=Name(str(self.path))
            )
            raise StoreError(old)
        if 0 < version < SCHEMA_VERSION:
            with contextlib.closing(sqlite3.connect(self.path.with_suffix(f".v{version}.backup"))) as copy:
                self.db.backup(copy)
        for step in range(version + 1, SCHEMA_VERSION + 1):
            self.db.executescript(f"BEGIN IMMEDIATE; {MIGRATIONS[step]} PRAGMA user_version = {step}; COMMIT;")

    @contextmanager
    def _writing(self) -> Iterator[None]:
        if not self.writable:
            raise StoreError(self.unwritable or tr("the shop is open in another window; this one can only look"))
        try:
            self.db.execute("BEGIN IMMEDIATE")
            yield
            self.db.execute("COMMIT")
        except sqlite3.Error as error:
            if self.db.in_transaction:
                self.db.execute("ROLLBACK")
            raise StoreError(tr("{path}: {fault}", path=Name(str(self.path)), fault=Name(str(error)))) from error
        except BaseException:
            if self.db.in_transaction:
                self.db.execute("ROLLBACK")
            raise

    # Jobs

    def add(self, job: Job, reason: str = "new job") -> int:
        """Put a new job in the shop; its id."""
        with self._writing():
            cursor = self.db.execute("INSERT INTO jobs (position, touched) VALUES (1, strftime('%Y-%m-%dT%H:%M:%f', 'now'))")
            key = int(cursor.lastrowid or 0)
            self._put(key, 1, job, reason)
        return key

    def commit(self, key: int, job: Job, reason: str) -> int:
        """Commit a change as a new revision; its number. What was undone before is cut off."""
        with self._writing():
            position = self._position(key)
            self.db.execute("DELETE FROM revisions WHERE job = ? AND number > ?", (key, position))
            self._put(key, position + 1, job, reason)
            self._move(key, position + 1)
        return position + 1

    def _put(self, key: int, number: int, job: Job, reason: str) -> None:
        self.db.execute(
            "INSERT INTO revisions (job, number, document, reason, made) VALUES (?, ?, ?, ?, strftime('%Y-%m-%dT%H:%M:%f', 'now'))",
            (key, number, adapter().dump_json(job).decode(), reason),
        )

    def _move(self, key: int, position: int) -> None:
        self.db.execute(
            "UPDATE jobs SET position = ?, touched = strftime('%Y-%m-%dT%H:%M:%f', 'now') WHERE id = ?", (position, key)
        )

    def _position(self, key: int) -> int:
        row = self.db.execute("SELECT position FROM jobs WHERE id = ?", (key,)).fetchone()
        if row is None:
            raise KeyError(key)
        return int(row[0])

    def job(self, key: int) -> Job:
        """The job as it stands.

        Raises:
            KeyError: there is no such job.
        """
        return self._document(key, self._position(key))

    def _document(self, key: int, number: int) -> Job:
        row = self.db.execute("SELECT document FROM revisions WHERE job = ? AND number = ?", (key, number)).fetchone()
        if row is None:
            raise KeyError((key, number))
        return adapter().validate_json(row[0])

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
        with self._writing():
            self._move(key, position)
        return job

    def go_to(self, key: int, number: int) -> Job:
        """Step to any revision of a job.

        Raises:
            KeyError: there is no such revision.
        """
        job = self._document(key, number)
        with self._writing():
            self._move(key, number)
        return job

    def history(self, key: int) -> tuple[tuple[Revision, ...], int]:
        """All revisions of a job, oldest first, and the number of the one that stands."""
        rows = self.db.execute("SELECT number, reason, made FROM revisions WHERE job = ? ORDER BY number", (key,)).fetchall()
        return tuple(Revision(*row) for row in rows), self._position(key)

    def cards(self, *, archived: bool = False) -> list[Card]:
        """The jobs on the shelf, last touched first."""
        rows = self.db.execute(
            "SELECT jobs.id, document, touched, archived FROM jobs JOIN revisions ON job = jobs.id AND number = position "
            "WHERE deleted = 0 AND archived <= ? ORDER BY touched DESC, jobs.id DESC",
            (int(archived),),
        ).fetchall()
        return [Card(key, adapter().validate_json(text), touched, bool(away)) for key, text, touched, away in rows]

    def archive(self, key: int, away: bool = True) -> None:
        """Put a job away, or back on the shelf."""
        with self._writing():
            self.db.execute("UPDATE jobs SET archived = ? WHERE id = ?", (int(away), key))

    def delete(self, key: int, gone: bool = True) -> None:
        """Take a job off the shelf, or bring it back. Its revisions are kept, so that deleting can be undone."""
        with self._writing():
            self.db.execute("UPDATE jobs SET deleted = ? WHERE id = ?", (int(gone), key))

    # Settings

    def setting(self, name: str, default: str) -> str:
        """A setting of the shop."""
        row = self.db.execute("SELECT value FROM settings WHERE name = ?", (name,)).fetchone()
        return str(json.loads(row[0])) if row else default

    def set(self, name: str, value: str) -> None:
        """Keep a setting."""
        with self._writing():
            self.db.execute(
                "INSERT INTO settings VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value",
                (name, json.dumps(value)),
            )
