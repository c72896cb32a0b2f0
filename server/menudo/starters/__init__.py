"""Starters: drafts proposed from what a brand is and has."""
