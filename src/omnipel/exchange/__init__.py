"""Drafts out to paper and files: SVG, PDF, plain data."""
