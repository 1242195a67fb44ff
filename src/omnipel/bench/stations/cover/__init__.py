"""The Cover station."""
