"""Spoilt documents, arguments, and lines of the tape: read and lawful, or refused in one line; never anything else."""

import contextlib
import io
import json
import random
import shutil
import tempfile
from collections import Counter
from copy import deepcopy
from pathlib import Path
from typing import Any

from omnipel.bench.stations.tape.wireless import Taken, WirelessTape
from omnipel.cli import main
from omnipel.core.draft import draft
from omnipel.core.words.phrases import Voice
from omnipel.exchange.devices.tape_device import LONGEST_LINE
from omnipel.shop.document import DocumentError, dumped, envelope, lawful, loaded
from omnipel.shop.sample import SAMPLES
from tests.attack.drawings import SEEDS
from tests.attack.jobs import attacked

ODD = (
    *(0, -1, 1, 1e308, -1e308, 1e-300, 10**400, 2**63, 12.7, None, True),
    *("", "x" * 5000, "\u0000", "мм", "1/2", "NaN", "../../x", [], {}, [[]], {"a": {}}),
)
Report = tuple[Counter[str], list[str]]


def _somewhere(data: Any, dice: random.Random) -> tuple[Any, Any] | None:
    """A random place in plain data: its holder and its key."""
    here, found = data, None
    for _ in range(dice.randrange(1, 9)):
        keys = list(here) if isinstance(here, dict) else list(range(len(here))) if isinstance(here, list) else []
        if not keys:
            break
        key = dice.choice(keys)
        found, here = (here, key), here[key]
    return found


def document(dice: random.Random) -> str:
    """A job file of which something is wrong, or only odd."""
    job = attacked(dice) if dice.random() < 0.3 else dice.choice(SAMPLES)()
    data = envelope(job)
    for _ in range(dice.randrange(1, 4)):
        place = _somewhere(data, dice)
        if place is None:
            continue
        holder, key = place
        way = dice.randrange(5)
        if way == 0:
            holder[key] = deepcopy(dice.choice(ODD))  # an odd thing may be spoilt further
        elif way == 1 and isinstance(holder, dict):
            del holder[key]
        elif way == 2 and isinstance(holder, dict):
            holder[dice.choice(("name", "x", "id", "", "repeats", "version"))] = deepcopy(holder[key])
        elif way == 3 and isinstance(holder, list):
            holder.extend([holder[key]] * dice.choice((1, 3, 300)))
        else:
            data["version"] = dice.choice((1, 2, 3, 0, 4, "3"))
    text = json.dumps(data)
    if dice.random() < 0.2:
        at = dice.randrange(len(text))
        text = text[:at] + dice.choice(("", "{", "NaN", "\\", "é", "1e999", "]" * 9)) + text[at + dice.choice((0, 1, 30)) :]
    return text


def documents(count: int, seed: int) -> Report:
    """What is read is lawful, drafts, and is written as it is; the rest is refused in one short line."""
    dice, how, faults = random.Random(seed), Counter[str](), []
    for i in range(count):
        text = document(dice)
        try:
            job = loaded(text)
        except DocumentError as error:
            how["refused"] += 1
            words = Voice().say(error.phrase)
            if "\n" in words or len(words) > 300:
                faults.append(f"document {i} of seed {seed} said {words!r}")
            continue
        except Exception as error:
            faults.append(f"document {i} of seed {seed}: {type(error).__name__}: {error}")
            continue
        how["read"] += 1
        if not lawful(job) or loaded(dumped(job)) != job:
            faults.append(f"document {i} of seed {seed} cannot be written as it was read")
        if i % 4 == 0 and any(finding.code == "our-fault" for finding in draft(job).findings):
            faults.append(f"document {i} of seed {seed} is a fault of ours")
    return how, faults


LINES = tuple(
    tuple(line.split())
    for line in """draft J
draft J --json
check J
check J --fix
check J --fix=flaps
export J --pdf P --paper A0 --despite-stop
export J --pdf P --svg O --replace
export J --card P
export J --json O --sheet P
outline J S
outline J S --smooth 3
card J P
card J P --paper Letter
new drum wall-and-lid -o O
new box saddle-and-ends --unit in/16
new --list
schema
tape --help""".splitlines()
)
"""Command lines as somebody would type them; J, S, P, O are a job, a drawing, a paper and another file."""
COMMANDS = ("draft", "check", "export", "outline", "card", "new", "schema", "tape", "sew", "")
OPTIONS = (
    *("--json", "--fix", "--fix=flaps", "--pdf", "--svg", "--sheet", "--card", "--paper", "A4", "A0", "--despite-stop", "--many"),
    *("--list", "--unit", "in/16", "-o", "--smooth", "1e9", "nan", "--replace", "--help", "--socket", "drum", "wall-and-lid"),
    *("--", "-", "", "é", "\udc80"),
)


def spoilt(line: list[str], files: list[str], dice: random.Random) -> list[str]:
    """A command line of which something may be left out, doubled, or something else."""
    for _ in range(dice.choice((0, 0, 1, 1, 2, 5))):
        at, word = dice.randrange(len(line)), dice.choice((*COMMANDS, *OPTIONS, *files, files[0], files[0]))
        way = dice.randrange(3)
        line[at : at + (way != 0)] = [] if way == 1 and len(line) > 1 else [word]
    return line


def arguments(count: int, seed: int) -> Report:
    """A command line ends with 0, 1 or 2, and a refusal is one line."""
    dice, how, faults = random.Random(seed), Counter[str](), []
    with tempfile.TemporaryDirectory() as folder, contextlib.chdir(folder):  # a name without a folder is written where one stands
        there = Path(folder)
        for _ in range(count):
            (there / "job.json").write_text(
                dumped(dice.choice(SAMPLES)()) if dice.random() < 0.7 else document(dice), errors="replace"
            )
            (there / "side.svg").write_text(dice.choice(SEEDS))
            files = [str(there / name) for name in ("job.json", "side.svg", "out.pdf", "none/x.pdf", ".", "out.json")]
            line = spoilt(
                [dict(zip("JSPO", (*files[:3], files[5]), strict=True)).get(word, word) for word in dice.choice(LINES)],
                files,
                dice,
            )
            if line[0] == "" or (line[0] == "tape" and "--help" not in line):  # it would open the window, or wait for a bench
                continue
            out, err = io.StringIO(), io.StringIO()
            try:
                with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                    code = main(line)
            except SystemExit as error:  # --help
                code = int(error.code or 0)
            except Exception as error:
                faults.append(f"arguments {line}: {type(error).__name__}: {error}")
                continue
            how[str(code)] += 1
            if code not in (0, 1, 2) or (code == 2 and len(err.getvalue().strip().splitlines()) != 1):
                faults.append(f"arguments {line}: {code}, {err.getvalue()[-300:]!r}")
            left = [path.name for path in there.iterdir() if path.name.startswith(".")]
            if left:
                faults.append(f"arguments {line}: left {left}")
            for path in there.iterdir():
                shutil.rmtree(path) if path.is_dir() else path.unlink()
    return how, faults


def lines(count: int, seed: int) -> Report:
    """Whatever comes over the tape's socket is answered with one line that begins OK or NO, and no number is taken twice."""
    dice, how, faults, took = random.Random(seed), Counter[str](), [], Counter[str]()

    def take(text: str, _then: Taken) -> str:
        took[text] += 1
        return "" if text[:1].isdigit() else "no\nlength\n" * dice.choice((1, 40))

    tape = WirelessTape(Path("/nowhere"), take, Taken())
    for i in range(count):
        number = dice.choice((str(dice.randrange(300)), "x", "", "-1", "9" * 30, "٣", " "))
        text = dice.choice((f"{number} cm {i}", f"{i}", "", "a b c", "é" * 200, "READ t 1 2", "\x00", f"{i} " * 90))
        line = dice.choice(
            (f"READ tape {number} {text}", f"READ  {number} {text}", f"{text}", f"OK {number}", "READ", f"read t {number} {text}")
        )
        answer = tape.answer(line.strip())
        how[answer[:2]] += 1
        if answer[:3] not in ("OK ", "NO ") or "\n" in answer or len(answer.encode()) > 4 * LONGEST_LINE:
            faults.append(f"line {line[:80]!r} was answered {answer[:80]!r}")
    twice = [text for text, times in took.items() if times > 1 and text[:1].isdigit() and len(text) < 8 and " " not in text]
    return how, faults + [f"{text} was taken {took[text]} times" for text in twice]
