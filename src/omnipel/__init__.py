"""Omnipel drafts the panels of a fitted fabric cover from tape readings, and says whether it will go on."""

__version__ = "0.1.0"
