"""Space: paths by length, where flat cloth lies when it is sewn, what an object takes up."""
