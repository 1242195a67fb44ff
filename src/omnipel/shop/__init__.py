"""The job document, the store that keeps every revision, and the sample shop."""
