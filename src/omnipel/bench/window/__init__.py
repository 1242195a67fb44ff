"""The window and its edges."""
