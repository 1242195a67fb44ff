"""Jobs that belong together: covers of one thing, one thing in several sizes."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    from omnipel.core.job.document import Job
    from omnipel.shop.store import Store

_KIN: Final = """
    SELECT jobs.id, document, format FROM jobs JOIN revisions ON job = jobs.id AND number = position
    WHERE deleted = 0 AND jobs.id <> ? AND json_extract(CASE WHEN json_valid(document) THEN document ELSE '{}' END, '$.kin.' || ?) = ?
    ORDER BY jobs.id
"""


def of_thing(store: Store, thing: str, but: int) -> tuple[Job, ...]:
    """The covers of a thing but that of one job; one that cannot be read is left out."""
    return _found(store, "thing", thing, but)


def of_family(store: Store, family: str, but: int) -> tuple[Job, ...]:
    """The jobs of a family but one."""
    return _found(store, "family", family, but)


def _found(store: Store, part: str, name: str, but: int) -> tuple[Job, ...]:
    from omnipel.shop.document import DocumentError, of_row

    made = []
    for _, text, version in store.db.execute(_KIN, (but, part, name)).fetchall():
        try:
            made.append(of_row(text, version))
        except DocumentError:
            continue
    return tuple(made)
