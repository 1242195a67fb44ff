"""Curves, edges, finishes, panels, cut lines; seams, truing and match marks."""
