"""Tests run without a screen, however they are started."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
