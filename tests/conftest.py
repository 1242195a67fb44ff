"""Tests run without a screen, however they are started."""

import logging
import os
from collections.abc import Iterator

import pytest
from hypothesis import settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["LANGUAGE"] = "en"  # whatever the desktop of those who run them speaks

# No test depends on a clock. What lands is judged on the same examples every time; at the desk each run looks at new ones.
settings.register_profile("desk", deadline=None)
settings.register_profile("ci", deadline=None, derandomize=True)
settings.load_profile("ci" if os.environ.get("CI") else "desk")


@pytest.fixture(autouse=True)
def no_fault_of_ours(caplog: pytest.LogCaptureFixture) -> Iterator[None]:
    """Whatever a test is about: a fault while drafting fails it."""
    yield
    faults = [
        record for record in caplog.get_records("call") if record.levelno >= logging.ERROR and record.name.startswith("omnipel")
    ]
    assert not faults, faults[0].exc_text or faults[0].getMessage()
