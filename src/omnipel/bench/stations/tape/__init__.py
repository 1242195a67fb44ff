"""The Tape station."""
