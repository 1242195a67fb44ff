"""`make docs`: the generated pages in docs/."""

import json
from pathlib import Path

from omnipel.core.job.findings import CATALOGUE
from omnipel.shop.document import schema

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


if __name__ == "__main__":
    (DOCS / "findings.md").write_text(findings_page())
    (DOCS / "job.schema.json").write_text(json.dumps(schema(), indent=1) + "\n")
