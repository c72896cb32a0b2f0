"""Tell those who plan for a brand."""

from menudo.base.sentences import Sentence
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import Capability
from menudo.people.models import Brand
from menudo.people.queries import members_with


def notify_planners(brand: Brand, kind: str, key: str, sentence: Sentence, path: str) -> int:
    """A notice for everyone who may publish there, once for each `key`; `path` is within the brand. How many were told."""
    return notify(members_with(brand, Capability.PUBLISH), brand.pk, kind, key, sentence, f"/{brand.slug}/{path}")
