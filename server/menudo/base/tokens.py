"""Tokens for links: random, and kept as a hash only."""

import hashlib
import secrets


def new_token() -> str:
    """256 random bits, fit for an address."""
    return secrets.token_urlsafe(32)


def hash_token(token: str) -> str:
    """What is kept of a token (SHA-256): a token of 256 random bits needs no salt."""
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()
