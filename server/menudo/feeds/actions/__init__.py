"""What can be done to feeds and their articles."""
