"""`make docs`: the generated pages in docs/."""

import gzip
import json
import tempfile
from pathlib import Path

from omnipel import __version__
from omnipel.core.job.findings import CATALOGUE
from omnipel.shop.demo import READY
from omnipel.shop.document import schema
from omnipel.shop.lessons import learnt
from omnipel.shop.sample import fill
from omnipel.work.requests import Looked, stand_of

DOCS = Path(__file__).parent.parent / "docs"


def findings_page() -> str:
    """The findings catalogue."""
    lines = [
        "# Findings",
        "",
        "What Omnipel has to say about a job, generated from the code (`make docs`). Codes are stable.",
        "*stop*: do not cut. *look*: look at this. *note*: good to know.",
        "",
        "| code | severity | meaning | remedy |",
        "|---|---|---|---|",
    ]
    lines += [f"| `{code}` | {entry.severity} | {entry.meaning} | {entry.remedy} |" for code, entry in sorted(CATALOGUE.items())]
    return "\n".join(lines) + "\n"


def sample_shop(path: Path) -> bytes:
    """The sample shop with what the shelf shows of it, made at a path where there is nothing yet."""
    with fill(path) as store:
        found = []
        for card in store.cards():
            text, version = store.text(card.id)
            found.append((card.id, card.revision, stand_of(Looked(text, version, store.mark(text)))))
        store.keep(__version__, found)
        learnt(store, __version__)
        with store.writing():
            store.db.execute("UPDATE jobs SET touched = '2026-01-01T00:00:00.000'")
            store.db.execute("UPDATE revisions SET made = '2026-01-01T00:00:00.000'")
            store.db.execute("UPDATE bookings SET made = '2026-01-01T00:00:00.000'")
        store.db.execute("PRAGMA journal_mode = DELETE")
        store.db.execute("VACUUM")
    return gzip.compress(path.read_bytes(), mtime=0)


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder:
        READY.write_bytes(sample_shop(Path(folder) / "quillet-hill.sqlite"))
    (DOCS / "findings.md").write_text(findings_page())
    (DOCS / "job.schema.json").write_text(json.dumps(schema(), indent=1) + "\n")
