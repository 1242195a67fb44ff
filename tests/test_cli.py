"""The command line, as a person or a script drives it."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from omnipel.cli import main
from omnipel.shop.document import dumped, read, write
from tests.jobs import drum
from tests.shop.test_document import BAD

Output = pytest.CaptureFixture[str]


@pytest.fixture
def job_file(tmp_path: Path) -> Path:
    path = tmp_path / "drum.omnipel.json"
    write(drum(), path)
    return path


def test_new_gives_a_job_that_drafts_without_a_stop(tmp_path: Path, capsys: Output) -> None:
    assert main(["new", "--list", "--json"]) == 0
    pairs = json.loads(capsys.readouterr().out)["pairs"]
    assert {"form": "drum", "scheme": "wall-and-lid"} in pairs
    path = tmp_path / "new.omnipel.json"
    assert main(["new", "drum", "wall and lid", "--unit", "in/16", "-o", str(path)]) == 0
    assert main(["check", str(path)]) == 0
    assert main(["new", "drum", "wall-and-lid"]) == 0
    assert json.loads(capsys.readouterr().out.split("\n", 1)[1])["format"] == "omnipel-job"


def test_draft_shows_every_panel_with_its_sum(job_file: Path, capsys: Output) -> None:
    assert main(["draft", str(job_file)]) == 0
    out = capsys.readouterr().out
    assert "1 763 girth" in out.replace("\u202f", " ")
    assert "wall to lid" in out
    assert main(["draft", str(job_file), "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert {"sizes", "panels", "seams", "fit", "findings"} <= set(data)
    wall = next(panel for panel in data["panels"] if panel["name"] == "wall")
    assert sum(term["value"] for term in wall["terms"]["cut_length"]) == pytest.approx(wall["cut"]["length"])
    assert all(seam["true"] for seam in data["seams"])


def test_check_exits_1_on_a_stop_and_fix_mends_it(tmp_path: Path, capsys: Output) -> None:
    path = tmp_path / "job.omnipel.json"
    from tests.core.advice.test_findings import PROVOKED

    write(PROVOKED["seam-not-true"], path)
    assert main(["check", str(path)]) == 1
    assert "stop:" in capsys.readouterr().out
    assert main(["check", str(path), "--fix", "seam-not-true"]) == 0
    assert read(path).cover.overrides == ()
    assert main(["check", str(path), "--fix", "seam-not-true"]) == 2


def test_export_writes_papers_and_refuses_on_a_stop(job_file: Path, tmp_path: Path, capsys: Output) -> None:
    pdf, picture = tmp_path / "p.pdf", tmp_path / "p.svg"
    assert main(["export", str(job_file), "--pdf", str(pdf), "--svg", str(picture), "--paper", "A0"]) == 0
    assert pdf.read_bytes().startswith(b"%PDF")
    assert "<svg" in picture.read_text()
    stopped = tmp_path / "stopped.json"
    stopped.write_text(dumped(drum(drop=10.0)))
    assert main(["export", str(stopped), "--pdf", str(tmp_path / "no.pdf")]) == 2
    assert not (tmp_path / "no.pdf").exists()
    assert len(capsys.readouterr().err.strip().splitlines()) == 1


@pytest.mark.parametrize("kind", BAD)
@pytest.mark.parametrize("command", ["draft", "check"])
def test_bad_files_are_one_line_and_exit_2(kind: str, command: str, tmp_path: Path, capsys: Output) -> None:
    path = tmp_path / "bad.omnipel.json"
    path.write_text(BAD[kind][0])
    assert main([command, str(path)]) == 2
    said = capsys.readouterr()
    assert said.out == ""
    assert said.err.startswith("omnipel: ")
    assert len(said.err.splitlines()) == 1
    assert path.read_text() == BAD[kind][0]


@pytest.mark.parametrize(
    "words", [["sew"], ["draft"], ["new", "cloud", "wall-and-lid"], ["new", "drum", "hat"], ["export", "x.json"]]
)
def test_wrong_words_are_one_line_and_exit_2(words: list[str], capsys: Output) -> None:
    assert main(words) == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 1


def test_schema_and_the_installed_command(capsys: Output) -> None:
    assert main(["schema"]) == 0
    assert json.loads(capsys.readouterr().out)["title"] == "Omnipel job"
    done = subprocess.run([sys.executable, "-m", "omnipel.cli", "--version"], capture_output=True, text=True, check=True)
    assert done.stdout.startswith("omnipel ")
