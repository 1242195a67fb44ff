"""The computing core: pure functions from a job to its draft. Knows no Qt, files, clocks or screen."""
