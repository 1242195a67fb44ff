"""The Panels station."""
