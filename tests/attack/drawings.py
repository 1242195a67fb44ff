"""Spoilt drawings: each is read as an outline or refused in one line, in bounded time."""

import random
import tempfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from omnipel.core.plane.trace import MOST_POINTS, ring_of
from omnipel.core.words.phrases import Voice
from omnipel.exchange.reading.outlines import read_outline
from omnipel.shop.document import DocumentError
from tests.wild import one_in

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="400mm" height="300mm" viewBox="0 0 400 300">'
SEEDS = (
    HEAD + '<g transform="translate(10 20) rotate(5)"><path id="side" d="M50 250 H350 V100 Q200 20 50 100 Z"/></g></svg>',
    HEAD
    + '<defs><symbol id="s"><circle r="40" cx="5cm" cy="50%"/></symbol></defs><use xlink:href="#s" x="10"/><use href="#s"/></svg>',
    HEAD + '<style>path{stroke:red}</style><polygon points="0,0 100,0 100,80 50,120 0,80"/><ellipse rx="20" ry="1e2"/></svg>',
    HEAD
    + '<path d="M0,0c10-5.5 20 5 40 0s30-10 40 0a25 25 -30 0 1 50-25l0 90zM5 5l1 1 2-1z" transform="matrix(1 0 0 1 0 0)"/></svg>',
    '<svg width="3in"><svg viewBox="0 0 10 10"><rect width="50%" height="8" rx="1" ry="2"/></svg><line x1="0" y2="4"/></svg>',
)
WORDS = (
    "1e308",
    "-1e308",
    "nan",
    "inf",
    "",
    "M",
    "0",
    "-5",
    "%",
    "url(#a)",
    "#side",
    "#s",
    "scale(0)",
    "rotate(1e9)",
    "matrix(1)",
    "a",
    "99999999",
    "A0 0 0 0 0 0 0",
    "é",
    "<!--",
    "&lt;",
    "auto",
    "mm",
    "none",
)


def spoilt(dice: random.Random) -> bytes:
    """A drawing of which something is wrong."""
    text = dice.choice(SEEDS)
    for _ in range(dice.randrange(1, 5)):
        way, at = dice.randrange(7), dice.randrange(len(text) + 1)
        if way == 0:  # a letter gone, or many
            text = text[:at] + text[at + dice.choice((1, 1, 5, 60)) :]
        elif way == 1:
            text = text[:at] + dice.choice(WORDS) + text[at:]
        elif way == 2:  # one attribute's value is something else
            quotes = [i for i, sign in enumerate(text) if sign == '"'][::2]
            if quotes:
                start = dice.choice(quotes) + 1
                end = text.find('"', start)
                text = text[:start] + dice.choice(WORDS) * dice.choice((1, 1, 3)) + text[end:]
        elif way == 3:  # a piece of another drawing
            other = dice.choice(SEEDS)
            begin = dice.randrange(len(other))
            text = text[:at] + other[begin : begin + dice.randrange(40)] + text[at:]
        elif way == 4:
            text = text[:at] + text[max(0, at - 40) : at] * dice.choice((2, 30)) + text[at:]
        elif way == 5:
            text = text.replace(
                dice.choice(("path", "rect", "use", "M", "Z", "10", "svg", "0")),
                dice.choice(("use", "g", "path", "A", "1e400", "")),
            )
        else:
            text = text.swapcase() if dice.random() < 0.2 else text.replace(" ", dice.choice(("\n", ",", "", "\t")))
    made = text.encode(dice.choice(("utf-8", "utf-8", "utf-8", "utf-16", "latin-1")), errors="replace")
    return bytes(b if dice.random() > 0.002 else dice.randrange(256) for b in made) if dice.random() < 0.15 else made


def bombs() -> Iterator[tuple[str, bytes]]:
    """Drawings that are small and want to become large."""
    copies = "".join(f'<g id="g{i}"><use href="#g{i - 1}"/><use href="#g{i - 1}"/></g>' for i in range(1, 40))
    yield "copies of copies", f'{HEAD}<g id="g0"><rect width="9" height="9"/></g>{copies}</svg>'.encode()
    yield "a copy of itself", f'{HEAD}<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g></svg>'.encode()
    chain = "".join(f'<g id="c{i}"><use href="#c{i + 1}"/></g>' for i in range(5000))
    yield "a long chain of copies", f"{HEAD}{chain}</svg>".encode()
    yield "deep", (HEAD + "<g>" * 5000 + "</g>" * 5000 + "</svg>").encode()
    yield "wide", (HEAD + "<rect width='1' height='1'/>" * 50_000 + "</svg>").encode()
    yield "one long path", f'{HEAD}<path d="M0 0{"L1 2" * 1_900_000}"/></svg>'.encode()
    yield "too many bytes", b"<svg>" + b" " * 9_000_000 + b"</svg>"
    yield "many figures", f'{HEAD}<path d="{"M0 0L9 9L0 9Z" * (60_000 // one_in(5))}"/></svg>'.encode()
    yield "entities", b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><svg>&b;</svg>'


def outcome(content: bytes, folder: Path) -> tuple[str, str]:
    """How a drawing was taken, and the fault, if there is one."""
    path = folder / "drawing.svg"
    path.write_bytes(content)
    try:
        traced = read_outline(path)
    except DocumentError as error:
        said = Voice().say(error.phrase)
        return "refused", "" if "\n" not in said and len(said) < 300 and "drawing.svg" in said else f"said {said!r}"
    except Exception as error:  # that is what is looked for
        return "fault", f"{type(error).__name__}: {error}"
    ring = ring_of(traced.outline)
    return "read", "" if len(ring) >= 3 and len(traced.outline.points) <= MOST_POINTS else f"{len(ring)} points"


def attack(count: int, seed: int) -> tuple[Counter[str], list[str]]:
    """So many spoilt drawings: how they were taken, and the faults."""
    dice, how, faults = random.Random(seed), Counter[str](), []
    with tempfile.TemporaryDirectory() as folder:
        for i in range(count):
            content = spoilt(dice)
            taken, fault = outcome(content, Path(folder))
            how[taken] += 1
            if fault:
                faults.append(f"drawing {i} of seed {seed}: {fault}: {content[:400]!r}")
    return how, faults
