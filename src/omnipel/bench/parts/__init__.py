"""Widgets and drawings that several stations share."""
