"""The simulated cutter as a small program of its own: a bed with cloth, and what is cut as it goes. `python -m omnipel.cutter`."""
