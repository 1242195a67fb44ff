"""The program's place: packages that hold what they need, a launcher, icon and file types that come and go without a trace, the shop from the command line."""

import configparser
import json
import os
import shlex
import shutil
import sqlite3
import subprocess
import sys
import tarfile
import tomllib
import xml.etree.ElementTree as ET
import zipfile
from importlib.metadata import version
from pathlib import Path

import pytest
from PIL import Image

from omnipel.cli import main, whole_parser
from omnipel.desktop.placing import ID, SIZES, TYPES, files, put, take_away
from omnipel.exchange.files.travel import read_job
from omnipel.shop.demo import unpack
from omnipel.shop.store import Store
from tests.test_docs import ROOT, pages, tool

PROGRAM = Path("/opt/a b/100 %/omnipel")


def everything(folder: Path) -> set[Path]:
    return {path for path in folder.rglob("*") if path.is_file()}


def test_what_is_put_on_a_desktop_is_sound_and_goes_again_without_a_trace(tmp_path: Path) -> None:
    home = tmp_path / "home" / ".local" / "share"
    put(home, PROGRAM)
    entry = configparser.RawConfigParser()
    entry.optionxform = str  # type: ignore[assignment, method-assign]
    launcher = home / "applications" / f"{ID}.desktop"
    entry.read(launcher, encoding="utf-8")
    shown = entry["Desktop Entry"]
    asked, given = shlex.split(shown["Exec"])
    assert Path(asked.replace("%%", "%")) == PROGRAM
    assert given == "%F"
    assert shown["MimeType"].strip(";").split(";") == list(TYPES)
    assert {entry[f"Desktop Action {a}"]["Exec"].rpartition(" ")[2] for a in shown["Actions"].strip(";").split(";")} == {
        "--new",
        "--demo",
    }
    kinds = ET.parse(home / "mime" / "packages" / f"{ID}.xml").getroot()
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    assert [kind.attrib["type"] for kind in kinds] == list(TYPES)
    assert {glob.attrib["pattern"] for glob in kinds.iter(f"{space}glob")} == {"*.omnipel", "*.omnipel.json"}
    for size in SIZES:
        with Image.open(home / "icons" / "hicolor" / f"{size}x{size}" / "apps" / f"{ID}.png") as drawn:
            assert drawn.size == (size, size)
            assert len(drawn.convert("RGBA").getcolors(maxcolors=size * size) or ()) > 3
    for told in (
        ["desktop-file-validate", str(launcher)],
        ["appstreamcli", "validate", "--no-net", str(home / "metainfo" / f"{ID}.metainfo.xml")],
    ):
        if shutil.which(told[0]):
            done = subprocess.run(told, capture_output=True, text=True, check=False)
            assert done.returncode == 0, done.stdout + done.stderr
    assert len(take_away(home)) == len(files(home, PROGRAM))
    assert not everything(tmp_path)
    assert not home.exists()


def test_what_others_have_put_there_stays(tmp_path: Path) -> None:
    other = tmp_path / "applications" / "other.desktop"
    other.parent.mkdir()
    other.write_text("[Desktop Entry]\nType=Application\nName=x\nExec=x\n")
    (tmp_path / "omnipel").mkdir()
    (tmp_path / "omnipel" / "shop.sqlite").write_bytes(b"work")
    put(tmp_path, PROGRAM)
    put(tmp_path, PROGRAM)  # once more changes nothing
    take_away(tmp_path)
    left = {path.relative_to(tmp_path).as_posix() for path in everything(tmp_path)}
    assert left - {"applications/mimeinfo.cache"} == {"applications/other.desktop", "omnipel/shop.sqlite"}
    assert take_away(tmp_path) == []


def test_the_command_puts_it_there_and_takes_it_away(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert main(["desktop", "--program", str(PROGRAM)]) == 0
    assert str(PROGRAM).replace("%", "%%") in (tmp_path / "applications" / f"{ID}.desktop").read_text()
    assert main(["desktop", "--remove"]) == 0
    assert not everything(tmp_path)
    assert "taken away" in capsys.readouterr().out


def test_manual_and_completions_tell_every_command_and_are_as_the_program_is_now() -> None:
    made = tool("manual")
    folder = ROOT / "src" / "omnipel" / "desktop"
    page = (folder / "omnipel.1").read_text(encoding="utf-8")
    assert page == made.manual(), "make docs writes it anew"
    for name, text in made.completions().items():
        assert (folder / "completion" / name).read_text(encoding="utf-8") == text, "make docs writes it anew"
    for name, _, parser in made.commands_of(whole_parser()):
        assert f".SS {name}" in page
        for option in (o for action in parser._actions for o in action.option_strings if o.startswith("--") and o != "--help"):
            assert option.replace("-", "\\-") in page
    if shutil.which("man"):
        plain = {**os.environ, "MANPAGER": "cat"}
        told = ["man", "-l", "-E", "UTF-8", str(folder / "omnipel.1")]
        done = subprocess.run(told, capture_output=True, text=True, check=False, env=plain)
        assert "SYNOPSIS" in done.stdout
    if shutil.which("bash"):
        script = f"source '{folder}/completion/omnipel.bash'; COMP_WORDS=(omnipel ex); COMP_CWORD=1; _shtab_omnipel; echo ${{COMPREPLY[@]}}"
        assert "export" in subprocess.run(["bash", "-c", script], capture_output=True, text=True, check=True).stdout


def test_licences_are_listed_for_all_that_is_used() -> None:
    page = pages().licences_page()
    assert (ROOT / "docs" / "licences.md").read_text(encoding="utf-8") == page, "make docs writes it anew"
    asked = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["dependencies"]
    names = {line.split(">")[0].casefold() for line in asked}
    assert all(f"| {name} |" in page.casefold() for name in names)
    assert all(">=" in line for line in asked)
    pinned = {
        line.strip().split("==")[0].casefold()
        for line in (ROOT / "requirements.in").read_text().splitlines()
        if line.strip() and line[0] != "#"
    }
    assert pinned - {"setuptools"} == names


def test_wheel_and_source_archive_hold_what_they_need_and_run(tmp_path: Path) -> None:
    source = tmp_path / "source"
    kept = shutil.ignore_patterns("__pycache__", "*.egg-info", ".git", ".venv", "build", "dist", ".*_cache", ".hypothesis")
    shutil.copytree(ROOT, source, ignore=kept)
    told = [sys.executable, "-m", "build", "--no-isolation", "--outdir", str(tmp_path / "dist"), str(source)]
    done = subprocess.run(told, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr[-2000:]
    (wheel,), (archive,) = (list((tmp_path / "dist").glob(kind)) for kind in ("*.whl", "*.tar.gz"))
    with zipfile.ZipFile(wheel) as packed:
        names = set(packed.namelist())
        data = packed.read(next(n for n in names if n.endswith("METADATA"))).decode()
    for part in (
        "py.typed",
        "type/LICENSE.txt",
        "desktop/omnipel.1",
        "desktop/icons/omnipel.svg",
        "shop/sample/quillet-hill.sqlite.gz",
    ):
        assert f"omnipel/{part}" in names
    assert sum("licenses/" in name for name in names) == 3
    assert "Requires-Dist: setuptools" not in data
    assert "](docs/" not in data  # no picture by a path that is not there
    with tarfile.open(archive) as packed_:
        inside = {name.partition("/")[2] for name in packed_.getnames()}
    assert {"requirements.txt", "tools/setup.sh", "docs/developing.md", "tests/conftest.py", "tests/core/told/drum.json"} & inside >= {
        "requirements.txt", "tools/setup.sh", "docs/developing.md", "tests/conftest.py",
    }  # fmt: skip
    there = tmp_path / "there"
    subprocess.run(
        [sys.executable, "-m", "pip", "install", "-q", "--no-deps", "--target", str(there), str(wheel)],
        check=True,
        capture_output=True,
    )
    environment = {**os.environ, "PYTHONPATH": str(there), "XDG_DATA_HOME": str(tmp_path / "data")}
    asked = "import omnipel, sys; from omnipel.cli import main; print(omnipel.__file__); sys.exit(main(sys.argv[1:]))"
    for words, expected in (
        (["--version"], version("omnipel")),
        (["new", "--list"], "drum wall-and-lid"),
        (["desktop"], "files put"),
    ):
        if words == ["--version"]:
            ran = subprocess.run(
                [sys.executable, "-c", asked, *words], capture_output=True, text=True, env=environment, cwd=tmp_path, check=False
            )
        else:
            ran = subprocess.run(
                [sys.executable, "-c", asked, *words], capture_output=True, text=True, env=environment, cwd=tmp_path, check=True
            )
        assert expected in ran.stdout
        assert str(there) in ran.stdout


# --- the shop without a window


@pytest.fixture
def shop(tmp_path: Path) -> Path:
    unpack(tmp_path / "shop.sqlite").close()
    return tmp_path / "shop.sqlite"


def test_a_shop_is_listed_written_out_and_backed_up(shop: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    def told(*words: str) -> str:
        assert main(["--shop", str(shop), "shop", *words]) == 0
        return capsys.readouterr().out

    lines = told("list").splitlines()
    cards = json.loads(told("list", "--json"))
    assert len(cards) == len(lines) > 20
    assert {card["name"] for card in cards} >= {"Rain butt", "Press motor"}
    out = tmp_path / "out"
    told("export", str(out))
    assert len(list(out.iterdir())) == len(cards)
    butt = next(card for card in cards if card["name"] == "Rain butt")
    assert main(["--shop", str(shop), "shop", "export", str(out), str(butt["id"])]) == 2  # what is there is asked about
    assert "is there already" in capsys.readouterr().err
    told("export", str(out), "Rain butt", "--replace")
    with Store(shop, read_only=True) as store:
        assert read_job(out / "Rain butt.omnipel") == store.job(butt["id"])
        before = store.job(butt["id"])
    with Store(shop) as store:  # while it is in use
        told("backup", str(tmp_path / "copy.sqlite"))
        assert store.writable
    with Store(tmp_path / "copy.sqlite", read_only=True) as copy:
        assert copy.job(butt["id"]) == before
        assert len(copy.cards()) == len(cards)
    assert sqlite3.connect(tmp_path / "copy.sqlite").execute("PRAGMA integrity_check").fetchone() == ("ok",)
    told("backup", str(tmp_path / "copy.sqlite"))  # an earlier one of its kind
    for words, fault in ((["backup", str(shop)], "the shop itself"), (["export", str(out), "no such job"], "there is no job")):
        assert main(["--shop", str(shop), "shop", *words]) == 2
        assert fault in capsys.readouterr().err
    assert main(["--shop", str(tmp_path / "none.sqlite"), "shop", "list"]) == 2
    assert not (tmp_path / "none.sqlite").exists()


def test_make_install_says_what_it_does_and_refuses_what_is_not_ours(tmp_path: Path) -> None:
    environment = {**os.environ, "HOME": str(tmp_path), "XDG_DATA_HOME": str(tmp_path / "share")}

    def ran(*words: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [str(ROOT / "tools" / "install.sh"), *words], capture_output=True, text=True, env=environment, check=False
        )

    assert ran().returncode == 1
    assert "install or uninstall" in ran().stderr
    program = tmp_path / ".local" / "lib" / "omnipel" / "venv" / "bin" / "omnipel"
    program.parent.mkdir(parents=True)
    program.write_text(f'#!/bin/sh\nexec "{sys.executable}" -m omnipel.cli "$@"\n')
    program.chmod(0o755)
    links = tmp_path / ".local" / "bin"
    links.mkdir()
    (links / "omnipel").symlink_to(program)
    (links / "omnipel-cutter").write_text("somebody else's")
    put(tmp_path / "share", program)
    shop = tmp_path / "share" / "omnipel" / "shop.sqlite"
    shop.parent.mkdir()
    shop.write_bytes(b"work")
    done = ran("uninstall")
    assert done.returncode == 0, done.stderr
    assert everything(tmp_path) == {shop, links / "omnipel-cutter"}
