"""Processes of our own, each a module of this folder. They read from their input and write to their output until whoever asked is gone."""

import contextlib
import os
import subprocess
import sys
from typing import IO, Final

NICE: Final = 5
"""Whoever works at the window goes first."""


def begin_child(module: str, *, complaints: bool = False) -> subprocess.Popen[bytes]:
    """Begin a process; with `complaints` what it says when it breaks down can be read. OSError where it cannot be begun."""
    return subprocess.Popen(
        [sys.executable, "-m", module],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE if complaints else subprocess.DEVNULL,
        env={**os.environ, "OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"},
    )


def put_away(child: subprocess.Popen[bytes]) -> None:
    """End a process, whatever it does."""
    child.kill()
    child.wait()
    for pipe in (child.stdin, child.stdout, child.stderr):
        if pipe is not None:
            with contextlib.suppress(OSError):  # what was to be sent cannot be
                pipe.close()


def step_back() -> IO[bytes]:
    """In such a process: let others go first, and keep what libraries print away from what it writes, which goes to what is returned."""
    os.nice(NICE)
    told = os.fdopen(os.dup(1), "wb")
    os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
    return told
