"""Generated pages are what the program says now, and no finding is graver or lighter than its page says."""

import importlib.util
from pathlib import Path
from random import Random
from types import ModuleType

from omnipel.core.draft import draft
from omnipel.core.job.findings import CATALOGUE
from omnipel.shop.sample import SAMPLES
from tests.attack.jobs import attacked
from tests.wild import one_in

ROOT = Path(__file__).parent.parent


def pages() -> ModuleType:
    return tool("pages")


def tool(name: str) -> ModuleType:
    """One of tools/."""
    spec = importlib.util.spec_from_file_location(name, ROOT / "tools" / f"{name}.py")
    assert spec is not None
    assert spec.loader is not None
    made = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(made)
    return made


def test_the_page_of_findings_is_the_catalogue() -> None:
    assert (ROOT / "docs" / "findings.md").read_text(encoding="utf-8") == pages().findings_page(), "make docs writes it anew"


def test_findings_are_as_grave_as_their_page_says() -> None:
    jobs = [sample() for sample in SAMPLES] + [attacked(Random(i)) for i in range(250 // one_in(2))]
    said = {(f.code, f.severity) for job in jobs for f in draft(job).findings}
    assert len(said) > 25
    assert sorted(f"{code} is {severity}" for code, severity in said if CATALOGUE[code].severity is not severity) == []
