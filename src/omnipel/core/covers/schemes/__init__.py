"""One module for each scheme."""
