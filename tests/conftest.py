"""Tests run without a screen, however they are started."""

import os

from hypothesis import settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

# What lands is judged on the same examples every time; at the desk each run looks at new ones.
settings.register_profile("ci", derandomize=True)
if os.environ.get("CI"):
    settings.load_profile("ci")
