"""A fresh copy of the sample shop without making its jobs: it comes ready, with the pictures and states that the shelf shows.

`make docs` writes it anew from `shop/sample`; a test says when it no longer is what that makes.
"""

import gzip
from pathlib import Path
from typing import Final

from omnipel.shop.store import Store

READY: Final = Path(__file__).parent / "sample" / "quillet-hill.sqlite.gz"


def unpack(path: Path) -> Store:
    """The sample shop at a path where there is nothing yet, its jobs touched just now."""
    path.write_bytes(gzip.decompress(READY.read_bytes()))
    store = Store(path)
    moment = "strftime('%Y-%m-%dT%H:%M:%f', 'now', printf('-%f seconds', ((SELECT max(id) FROM jobs) - {}) * 0.001))"
    with store.writing():
        store.db.execute(f"UPDATE jobs SET touched = {moment.format('id')}")
        store.db.execute(f"UPDATE revisions SET made = {moment.format('job')}")
    return store
