"""Secrets at rest: encrypted with the first key, readable with any, so that keys can be rotated."""

import base64
import hashlib
from functools import cache

from cryptography.fernet import Fernet, MultiFernet
from django.conf import settings
from django.db import models


class SealedField(models.TextField):  # type: ignore[type-arg]
    """A column of what `seal` made, empty where there is nothing: so `./menudo rotate-keys` finds it."""


def seal(secret: str) -> str:
    """`secret` encrypted and authenticated (Fernet)."""
    return _cipher(*settings.TOKEN_KEYS).encrypt(secret.encode()).decode()


def unseal(sealed: str) -> str:
    """What was sealed. Raises cryptography.fernet.InvalidToken when no key opens it."""
    return _cipher(*settings.TOKEN_KEYS).decrypt(sealed.encode()).decode()


def reseal(sealed: str) -> str:
    """The same secret under the first key. Raises cryptography.fernet.InvalidToken when no key opens it."""
    return _cipher(*settings.TOKEN_KEYS).rotate(sealed.encode()).decode()


@cache
def _cipher(*keys: str) -> MultiFernet:
    return MultiFernet([Fernet(base64.urlsafe_b64encode(hashlib.sha256(key.encode()).digest())) for key in keys])
