"""`make docs`: the generated pages in docs/."""

import gzip
import json
import tempfile
from importlib.metadata import PackageMetadata, metadata
from pathlib import Path

from omnipel import __version__
from omnipel.core.job.findings import CATALOGUE
from omnipel.exchange.files.formats import FORMATS, schema_of
from omnipel.shop.demo import READY
from omnipel.shop.document import schema
from omnipel.shop.lessons import learnt
from omnipel.shop.sample import fill
from omnipel.work.requests import Looked, stand_of

ROOT = Path(__file__).parent.parent
DOCS = ROOT / "docs"


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


def licences_page() -> str:
    """What the program is used with, and under which licences; from what the packages say of themselves."""
    wanted = [
        line.split("==")[0] for line in (ROOT / "requirements.txt").read_text().splitlines() if "==" in line and line[0].isalpha()
    ]
    lines = [
        "# Licences of what Omnipel is used with",
        "",
        "Omnipel itself is under the MIT licence (`LICENSE`). It comes with the typeface Source Sans Pro under the SIL Open Font License 1.1",
        "(`src/omnipel/type/LICENSE.txt`).",
        "",
        "**Qt and PySide6** are used under the GNU Lesser General Public License, version 3. They are not changed, and not part of Omnipel's",
        "own files: they come as packages of their own, which pip installs, and which anyone can replace by others of the same interface",
        "(`pip install PySide6-Essentials==…` into the same environment). Their source is offered by those who make them.",
        "",
        "The other packages, as `requirements.txt` pins them (generated, `make docs`):",
        "",
        "| package | version | licence |",
        "|---|---|---|",
    ]
    for name in sorted(wanted, key=str.casefold):
        told = metadata(name)
        lines.append(f"| {name} | {told['Version']} | {licence_of(told)} |")
    return "\n".join(lines) + "\n"


def licence_of(told: PackageMetadata) -> str:
    """The licence as a package's metadata have it, in a few words."""
    if told.get("License-Expression"):
        return str(told["License-Expression"]).replace("|", "or")
    classed = [
        c.split(" :: ")[-1]
        for c in told.get_all("Classifier") or []
        if c.startswith("License :: ") and c != "License :: OSI Approved"
    ]
    said = str(told.get("License") or "").strip().splitlines()
    return ", ".join(classed) or (said[0][:80] if said else "see the package")


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder:
        READY.write_bytes(sample_shop(Path(folder) / "quillet-hill.sqlite"))
    (DOCS / "findings.md").write_text(findings_page())
    (DOCS / "job.schema.json").write_text(json.dumps(schema(), indent=1) + "\n")
    for name in FORMATS:
        (DOCS / f"{name}.schema.json").write_text(json.dumps(schema_of(name), indent=1) + "\n")
    (DOCS / "licences.md").write_text(licences_page())
