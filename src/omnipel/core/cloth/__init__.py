"""Cloth: what a shop knows of it, how panels are laid on it, what is to be bought, and what small change saves some of it."""
