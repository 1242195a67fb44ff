"""Tests run without a screen, however they are started."""

import hashlib
import logging
import os
import shutil
from collections import defaultdict
from collections.abc import Iterator

import pytest
from hypothesis import settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
if (
    os.access("/dev/shm", os.W_OK) and shutil.disk_usage("/dev/shm").free > 2**31
):  # a shop asks the disk for every change, and that may take long
    os.environ.setdefault("PYTEST_DEBUG_TEMPROOT", "/dev/shm")
os.environ["LANGUAGE"] = "en"  # whatever the desktop of those who run them speaks

# No test depends on a clock. What lands is judged on the same examples every time; at the desk each run looks at new ones.
ALL = float(os.environ.get("OMNIPEL_EFFORT", "0")) >= 1.0
"""Whether no effort is spared, as before a release."""
EXAMPLES = 100 if ALL else 25
settings.register_profile("desk", deadline=None, max_examples=EXAMPLES)
settings.register_profile("ci", deadline=None, max_examples=EXAMPLES, derandomize=True)
settings.load_profile("ci" if os.environ.get("CI") else "desk")


MANY, ONE_IN = 2, 9
"""Of a test that is made for every form and scheme so many are tried at a landing, and one in so many of the rest; with OMNIPEL_EFFORT=1 all."""


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """A sample of what is tried on every form and scheme: another for each test, always the same, so that every pair is tried by many of them."""
    if ALL or any("::" in one for one in config.args):
        return
    cases = defaultdict(list)
    for item in items:
        if {"form", "scheme"} <= set(getattr(getattr(item, "callspec", None), "params", ())):
            cases[item.nodeid.partition("[")[0]].append(item)
    left = set()
    for every in cases.values():
        by_lot = sorted(every, key=lambda item: hashlib.sha256(item.nodeid.encode()).digest())
        left |= set(by_lot[MANY + -(-max(len(every) - MANY, 0) // ONE_IN) :])
    config.hook.pytest_deselected(items=[item for item in items if item in left])
    items[:] = [item for item in items if item not in left]


@pytest.fixture(autouse=True)
def no_fault_of_ours(caplog: pytest.LogCaptureFixture) -> Iterator[None]:
    """Whatever a test is about: a fault while drafting fails it."""
    yield
    faults = [
        record for record in caplog.get_records("call") if record.levelno >= logging.ERROR and record.name.startswith("omnipel")
    ]
    assert not faults, faults[0].exc_text or faults[0].getMessage()
