"""A child process that edits a job until it is killed, telling each edit once it is committed."""

from dataclasses import replace
from multiprocessing.connection import Connection
from pathlib import Path

from tests.jobs import drum

from omnipel.shop.store import Store


def edit_for_ever(path: Path, told: Connection) -> None:
    """Commit edit after edit and send the number of each."""
    store = Store(path)
    key = store.add(replace(drum(), notes="edit 0"))
    for i in range(1, 1_000_000):
        store.commit(key, replace(drum(), notes=f"edit {i}"), f"edit {i}")
        told.send(i)


def bring_up_to_date(path: Path, told: Connection) -> None:
    """Open an old shop, telling when it begins and when it is done."""
    told.send("begins")
    Store(path).close()
    told.send("done")
