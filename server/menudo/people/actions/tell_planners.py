"""Tell those who plan for a brand."""

from menudo.notices.actions.notify import notify
from menudo.people.capabilities import May
from menudo.people.models import Brand
from menudo.people.who_may import who_may


def tell_planners(brand: Brand, kind: str, key: str, words: str, path: str) -> int:
    """A notice for everyone who may publish there, once for each `key`; `path` is within the brand. How many were told."""
    return notify(who_may(brand, May.PUBLISH), brand.pk, kind, key, words, f"/{brand.slug}/{path}")
