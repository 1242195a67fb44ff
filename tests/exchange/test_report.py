"""`draft --json`: everything that docs/file-format.md promises, for every lawful pair."""

import json
from pathlib import Path

import numpy as np
import pytest
import shapely
from tests.exchange.printed import pdf

from omnipel.cli import main
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import MarkKind
from omnipel.exchange.files.report import report, text
from omnipel.exchange.files.svg import svg
from omnipel.shop.document import write
from omnipel.shop.starter import starter

PANEL = {
    "name",
    "cloth",
    "count",
    "mirrored",
    "grain",
    "fold",
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
SEAM = {
    "name",
    "kind",
    "a",
    "b",
    "length_a",
    "length_b",
    "ratio",
    "difference",
    "true",
    "match_marks",
    "times",
    "onto",
    "apart",
    "rows",
    "tacked",
    "stretch",
    "wide",
    "whole",
}
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
        "pieces",
        "seams",
        "openings",
        "features",
        "hardware",
        "fit",
        "sewn",
        "doubtful",
        "findings",
    }
    assert all(isinstance(mm, float) for mm in data["sizes"].values())
    names = {panel["name"] for panel in data["panels"]}
    pieces = {piece["name"]: piece["panel"] for piece in data["pieces"]}
    assert set(pieces.values()) == names
    assert [sum(of == panel["name"] for of in pieces.values()) for panel in data["panels"]] == [
        p["count"] for p in data["panels"]
    ]
    assert data["sewn"]["apart"] < 0.05
    assert all(opening["name"] and opening["length"] > 0.0 for opening in data["openings"])
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
        assert {run["piece"] for run in (*seam["a"], *seam["b"])} <= set(pieces)
        assert seam["difference"] == pytest.approx(seam["length_a"] - seam["ratio"] * seam["length_b"])
    for key in (*PANEL, *SEAM):
        assert f"`{key}" in PAGE, key


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_the_model_in_space_has_every_piece_in_its_size(form: str, scheme: str, tmp_path: Path) -> None:
    """Read back, what lies in space of a piece is as large as the piece is on the flat; where it is gathered, smaller."""
    path, model = tmp_path / "job.omnipel.json", tmp_path / "cover.obj"
    write(starter(form, scheme), path)
    assert main(["export", str(path), "--obj", str(model)]) == 0
    drafted = draft(starter(form, scheme))
    assert isinstance(drafted, Drafted)
    areas, points, group = {}, [], ""
    for line in model.read_text().splitlines():
        kind, *rest = line.split()
        if kind == "g":
            group = rest[0]
        elif kind == "v":
            points.append(tuple(map(float, rest)))
        elif kind == "f":
            corners = np.array([points[int(k) - 1] for k in rest])
            around = np.cross(corners - corners[0], np.roll(corners, -1, axis=0) - corners[0]).sum(axis=0)
            areas[group] = areas.get(group, 0.0) + float(np.linalg.norm(around)) / 2.0
    assert any(name.startswith("object/") for name in areas)
    for piece in drafted.cover.pieces:
        panel = drafted.cover.flat[piece.name]
        flat = shapely.Polygon(panel.sew_points)
        for figure in panel.figures:
            if figure.kind in (MarkKind.CUT_OUT, MarkKind.BOXED) and figure.closed:
                flat = flat.difference(shapely.Polygon(figure.points))
        there = areas["cover/" + "/".join(name.replace(" ", "_") for name in (panel.name, piece.name))]
        drawn = scheme in ("cap", "wheel-cap", "gathered-halves", "sleeve-tied")
        assert there == pytest.approx(flat.area, rel=2e-3) or (drawn and there < flat.area)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_pair_reaches_paper_and_terminal(form: str, scheme: str) -> None:
    drafted = draft(starter(form, scheme))
    assert pdf(drafted, "pattern", "A0").startswith(b"%PDF")
    for panel in drafted.panels:
        assert panel.name in text(drafted)
        assert f'id="cut-{panel.name.replace(" ", "-")}"' in svg(drafted)
    assert json.loads(json.dumps(report(drafted), allow_nan=False))["panels"]
