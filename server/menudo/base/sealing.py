"""Secrets at rest: encrypted with the first key, readable with any, so that keys can be rotated."""

import base64
import hashlib
from functools import cache

from cryptography.fernet import Fernet, MultiFernet
from django.conf import settings


def seal(secret: str) -> str:
    """`secret` encrypted and authenticated (Fernet)."""
    return _cipher().encrypt(secret.encode()).decode()


def unseal(sealed: str) -> str:
    """What was sealed. Raises cryptography.fernet.InvalidToken when no key opens it."""
    return _cipher().decrypt(sealed.encode()).decode()


@cache
def _cipher() -> MultiFernet:
    return MultiFernet(
        [Fernet(base64.urlsafe_b64encode(hashlib.sha256(key.encode()).digest())) for key in settings.TOKEN_KEYS]
    )
