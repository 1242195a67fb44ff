"""Judgements as findings, by subject; proposals."""
