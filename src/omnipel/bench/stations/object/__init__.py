"""The Object station."""
