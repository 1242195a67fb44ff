"""The program as it is started: on a real screen under a small window manager, without a screen, and told to end."""

import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from omnipel.bench.screen import hindrance, missing
from omnipel.core.words.phrases import NOTHING, Voice
from omnipel.shop.store import Store

TOOLS = ("Xvfb", "openbox", "xdotool", "xprop", "xwininfo")
LACKING = [tool for tool in TOOLS if shutil.which(tool) is None] or missing("x")
needs_screen = pytest.mark.skipif(bool(LACKING), reason=f"no virtual screen: {', '.join(LACKING)} cannot be had here")
START = [sys.executable, "-m", "omnipel.cli"]


def ended(program: subprocess.Popen[str]) -> tuple[int, str]:
    """How a program ended, and what it said."""
    said = program.communicate(timeout=30)[1]
    return program.returncode, said


def waited(check: Callable[[], object], seconds: float = 60.0) -> object:
    """Wait until something is so; what it was."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        found = check()
        if found:
            return found
        time.sleep(0.05)
    raise AssertionError("it did not come to be so")


class Screen:
    """A virtual screen with a window manager."""

    def __init__(self, size: str) -> None:
        self.programs: list[subprocess.Popen[str]] = []
        hear, tell = os.pipe()
        self.server = subprocess.Popen(
            ["Xvfb", "-displayfd", str(tell), "-screen", "0", f"{size}x24", "-nolisten", "tcp", "-noreset"],
            pass_fds=(tell,),
            stderr=subprocess.DEVNULL,
        )
        os.close(tell)
        with os.fdopen(hear) as told:  # to the end of the line: a server that cannot write it dies
            self.display = f":{told.readline().strip()}"
        self.environment = {k: v for k, v in os.environ.items() if not k.startswith(("QT_", "WAYLAND"))} | {
            "DISPLAY": self.display
        }
        self.manager = subprocess.Popen(["openbox", "--sm-disable"], env=self.environment, stderr=subprocess.DEVNULL)
        waited(
            lambda: (
                "=" in self.ask("xprop", "-root", "_NET_SUPPORTING_WM_CHECK")
                or "#" in self.ask("xprop", "-root", "_NET_SUPPORTING_WM_CHECK")
            )
        )

    def ask(self, *words: str) -> str:
        """What a tool prints."""
        return subprocess.run(words, env=self.environment, capture_output=True, text=True, timeout=20, check=False).stdout

    def start(self, *words: str) -> subprocess.Popen[str]:
        """The program."""
        self.programs.append(subprocess.Popen([*START, *words], env=self.environment, stderr=subprocess.PIPE, text=True))
        return self.programs[-1]

    def window(self) -> str:
        """Its window, once it is there."""
        return str(waited(lambda: self.ask("xdotool", "search", "--onlyvisible", "--name", "Omnipel").split()[-1:])[0])  # type: ignore[index]

    def frame(self, window: str) -> tuple[int, int, int, int]:
        """Left, top, width and height of the window with its title bar."""
        waited(lambda: "=" in self.ask("xprop", "-id", window, "_NET_FRAME_EXTENTS"))
        left, right, top, bottom = map(
            int, re.findall(r"\d+", self.ask("xprop", "-id", window, "_NET_FRAME_EXTENTS").split("=")[1])
        )
        told = self.ask("xwininfo", "-id", window)
        names = ("Absolute upper-left X", "Absolute upper-left Y", "Width", "Height")
        x, y, wide, high = (int(re.findall(rf"{name}: +(-?\d+)", told)[0]) for name in names)
        return x - left, y - top, wide + left + right, high + top + bottom

    def keys(self, *keys: str) -> None:
        """Press keys, one after the other."""
        for key in keys:
            self.ask("xdotool", "key", key)
            time.sleep(0.25)

    def stop(self) -> None:
        """Switch it off."""
        for program in self.programs:
            if program.poll() is None:
                program.kill()
            program.communicate()
        for process in (self.manager, self.server):
            process.terminate()
            process.wait(20)


@pytest.fixture
def screen() -> Iterator[Callable[[str], Screen]]:
    made: list[Screen] = []

    def on(size: str) -> Screen:
        made.append(Screen(size))
        return made[-1]

    yield on
    for one in made:
        one.stop()


@needs_screen
@pytest.mark.parametrize("size", ["1280x900", "1024x600"])
def test_a_first_reading_is_typed_into_a_real_window(screen: Callable[[str], Screen], size: str, tmp_path: Path) -> None:
    here, shop = screen(size), tmp_path / "shop.sqlite"
    program = here.start("--shop", str(shop))
    window = here.window()
    across, down = map(int, size.split("x"))

    def fits() -> bool:
        x, y, wide, high = here.frame(window)
        return x >= 0 and y >= 0 and x + wide <= across and y + high <= down

    waited(fits, 10.0)
    until = time.monotonic() + 60.0
    while "New cover" not in here.ask("xdotool", "getwindowname", window) and time.monotonic() < until:
        here.ask("xdotool", "windowactivate", "--sync", window)  # a busy machine may give it the keys a little later than it says
        here.ask("xdotool", "windowfocus", "--sync", window)
        here.keys("ctrl+n")
        time.sleep(2.0)
    here.keys("ctrl+2")
    here.ask("xdotool", "type", "--delay", "30", "176.3cm")
    here.keys("Return")

    def kept() -> bool:
        with Store(shop, read_only=True) as store:
            job = store.job(store.cards()[0].id)
            return [reading.repeats for reading in job.readings] == [(1763.0,)]

    waited(kept, 20.0)
    here.ask("xdotool", "windowsize", "--sync", window, "900", "520")
    here.keys("ctrl+q")
    assert ended(program) == (0, "")
    program = here.start("--shop", str(shop))
    window = here.window()
    waited(lambda: (here.frame(window)[2] - 900) in range(20), 10.0)  # as it was left
    program.send_signal(signal.SIGINT)
    assert ended(program) == (130, "")


@needs_screen
def test_told_to_end_the_demo_leaves_no_folder(screen: Callable[[str], Screen]) -> None:
    here = screen("1280x900")
    there = Path(tempfile.gettempdir())
    before = set(there.glob("omnipel-demo-*"))
    program = here.start("--demo")
    here.window()
    assert len(set(there.glob("omnipel-demo-*")) - before) == 1
    program.send_signal(signal.SIGTERM)
    assert ended(program) == (143, "")
    assert set(there.glob("omnipel-demo-*")) == before


@needs_screen
def test_a_start_that_fails_says_so_in_a_window(screen: Callable[[str], Screen], tmp_path: Path) -> None:
    here = screen("1280x900")
    (tmp_path / "words.txt").write_text("no shop " * 100)
    program = here.start("--shop", str(tmp_path / "words.txt"))
    window = str(waited(lambda: here.ask("xdotool", "search", "--onlyvisible", "--name", "A question").split()[-1:])[0])  # type: ignore[index]
    here.ask("xdotool", "windowactivate", "--sync", window)
    here.keys("Return")
    code, said = ended(program)
    assert code == 2
    assert "is no shop of Omnipel" in said
    assert len(said.strip().splitlines()) == 1


@pytest.mark.parametrize(
    ("environment", "words"), [({}, "there is no screen here"), ({"DISPLAY": ":987"}, "no screen answers at DISPLAY=:987")]
)
def test_without_a_screen_it_says_so_in_one_line(environment: dict[str, str], words: str) -> None:
    if environment and missing("x"):
        words = "sudo apt-get install"
    hidden = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    done = subprocess.run(START, env=hidden | environment, capture_output=True, text=True, timeout=60, check=False)
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1
    assert words in done.stderr
    assert words in Voice().say(hindrance(environment))
    assert hindrance({"QT_QPA_PLATFORM": "offscreen"}) == NOTHING or missing()


@pytest.mark.parametrize("tongue", ["C", "POSIX"])
def test_a_terminal_without_signs_gets_plain_ones(tongue: str, tmp_path: Path) -> None:
    bare = {k: v for k, v in os.environ.items() if not k.startswith(("LC_", "LANG", "PYTHON"))}
    bare |= {"LC_ALL": tongue, "PYTHONCOERCECLOCALE": "0", "PYTHONUTF8": "0", "PYTHONIOENCODING": ""}
    job = tmp_path / "job.json"
    for words in (["new", "drum", "wall-and-lid", "-o", str(job)], ["draft", str(job)], ["check", str(job)], ["--help"]):
        done = subprocess.run([*START, *words], env=bare, capture_output=True, timeout=60, check=False)
        assert done.returncode == 0, done.stderr
        done.stdout.decode("ascii")
        assert b"Traceback" not in done.stderr
