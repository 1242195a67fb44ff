"""Lengths, angles, units, notation, habits, phrases; a number and its sum."""
