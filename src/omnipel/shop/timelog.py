"""What steps of sewing took, of all jobs: read out of their documents as they stand, so that what is undone there is undone here.

Paces that a shop changed are a setting of it; with them and the log the person who sews is known.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Mapping
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    import sqlite3

    from omnipel.core.finishing.operation import Pace
    from omnipel.core.sewing.paces import Person, Timed
    from omnipel.shop.store import Store

PACES: Final = "sewing paces"
"""The setting that holds the paces a shop changed, minutes by name."""
MINUTES: Final = "minutes"
"""The line of what is learnt that they are, to be switched off and forgotten as any."""
SLOWEST: Final = 600.0
"""Nothing takes longer, minutes of a pace."""
MADE: Final = """
    CREATE TABLE minutes (
        job INTEGER NOT NULL REFERENCES jobs(id) ON DELETE CASCADE, step TEXT NOT NULL, deed TEXT NOT NULL, planned REAL NOT NULL,
        took REAL NOT NULL, day TEXT NOT NULL, PRIMARY KEY (job, step)) WITHOUT ROWID
"""
_READ: Final = """
    INSERT OR IGNORE INTO minutes SELECT job, step, json_extract(log, '$.deed'), json_extract(log, '$.planned'), json_extract(log, '$.took'),
        json_extract(log, '$.day')
    FROM (
        SELECT jobs.id AS job, each.key AS step, CASE each.type WHEN 'object' THEN each.value ELSE '{}' END AS log
        FROM jobs JOIN revisions ON job = jobs.id AND number = position,
            json_each(CASE WHEN json_valid(document) THEN document ELSE '{}' END, '$.sewing.steps') AS each)
    WHERE json_extract(log, '$.done') AND json_extract(log, '$.took') > 0.0
"""


def read_all(connection: sqlite3.Connection) -> None:
    """Fill the log of a shop that had none."""
    connection.execute(_READ)


def read_again(connection: sqlite3.Connection, job: int) -> None:
    """A job stands at another revision: its lines are those of that one."""
    connection.execute("DELETE FROM minutes WHERE job = ?", (job,))
    connection.execute(f"{_READ} AND job = ?", (job,))


def timed(store: Store, forgotten: Collection[int] = ()) -> list[Timed]:
    """Every step that a clock ran for, besides those of jobs that were forgotten for it."""
    from omnipel.core.sewing.paces import Timed

    kept = (
        "SELECT json_group_array(json_array(deed, planned, took)) FROM minutes WHERE job NOT IN (SELECT value FROM json_each(?))"
    )
    rows = store.db.execute(kept, (json.dumps(list(forgotten)),)).fetchone()
    return [Timed(*row) for row in json.loads(rows[0])]


def timed_jobs(store: Store) -> list[int]:
    """The jobs that a clock ran for."""
    return [job for (job,) in store.db.execute("SELECT DISTINCT job FROM minutes ORDER BY job")]


def paces(store: Store) -> dict[Pace, float]:
    """The paces that a shop changed; what is damaged counts as not changed."""
    from omnipel.core.finishing.operation import Pace

    try:
        kept = json.loads(store.setting(PACES, "{}"))
        return {Pace(name): float(minutes) for name, minutes in kept.items() if 0.0 <= float(minutes) <= SLOWEST}
    except (ValueError, TypeError, AttributeError):
        return {}


def paces_text(changed: Mapping[Pace, float]) -> str:
    """Changed paces as a setting."""
    return json.dumps({pace.value: minutes for pace, minutes in changed.items()})


def person(store: Store, *, whether_used: bool = False) -> Person:
    """Who sews in a shop: its paces, and what the log tells, unless a person has switched that off; `whether_used` or not."""
    from omnipel.core.sewing.paces import learnt
    from omnipel.shop.lessons import ruled

    said = ruled(store)
    log = [] if MINUTES in said.off and not whether_used else timed(store, said.forgotten.get(MINUTES, ()))
    return learnt(log, paces(store))
