"""Tests run without a screen, however they are started."""

import os

from hypothesis import settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

# No test depends on a clock. What lands is judged on the same examples every time; at the desk each run looks at new ones.
settings.register_profile("desk", deadline=None)
settings.register_profile("ci", deadline=None, derandomize=True)
settings.load_profile("ci" if os.environ.get("CI") else "desk")
