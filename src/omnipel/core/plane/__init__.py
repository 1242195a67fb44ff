"""Flat geometry: curves, traces."""
