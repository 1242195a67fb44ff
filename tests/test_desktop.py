"""A double click on a job: what is installed for it names the program that is there, and is taken away again."""

import configparser
import os
import shlex
import subprocess
import sys
import xml.etree.ElementTree as ET
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def run(home: Path, *arguments: str) -> int:
    told = [sys.executable, str(ROOT / "tools" / "desktop.py"), *arguments]
    return subprocess.run(told, env={**os.environ, "XDG_DATA_HOME": str(home)}, check=False, capture_output=True).returncode


def test_a_job_file_is_opened_by_the_program_of_this_checkout(tmp_path: Path) -> None:
    home, program = tmp_path / "a home", ROOT / ".venv" / "bin" / "omnipel"
    assert run(home) == (0 if program.is_file() else 1)
    if not program.is_file():
        return
    entry = configparser.RawConfigParser()
    entry.optionxform = str  # type: ignore[assignment, method-assign]
    entry.read(home / "applications" / "omnipel.desktop", encoding="utf-8")
    shown = entry["Desktop Entry"]
    asked, files = shlex.split(shown["Exec"])
    assert Path(asked) == program
    assert files == "%F"
    kind = ET.parse(home / "mime" / "packages" / "omnipel.xml").getroot()[0]
    assert f"{kind.attrib['type']};" == shown["MimeType"]
    assert {glob.attrib["pattern"] for glob in kind if "pattern" in glob.attrib} == {"*.omnipel", "*.omnipel.json"}
    assert run(home, "--remove") == 0
    assert not list(home.rglob("omnipel.*"))
