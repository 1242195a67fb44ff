"""`draft --json`: everything that docs/file-format.md promises, for every lawful pair."""

import json
from pathlib import Path

import pytest

from omnipel.cli import main
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.exchange.pattern import pattern_pdf
from omnipel.exchange.report import report, text
from omnipel.exchange.svg import svg
from omnipel.shop.document import write
from omnipel.shop.starter import starter

PANEL = {
    "name",
    "cloth",
    "count",
    "mirrored",
    "grain",
    "sew",
    "cut",
    "rough_cut",
    "edges",
    "notches",
    "figures",
    "sizes",
    "terms",
    "note",
}
SEAM = {"name", "kind", "a", "b", "length_a", "length_b", "ratio", "difference", "true", "match_marks"}
PAGE = (Path(__file__).parents[2] / "docs" / "file-format.md").read_text()


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_json_holds_what_the_page_promises(form: str, scheme: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "job.omnipel.json"
    write(starter(form, scheme), path)
    assert main(["draft", str(path), "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert set(data) == {
        "format",
        "version",
        "job",
        "parts",
        "sizes",
        "by_hand",
        "panels",
        "seams",
        "hardware",
        "fit",
        "doubtful",
        "findings",
    }
    assert all(isinstance(mm, float) for mm in data["sizes"].values())
    names = {panel["name"] for panel in data["panels"]}
    for panel in data["panels"]:
        assert set(panel) == PANEL
        for key, side in (("length", "sew"), ("width", "sew"), ("cut_length", "cut"), ("cut_width", "cut")):
            total = sum(term["value"] for term in panel["terms"][key])
            assert total == pytest.approx(panel[side][key.removeprefix("cut_")])
            for term in panel["terms"][key]:
                assert term["value"] == pytest.approx(term["factor"] * term["amount"])
        assert len(panel["cut"]["outline"]) >= 3
        assert sum(edge["length"] for edge in panel["edges"]) > 0.0
    for seam in data["seams"]:
        assert set(seam) == SEAM
        assert {run["panel"] for run in (*seam["a"], *seam["b"])} <= names
        assert seam["difference"] == pytest.approx(seam["length_a"] - seam["ratio"] * seam["length_b"])
    for key in (*PANEL, *SEAM):
        assert f"`{key}" in PAGE, key


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_pair_reaches_paper_and_terminal(form: str, scheme: str) -> None:
    drafted = draft(starter(form, scheme))
    assert pattern_pdf(drafted, "A0").startswith(b"%PDF")
    for panel in drafted.panels:
        assert panel.name in text(drafted)
        assert f'id="cut-{panel.name.replace(" ", "-")}"' in svg(drafted)
    assert json.loads(json.dumps(report(drafted), allow_nan=False))["panels"]
