"""The Sew station."""
