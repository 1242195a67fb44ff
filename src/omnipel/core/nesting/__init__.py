"""Laying flat pieces close together without overlap: plain geometry that knows nothing of covers or cloth."""
