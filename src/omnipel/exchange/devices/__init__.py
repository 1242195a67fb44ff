"""Machines that the program speaks with, each simulated by a small program of its own."""
