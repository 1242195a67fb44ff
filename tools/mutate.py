"""Changes the core a little, two hundred times, and sees whether the tests notice: `make mutate`.

A mutant is one small change to one expression (another sign, another comparison, a number a little off, a branch turned round). The
sample is fixed by its seed, so that two runs can be compared. Each mutant runs in a process of its own, forked from one that has loaded
everything slow; the first test that fails kills it. What lives is listed: either a test is missing, or the change makes no difference.
"""

import argparse
import ast
import copy
import importlib.abc
import importlib.util
import os
import random
import signal
import sys
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parent.parent
CORE = ROOT / "src" / "omnipel" / "core"
ROOMS = ("words", "tape", "plane", "drafting", "covers", "fit")
SEED = 7
SECONDS = 900
"""A mutant that runs longer hangs: noticed."""
FIRST = {
    "words": ("tests/core/words", "src/omnipel/core/words"),
    "tape": ("tests/core/tape", "src/omnipel/core/tape", "tests/core/forms"),
    "plane": ("tests/core/plane", "src/omnipel/core/plane", "tests/core/drafting"),
    "drafting": ("tests/core/drafting", "src/omnipel/core/drafting"),
    "covers": ("tests/core/covers/test_oracles.py", "tests/core/covers/test_cases.py", "src/omnipel/core/covers"),
    "fit": ("tests/core/fit", "src/omnipel/core/fit"),
}
"""Where a mutant of a room is most likely noticed; all the others follow."""
ALL = ("tests/core", "tests/exchange")
SLOW = "tests/core/tape/test_trials.py"
"""Hundreds of measured things: only for what measures."""

SWAPS = {
    ast.Add: (ast.Sub,),
    ast.Sub: (ast.Add,),
    ast.Mult: (ast.Div,),
    ast.Div: (ast.Mult,),
    ast.Lt: (ast.GtE, ast.LtE),
    ast.LtE: (ast.Gt, ast.Lt),
    ast.Gt: (ast.LtE, ast.GtE),
    ast.GtE: (ast.Lt, ast.Gt),
    ast.Eq: (ast.NotEq,),
    ast.NotEq: (ast.Eq,),
    ast.And: (ast.Or,),
    ast.Or: (ast.And,),
    ast.Is: (ast.IsNot,),
    ast.IsNot: (ast.Is,),
    ast.In: (ast.NotIn,),
    ast.NotIn: (ast.In,),
}
CALLS = {"min": "max", "max": "min", "cos": "sin", "sin": "cos", "floor": "ceil", "ceil": "floor", "any": "all", "all": "any"}
SKIPPED_CALLS = frozenset(("tr", "trn", "term", "Rule", "count", "Annotated", "Ge", "Le", "Gt", "Len"))
"""Words and declared bounds: other tests look at them, or nothing depends on them."""


@dataclass(frozen=True)
class Mutant:
    """One change: the file, the line, what stood there and what stands there now."""

    path: Path
    line: int
    before: str
    after: str
    source: str

    def __str__(self) -> str:
        return f"{self.path.relative_to(ROOT)}:{self.line}: {self.before}  →  {self.after}"


def points(tree: ast.Module) -> Iterator[tuple[ast.AST, str]]:
    """Every place that can be changed, with the kind of change."""
    skipped: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Call):
            name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
            if name in SKIPPED_CALLS or name in ("length", "share", "ratio", "yes", "pick"):
                skipped.update(id(inner) for inner in ast.walk(node))
        if isinstance(node, ast.AnnAssign | ast.arg) and node.annotation is not None:
            skipped.update(id(inner) for inner in ast.walk(node.annotation))
        if isinstance(node, ast.FunctionDef) and node.returns is not None:
            skipped.update(id(inner) for inner in ast.walk(node.returns))
    for node in ast.walk(tree):
        kind = _kind(node)
        if kind and id(node) not in skipped:
            yield node, kind


def _kind(node: ast.AST) -> str:
    """What can be changed about a node; "" for nothing."""
    match node:
        case ast.BinOp(op=op, left=left, right=right) if type(op) in SWAPS and not (_text(left) or _text(right)):
            return "operator"
        case ast.Compare(ops=[op]) if type(op) in SWAPS:
            return "comparison"
        case ast.BoolOp():
            return "and/or"
        case ast.UnaryOp(op=ast.USub() | ast.Not()):
            return "sign"
        case ast.Constant(value=value) if isinstance(value, int | float) and not isinstance(value, bool):
            return "number"
        case ast.Call(func=ast.Name(id=name) | ast.Attribute(attr=name)) if name in CALLS:
            return "call"
        case ast.IfExp() | ast.If():
            return "branch"
    return ""


def _text(node: ast.AST) -> bool:
    return isinstance(node, ast.JoinedStr) or (isinstance(node, ast.Constant) and isinstance(node.value, str))


def changed(node: ast.AST, kind: str, dice: random.Random) -> ast.AST:
    """The node with its change."""
    made = copy.deepcopy(node)
    match made:
        case ast.BinOp() | ast.BoolOp():
            made.op = dice.choice(SWAPS[type(made.op)])()  # type: ignore[assignment]
        case ast.Compare():
            made.ops = [dice.choice(SWAPS[type(made.ops[0])])()]  # type: ignore[list-item]
        case ast.UnaryOp():
            return made.operand
        case ast.Constant(value=int(value)):
            made.value = value + 1
        case ast.Constant(value=float(value)):
            made.value = value * 1.25 if value else 1.0
        case ast.Call(func=ast.Name() as name):
            name.id = CALLS[name.id]
        case ast.Call(func=ast.Attribute() as attribute):
            attribute.attr = CALLS[attribute.attr]
        case ast.IfExp() | ast.If():
            made.test = ast.UnaryOp(ast.Not(), made.test)
    return made


class _Replaced(ast.NodeTransformer):
    """Puts one node in another's place."""

    def __init__(self, old: ast.AST, new: ast.AST) -> None:
        self.old, self.new = old, new

    def visit(self, node: ast.AST) -> ast.AST:
        return ast.copy_location(self.new, node) if node is self.old else super().generic_visit(node)


def mutants(number: int, seed: int) -> list[Mutant]:
    """The sample: the same for the same seed and sources."""
    dice, found = random.Random(seed), []
    places: list[tuple[Path, int, str]] = []
    for room in ROOMS:
        for path in sorted((CORE / room).rglob("*.py")):
            places += [(path, i, kind) for i, (_, kind) in enumerate(points(ast.parse(path.read_text(encoding="utf-8"))))]
    for path, i, kind in dice.sample(places, min(number, len(places))):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        node, _ = list(points(tree))[i]
        new = changed(node, kind, dice)
        before, after = _short(node), _short(ast.fix_missing_locations(ast.copy_location(new, node)))
        source = ast.unparse(ast.fix_missing_locations(_Replaced(node, new).visit(tree)))
        found.append(Mutant(path, node.lineno, before, after, source))  # type: ignore[attr-defined]
    return found


def again(kept: Path) -> list[Mutant]:
    """Mutants that lived in an earlier run, found again in the sources as they are now; what is gone is told and left out."""
    found = []
    for line in filter(None, kept.read_text(encoding="utf-8").splitlines()):
        place, change = line.split(": ", 1)
        name, _, number = place.rpartition(":")
        before, after = change.split("  →  ")
        alike = [m for m in _every(ROOT / name) if (m.before, m.after) == (before, after)] if (ROOT / name).exists() else []
        if alike:
            found.append(min(alike, key=lambda m: abs(m.line - int(number))))
        else:
            print(f"gone: {line}")
    return found


def _every(path: Path) -> Iterator[Mutant]:
    """Every change of a file that the sample may hold."""
    for i, (_, kind) in enumerate(points(ast.parse(path.read_text(encoding="utf-8")))):
        seen = set()
        for seed in range(4):  # an operator has two others at the most
            tree = ast.parse(path.read_text(encoding="utf-8"))
            node, _ = list(points(tree))[i]
            new = changed(node, kind, random.Random(seed))
            before, after = _short(node), _short(ast.fix_missing_locations(ast.copy_location(new, node)))
            if after not in seen:
                seen.add(after)
                source = ast.unparse(ast.fix_missing_locations(_Replaced(node, new).visit(tree)))
                yield Mutant(path, node.lineno, before, after, source)  # type: ignore[attr-defined]


def _short(node: ast.AST) -> str:
    if isinstance(node, ast.If):
        return f"if {ast.unparse(node.test)}"
    text = " ".join(ast.unparse(node).split())
    return text if len(text) < 90 else f"{text[:87]}…"


class _Changed(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Loads one module from changed source."""

    def __init__(self, mutant: Mutant) -> None:
        self.mutant = mutant
        self.name = ".".join(mutant.path.relative_to(ROOT / "src").with_suffix("").parts)

    def find_spec(self, name: str, path: object = None, target: object = None) -> object:
        return importlib.util.spec_from_loader(name, self, origin=str(self.mutant.path)) if name == self.name else None

    def exec_module(self, module: object) -> None:
        module.__file__ = str(self.mutant.path)  # type: ignore[attr-defined]
        exec(compile(self.mutant.source, str(self.mutant.path), "exec"), module.__dict__)


def run(mutant: Mutant | None) -> int:
    """In a process of its own: 0 when no test noticed. Without a mutant all tests have to hold."""
    import pytest

    if mutant is not None:
        sys.meta_path.insert(0, _Changed(mutant))
    with open(os.devnull, "w") as nothing:
        os.dup2(nothing.fileno(), 1)
        os.dup2(nothing.fileno(), 2)
    first: tuple[str, ...] = FIRST[mutant.path.relative_to(CORE).parts[0]] if mutant is not None else ALL
    slow = [] if mutant is not None and mutant.path.is_relative_to(CORE / "tape") else [f"--ignore={SLOW}"]
    options = [*slow, "-x", "-q", "-n0", "-p", "no:cacheprovider", "--no-header"]
    for tests in (("tests/core/test_as_told.py", *first), ALL):
        if pytest.main([*options, *(str(ROOT / test) for test in tests)]) != 0:
            return 1
    return 0


def _apart(mutant: Mutant | None) -> int:
    """Run in a child and wait for it."""
    child = _fork(mutant)
    return os.waitpid(child, 0)[1]


def _fork(mutant: Mutant | None) -> int:
    child = os.fork()
    if child:
        return child
    os.setpgid(0, 0)
    try:
        status = run(mutant)
    except BaseException:  # a change that breaks the import is noticed
        status = 1
    os._exit(status)


def preload() -> None:
    """What is slow to import and never changed."""
    import numpy
    import pdfminer.high_level
    import pydantic
    import pytest
    import reportlab.pdfgen.canvas
    import shapely

    assert all((numpy, pydantic, pytest, reportlab, shapely, pdfminer))


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the sample, two at a time, and list what lived."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--number", type=int, default=200)
    parser.add_argument("--seed", type=int, default=SEED)
    parser.add_argument("--jobs", type=int, default=os.cpu_count() or 1)
    parser.add_argument("--from", dest="start", type=int, default=0, help="skip so many of the sample")
    parser.add_argument("--again", type=Path, help="only those that are listed in this file, from an earlier run's --out")
    parser.add_argument("--out", type=Path, help="write what lived there as well")
    asked = parser.parse_args(arguments)
    os.environ |= {"CI": "1", "OMNIPEL_TRIES": "4", "QT_QPA_PLATFORM": "offscreen"}
    os.chdir(ROOT)
    preload()
    if _apart(None) != 0:
        print("The tests do not hold as they are: mend them first.")
        return 1
    sample = again(asked.again) if asked.again else mutants(asked.number, asked.seed)[asked.start :]
    lived, killed, running = [], 0, {}
    waiting = list(enumerate(sample))
    while waiting or running:
        while waiting and len(running) < asked.jobs:
            i, mutant = waiting.pop(0)
            child = _fork(mutant)
            running[child] = i, mutant, time.monotonic()
        for child, (i, mutant, began) in list(running.items()):
            done, status = os.waitpid(child, os.WNOHANG)
            if not done and time.monotonic() - began > SECONDS:
                os.kill(child, signal.SIGKILL)
                done, status = os.waitpid(child, 0)
            if done:
                del running[child]
                alive = status == 0
                killed += not alive
                lived += [str(mutant)] if alive else []
                print(f"{i + 1:4} {'LIVES ' if alive else 'killed'} {time.monotonic() - began:5.0f} s  {mutant}", flush=True)
        time.sleep(0.05)
    print(f"\n{killed} of {len(sample)} noticed ({killed / len(sample):.0%}). What lived:")
    print("\n".join(sorted(lived)))
    if asked.out:
        asked.out.write_text("\n".join(sorted(lived)) + "\n", encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
