"""Attacks: jobs, files, drawings, arguments and lines nobody would write, by the thousand. `python -m tests.attack` runs any number."""
