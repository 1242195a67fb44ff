"""Files of other programs that are read."""
