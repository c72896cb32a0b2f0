"""What can be done to starters."""
