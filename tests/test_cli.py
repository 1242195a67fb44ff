"""The command line, as a person or a script drives it."""

import json
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest

from omnipel.cli import main
from omnipel.core.cloth.stock import Goods
from omnipel.shop.document import dumped, read, write
from omnipel.shop.stockroom import GOODS, Change, Stockroom
from omnipel.shop.store import Store
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
    assert main(["new", "drum", "wall and lid", "--unit", "in"]) == 0  # sixteenths, as most would mean
    assert capsys.readouterr().out.endswith(path.read_text(encoding="utf-8"))
    assert main(["new", "drum", "wall-and-lid"]) == 0
    assert json.loads(capsys.readouterr().out)["format"] == "omnipel-job"


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


def test_lay_tells_every_piece_keeps_it_and_says_what_does_not_fit(job_file: Path, capsys: Output) -> None:
    assert main(["lay", str(job_file), "--seconds", "0"]) == 0
    out = capsys.readouterr().out.replace("\u202f", " ")
    assert "wall" in out
    assert "to buy" in out
    assert main(["lay", str(job_file), "--seconds", "0", "--json", "--keep"]) == 0
    (lay,) = json.loads(capsys.readouterr().out)
    pieces = [piece for ground in lay["grounds"] for piece in ground["pieces"]]
    assert {piece["piece"] for piece in pieces} == {"wall", "lid"}
    assert lay["used"]["value"] == pytest.approx(sum(term["value"] for term in lay["used"]["terms"]))
    assert max(x for piece in pieces for x, _ in piece["outline"]) <= lay["length"] + 0.3
    assert {placed.piece for placed in read(job_file).lays["outer"].placed} == {"wall", "lid"}
    job = read(job_file)
    narrow = replace(job, lays={}, cover=replace(job.cover, cloth=replace(job.cover.cloth, usable_width=400.0)))
    write(narrow, job_file)
    assert main(["lay", str(job_file), "--seconds", "0"]) == 1
    assert "does not fit" in capsys.readouterr().out


def test_several_jobs_are_laid_together_with_their_shares(job_file: Path, capsys: Output) -> None:
    other = job_file.with_name("other.omnipel.json")
    write(replace(drum(), name="Other drum"), other)
    assert main(["lay", str(job_file), str(other), "--seconds", "0", "--json"]) == 0
    (lay,) = json.loads(capsys.readouterr().out)
    assert [share["share"] for share in lay["shares"]] == [pytest.approx(0.5)] * 2
    assert lay["used"]["value"] < lay["alone"]
    assert main(["lay", str(job_file), str(other), "--keep"]) == 2


def test_takeoff_takes_prices_from_the_shop_that_is_named(job_file: Path, tmp_path: Path, capsys: Output) -> None:
    assert main(["takeoff", str(job_file)]) == 0
    assert "price unknown" in capsys.readouterr().out.casefold()
    shop = tmp_path / "shop.sqlite"
    with Store(shop) as store:
        key = "thread Tex 90"
        Stockroom(store).book("price", [Change(GOODS, key, Goods(key=key, price=2.0))])
    assert main(["--shop", str(shop), "takeoff", str(job_file), "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    thread = next(line for line in data["lines"] if line["key"] == key)
    assert thread["cost"] == pytest.approx(2.0 * thread["needed"] / 1000.0)
    assert data["to_pay"] == pytest.approx(thread["cost"])
    assert key not in data["price_unknown"]


def test_advice_is_told_and_made_in_the_file(job_file: Path, capsys: Output) -> None:
    assert main(["advise", str(job_file), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert main(["advise", str(job_file), "--apply", "99"]) == 2
    capsys.readouterr()
    if found:
        before = read(job_file)
        assert main(["advise", str(job_file), "--apply", "1"]) == 0
        capsys.readouterr()
        assert read(job_file) != before
        assert main(["lay", str(job_file), "--seconds", "0", "--json"]) == 0
        assert json.loads(capsys.readouterr().out)[0]["buy"] == pytest.approx(found[0]["after"])


def test_fits_says_what_is_left_and_how_many_come_out(job_file: Path, capsys: Output) -> None:
    assert main(["fits", str(job_file), "--piece", "9000x1500", "--json"]) == 0
    (found,) = json.loads(capsys.readouterr().out)
    assert found["fits"]
    assert found["how_many"] > 1
    assert main(["fits", str(job_file), "--piece", "900x900"]) == 1
    assert "left over: wall" in capsys.readouterr().out
    assert main(["fits", str(job_file), "--piece", "wide"]) == 2
