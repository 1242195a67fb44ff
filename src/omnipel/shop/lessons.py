"""What each job of a shop that was tried on tells, kept beside it: worked out once for every document, with what was switched off or forgotten."""

from __future__ import annotations

import json
from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    from omnipel.core.learning.estimates import Experience
    from omnipel.core.learning.evidence import Lesson
    from omnipel.shop.store import Store

LEARNT: Final = "learnt"
"""The setting that holds which lines are switched off, and of which jobs a line was made to forget."""
MADE: Final = """
    CREATE TABLE lessons (
        job INTEGER PRIMARY KEY REFERENCES jobs(id) ON DELETE CASCADE, mark INTEGER NOT NULL, program TEXT NOT NULL, lesson TEXT NOT NULL);
    CREATE TABLE photos (digest TEXT PRIMARY KEY, kind TEXT NOT NULL, bytes BLOB NOT NULL) WITHOUT ROWID;
    ALTER TABLE kept ADD COLUMN due TEXT NOT NULL DEFAULT ''
"""
_TRIED: Final = """
    SELECT jobs.id, document, format FROM jobs JOIN revisions ON job = jobs.id AND number = position
    WHERE deleted = 0 AND instr(document, '"tries":[{') > 0 ORDER BY jobs.id
"""
"""Documents are written without blanks: of thousands only few have to be parsed."""


@dataclass(frozen=True, slots=True)
class Told:
    """A job whose lesson is asked for: its document, and the mark of that."""

    job: int
    mark: int
    text: str
    format: int


def tried(store: Store) -> list[Told]:
    """The jobs that were tried on, as they stand."""
    return [Told(key, store.mark(text), text, version) for key, text, version in store.db.execute(_TRIED).fetchall()]


def known(store: Store, program: str, asked: Sequence[Told]) -> dict[int, Lesson]:
    """Lessons that were worked out before, of documents that are still the same."""
    marks = {told.job: told.mark for told in asked}
    rows = store.db.execute("SELECT job, mark, lesson FROM lessons WHERE program = ?", (program,)).fetchall()
    made = {}
    for job, mark, text in rows:
        if marks.get(job) == mark and (lesson := _read(text)) is not None:
            made[job] = lesson
    return made


def lesson_of(told: Told) -> tuple[Told, Lesson]:
    """The lesson of a job; one that tells nothing where it cannot be read or drafted."""
    from omnipel.core.draft import Drafted, draft
    from omnipel.core.learning.evidence import Lesson, lesson
    from omnipel.core.sewing.making import Making
    from omnipel.shop.document import DocumentError, of_row

    try:
        drafted = draft(of_row(told.text, told.format))
    except DocumentError:
        return told, Lesson()
    return told, lesson(Making(drafted)) if isinstance(drafted, Drafted) else Lesson()


def keep(store: Store, program: str, made: Sequence[tuple[Told, Lesson]]) -> None:
    """Keep lessons; what cannot be written is worked out again next time."""
    from omnipel.shop.opening import StoreError

    if not store.writable or not made:
        return
    try:
        with store.writing():
            store.db.executemany(
                "INSERT OR REPLACE INTO lessons (job, mark, program, lesson) VALUES (?, ?, ?, ?)",
                [(told.job, told.mark, program, json.dumps(asdict(lesson))) for told, lesson in made],
            )
    except StoreError:
        return


def _read(text: str) -> Lesson | None:
    """A lesson that was kept; None where it is damaged."""
    from omnipel.core.learning.evidence import Lesson
    from omnipel.core.learning.instruments import Checked

    try:
        data = json.loads(text)
        told = {str(key): (float(mean), float(sigma)) for key, (mean, sigma) in data["told"].items()}
        of = data["checked"]
        checked = Checked(
            tuple(of["names"]),
            tuple(tuple(map(float, row)) for row in of["weight"]),
            tuple(map(float, of["pull"])),
            {str(name): (float(n), float(squares)) for name, (n, squares) in of["scatter"].items()},
        )
        return Lesson(str(data["name"]), str(data["day"]), told, checked)
    except (ValueError, TypeError, KeyError, AttributeError):
        return None


@dataclass(frozen=True)
class Ruled:
    """What a person said about lines: which are switched off, and the jobs that no longer count for a line."""

    off: frozenset[str] = frozenset()
    forgotten: Mapping[str, tuple[int, ...]] = field(default_factory=dict)

    def switched(self, key: str, on: bool) -> Ruled:
        """With a line switched."""
        return replace(self, off=self.off - {key} if on else self.off | {key})

    def without(self, key: str, jobs: Collection[int]) -> Ruled:
        """With some jobs forgotten for a line; with none, nothing is."""
        kept = {name: those for name, those in self.forgotten.items() if name != key}
        return replace(self, forgotten={**kept, key: tuple(sorted(jobs))} if jobs else kept)


def ruled(store: Store) -> Ruled:
    """What a person said; nothing where that is damaged."""
    try:
        data = json.loads(store.setting(LEARNT, "{}"))
        forgotten = {str(key): tuple(int(job) for job in jobs) for key, jobs in data.get("forgotten", {}).items()}
        return Ruled(frozenset(str(key) for key in data.get("off", ())), forgotten)
    except (ValueError, TypeError, AttributeError):
        return Ruled(frozenset(), {})


def ruled_text(said: Ruled) -> str:
    """The same as a setting."""
    return json.dumps({"off": sorted(said.off), "forgotten": {key: list(jobs) for key, jobs in said.forgotten.items()}})


def learnt(store: Store, program: str = "") -> Experience:
    """All that a shop has learnt; what is not kept yet is worked out now."""
    from omnipel.core.learning.estimates import experience

    asked = tried(store)
    there = known(store, program, asked)
    new = [lesson_of(told) for told in asked if told.job not in there]
    keep(store, program, new)
    there |= {told.job: lesson for told, lesson in new}
    said = ruled(store)
    return experience([(told.job, there[told.job]) for told in asked], said.off, said.forgotten)
