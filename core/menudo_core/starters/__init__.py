"""Starters: drafts that are proposed by rules, so that nobody faces an empty page."""
