"""Feeds: what comes in from elsewhere."""
