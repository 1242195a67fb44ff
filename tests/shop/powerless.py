"""Code run by somebody who may not write: by nobody when the tests are run by root, who may everything."""

import multiprocessing
import os
from collections.abc import Callable
from multiprocessing.connection import Connection
from pathlib import Path

from tests.jobs import drum

from omnipel.shop.document import dumped, loaded
from omnipel.shop.store import Store
from omnipel.shop.whole import NotWritten, write_whole

NOBODY = 65534


def run_powerless(what: Callable[[Path], str], path: Path) -> str:
    """What a function says when it is run without power over others' files."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["tests.shop.powerless"])
    hear, tell = context.Pipe(duplex=False)
    child = context.Process(target=_powerless, args=(what, path, tell))
    child.start()
    tell.close()
    said = str(hear.recv())
    child.join()
    child.close()
    hear.close()
    return said


def _powerless(what: Callable[[Path], str], path: Path, told: Connection) -> None:
    assert loaded(dumped(drum())) == drum()  # loads what nobody could load afterwards
    if os.getuid() == 0:
        os.setgroups([])
        os.setgid(NOBODY)
        os.setuid(NOBODY)
    try:
        told.send(what(path))
    except Exception as error:
        told.send(f"{type(error).__name__}: {error}")


def write(path: Path) -> str:
    """Write a file over whatever is there."""
    try:
        write_whole(path, b"new")
    except NotWritten as error:
        return str(error)
    return "written"


def look(path: Path) -> str:
    """Open a shop and look at its first job."""
    with Store(path) as store:
        card = store.cards()[0]
        return f"{store.writable} {store.job(card.id).notes} {len(store.history(card.id)[0])}"
