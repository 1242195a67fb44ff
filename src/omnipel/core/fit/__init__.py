"""Will it go on, and how sure is that."""
