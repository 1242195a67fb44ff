"""The Shelf: all jobs as cards, read from what is kept of them; nothing is drafted before it is painted."""
