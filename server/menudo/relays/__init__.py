"""Relays: what appears at one place is carried to others, once, and never round in a ring."""
