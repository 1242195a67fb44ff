"""Opening a shop's database: whether it is one of ours, who may write, what was written by an earlier Omnipel.

The lock stands beside the *real* file, under its full name with `.lock`: two names of one shop are one shop, and no shop is ever its own lock.
"""

import contextlib
import errno
import fcntl
import json
import os
import shutil
import sqlite3
import stat
import tempfile
from pathlib import Path
from typing import Final
from urllib.parse import quote

from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, Refusal, tr
from omnipel.shop import lessons
from omnipel.shop.reasons import reason_of
from omnipel.shop.timelog import MADE, read_all

APPLICATION_ID: Final = 0x4F6D6E70
"""“Omnp” in the database's header: a database that carries another mark, or tables of somebody else's, is not ours to touch."""
SCHEMA_VERSION: Final = 6
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
    3: f"""
        ALTER TABLE revisions ADD COLUMN format INTEGER NOT NULL DEFAULT 2;
        ALTER TABLE revisions ADD COLUMN name TEXT NOT NULL DEFAULT '';
        ALTER TABLE revisions ADD COLUMN owner TEXT NOT NULL DEFAULT '';
        ALTER TABLE revisions ADD COLUMN place TEXT NOT NULL DEFAULT '';
        ALTER TABLE revisions ADD COLUMN form TEXT NOT NULL DEFAULT '';
        ALTER TABLE revisions ADD COLUMN unit TEXT NOT NULL DEFAULT '';
        CREATE TABLE kept (
            job INTEGER PRIMARY KEY REFERENCES jobs(id) ON DELETE CASCADE, revision INTEGER NOT NULL, program TEXT NOT NULL,
            mark INTEGER NOT NULL, state TEXT NOT NULL, step TEXT NOT NULL, picture BLOB NOT NULL);
        CREATE INDEX revisions_shown ON revisions (job, number, name, owner, place, form, unit);
        CREATE INDEX kept_states ON kept (job, revision, program, state);
        PRAGMA application_id = {APPLICATION_ID};
    """,
    4: """
        CREATE TABLE stock (kind TEXT NOT NULL, key TEXT NOT NULL, document TEXT NOT NULL, PRIMARY KEY (kind, key));
        CREATE TABLE bookings (
            number INTEGER PRIMARY KEY, reason TEXT NOT NULL, made TEXT NOT NULL, changes TEXT NOT NULL, undone INTEGER NOT NULL DEFAULT 0);
    """,
    5: MADE,
    6: lessons.MADE,
}
"""Migration to each version from the one before."""
OURS: Final = {"jobs", "revisions", "settings"}
"""The tables that every shop has had."""


class StoreError(Refusal, RuntimeError):
    """The shop cannot be opened or written: what, and what to do."""


class Database:
    """An open shop: its connection, whether it can be written, and if not, why (nothing to say when another window has it).

    Args:
        path: the database file; made when it is not there.
        read_only: open it for looking only.

    Raises:
        StoreError: it is no shop, of a newer version, or cannot be opened.
    """

    def __init__(self, path: Path, *, read_only: bool = False) -> None:
        self.path = Path(os.path.realpath(path))
        self.unwritable: Phrase = NOTHING
        self._lock: int | None = None
        self._copy: str | None = None
        try:
            if not _ours(self.path):
                raise StoreError(tr("{path} is no shop of Omnipel; nothing in it was touched", path=Name(str(path))))
            self.writable = not read_only and self._may_write()
            self.connection = self._connected()
            self.connection.execute("PRAGMA foreign_keys = ON")
            if self.writable:
                self.connection.execute("PRAGMA journal_mode = WAL")
                self.connection.execute("PRAGMA synchronous = FULL")
            else:
                self.connection.execute("PRAGMA query_only = ON")
            self._migrate()
        except BaseException as error:
            self.close()
            if isinstance(error, OSError | sqlite3.Error | ValueError):
                raise StoreError(tr("{path}: {fault}", path=Name(str(path)), fault=reason_of(error))) from error
            raise

    def close(self) -> None:
        """Close the database and let the next process write."""
        if hasattr(self, "connection"):
            self.connection.close()
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None
        if self._copy is not None:
            shutil.rmtree(self._copy, ignore_errors=True)
            self._copy = None

    def _may_write(self) -> bool:
        """Take the lock; False when another process has it, or the disk takes nothing (`unwritable` says why)."""
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            self._lock = os.open(
                f"{self.path}.lock", os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o666
            )  # never emptied: it may be anybody's
            if self.path.exists():
                if self.path.stat().st_nlink > 1:  # its log would stand beside one of the names only
                    self.unwritable = tr("the shop's file has two names (a hard link), and writing through both would harm it")
                    return False
                if not os.access(self.path, os.W_OK):
                    raise PermissionError(errno.EACCES, "permission denied")
        except OSError as error:
            self.unwritable = tr("the shop's folder cannot be written ({fault})", fault=reason_of(error))
            return False
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            os.close(self._lock)
            self._lock = None
            return False
        except OSError as error:
            self.unwritable = tr("the shop's folder knows no locks ({fault})", fault=reason_of(error))
            return False
        return True

    def _connected(self) -> sqlite3.Connection:
        log = Path(f"{self.path}-wal")
        if self.unwritable == NOTHING or not self.path.exists():
            return sqlite3.connect(self.path, isolation_level=None, timeout=5.0)
        if log.exists() and log.stat().st_size > 0:
            # The last changes stand in the log, which only somebody who can write merges: on a copy, aside.
            self._copy = tempfile.mkdtemp(prefix="omnipel-look-")
            copied = Path(self._copy) / "shop.sqlite"
            shutil.copyfile(self.path, copied)
            shutil.copyfile(log, f"{copied}-wal")
            return sqlite3.connect(copied, isolation_level=None)
        # Nothing can change it, so no other process's log has to be looked for.
        return sqlite3.connect(f"file:{quote(str(self.path))}?immutable=1", uri=True, isolation_level=None)

    def _migrate(self) -> None:
        version = self.connection.execute("PRAGMA user_version").fetchone()[0]
        if version > SCHEMA_VERSION:
            newer = tr(
                "{path} was written by a newer Omnipel (version {version}, this one knows {known}); update Omnipel",
                path=Name(str(self.path)),
                version=Count(version),
                known=Count(SCHEMA_VERSION),
            )
            raise StoreError(newer)
        if version == SCHEMA_VERSION:
            return
        if not self.writable:
            if self.unwritable != NOTHING and self._copy is None and version:
                self._aside()  # nobody can bring it up to date where it is; a copy can be looked at
            elif self._copy is None:
                old = tr(
                    "{path} has to be brought up to date first: close the other window and open it again",
                    path=Name(str(self.path)),
                )
                raise StoreError(old)
            self.connection.execute("PRAGMA query_only = OFF")
        elif version:
            self._back_up(version)
        for step in range(version + 1, SCHEMA_VERSION + 1):
            self.connection.execute("BEGIN IMMEDIATE")
            for statement in MIGRATIONS[step].split(";"):  # not as a script, which would commit what is open
                self.connection.execute(statement)
            if step == 3:
                fill_names(self.connection)
            if step == 5:
                read_all(self.connection)
            self.connection.execute(f"PRAGMA user_version = {step}")
            self.connection.execute("COMMIT")
        if not self.writable:
            self.connection.execute("PRAGMA query_only = ON")

    def _aside(self) -> None:
        self.connection.close()
        self._copy = tempfile.mkdtemp(prefix="omnipel-look-")
        copied = Path(self._copy) / "shop.sqlite"
        shutil.copyfile(self.path, copied)
        self.connection = sqlite3.connect(copied, isolation_level=None)

    def _back_up(self, version: int) -> None:
        """A copy of the shop as it was, beside it, before it is brought up to date."""
        kept = Path(f"{self.path}.v{version}.backup")
        part = Path(f"{kept}.part")
        part.unlink(missing_ok=True)
        with contextlib.closing(sqlite3.connect(part)) as copy:
            self.connection.backup(copy)
        os.replace(part, kept)


def _ours(path: Path) -> bool:
    """Whether a file is a shop, or may become one: looked at without leaving a trace."""
    try:
        known = path.stat()
    except FileNotFoundError:
        return True
    if not stat.S_ISREG(known.st_mode):
        return False
    if known.st_size == 0:
        return True
    with open(path, "rb") as file:
        header = file.read(100)
    if len(header) < 100 or not header.startswith(b"SQLite format 3\0"):
        return False
    mark, version = int.from_bytes(header[68:72], "big"), int.from_bytes(header[60:64], "big")
    if mark == APPLICATION_ID:
        return True
    if mark:
        return False
    try:  # written before shops were marked, or by a process that was killed before it was merged
        with contextlib.closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True)) as looked:
            mark = looked.execute("PRAGMA application_id").fetchone()[0]
            version = looked.execute("PRAGMA user_version").fetchone()[0]
            tables = {row[0] for row in looked.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.Error:  # a log that cannot be merged here
        return version <= 2
    return mark == APPLICATION_ID or (version in (1, 2) and tables >= OURS) or (version == 0 and not tables)


def fill_names(connection: sqlite3.Connection) -> None:
    """Copy what the shelf shows out of the documents of old revisions."""
    rows = connection.execute("SELECT job, number, document FROM revisions").fetchall()
    for job, number, text in rows:
        try:
            data = json.loads(text)
            words = [data.get(key) for key in ("name", "owner", "place")] + [data["thing"].get("form"), data.get("unit")]
        except (ValueError, KeyError, AttributeError, TypeError, RecursionError):
            continue  # one document that cannot be read is one card that says so
        kept = [word if isinstance(word, str) else "" for word in words]
        connection.execute(
            "UPDATE revisions SET name = ?, owner = ?, place = ?, form = ?, unit = ? WHERE job = ? AND number = ?",
            (*kept, job, number),
        )
