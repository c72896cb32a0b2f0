"""Relays: what appears at one place is carried to others."""
