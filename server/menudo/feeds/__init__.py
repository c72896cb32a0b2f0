"""Feeds: what others publish, read politely; and the shelf of what is worth sharing."""
