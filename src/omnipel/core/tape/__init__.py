"""Lengths as people write them; readings, their spread, and cross-checks between them."""
