"""What the architecture promises: nothing below the bench loads Qt, and rooms stay small."""

import ast
import subprocess
import sys
from pathlib import Path

import omnipel

WALK = """
import importlib, pkgutil, sys, omnipel
for module in pkgutil.walk_packages(omnipel.__path__, "omnipel."):
    if not module.name.startswith(("omnipel.bench", "omnipel.cutter.")):
        importlib.import_module(module.name)
loaded = [name for name in sys.modules if name.startswith("PySide6")]
assert not loaded, loaded
print(len([name for name in sys.modules if name.startswith("omnipel.")]))
"""


def test_nothing_below_the_bench_loads_qt() -> None:
    done = subprocess.run([sys.executable, "-c", WALK], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    assert int(done.stdout) > 30


def test_rooms_stay_small() -> None:
    for path in Path(omnipel.__file__).parent.rglob("*.py"):
        source = path.read_text(encoding="utf-8")
        assert source.count("\n") <= 400, path
        for node in ast.walk(ast.parse(source)):
            if isinstance(node, ast.FunctionDef):
                assert (node.end_lineno or 0) - node.lineno < 60, f"{path}: {node.name}"
