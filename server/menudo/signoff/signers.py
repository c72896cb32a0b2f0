"""Who signs off: a person of the brand, or a client by their link. And who is told that it waits on them."""

import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass, field

from menudo.history.actions.record_event import Actor
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand, Membership
from menudo.signoff.models import SignLink


@dataclass(frozen=True, slots=True)
class Signer:
    """`key` is what rules name; `profiles` narrows what they see (None: everything); `may_edit`: a small change of the
    wording; `user` None: a link that answers as itself. `claimed_name`: what whoever has the link says they are called, which nobody
    has looked at: it never stands alone."""

    key: str
    name: str
    brand: Brand
    user: int | None = None
    may_edit: bool = False
    profiles: frozenset[int] | None = None
    by_link: bool = False
    claimed_name: str = ""

    @property
    def label(self) -> str:
        """How others are told of them."""
        return f"{self.name} (says: {self.claimed_name})" if self.claimed_name else self.name

    @property
    def actor(self) -> Actor:
        if not self.by_link:
            return Actor(self.user, self.name)
        return Actor(None, f"{self.name} (by link{f', says: {self.claimed_name}' if self.claimed_name else ''})")


def signer_of_person(context: BrandContext) -> Signer:
    """The signed-in person. Raises ForbiddenError without the capability."""
    context.require(Capability.SIGN_OFF)
    may_edit = Capability.WRITE in context.capabilities and Capability.EDIT_OTHERS in context.capabilities
    return Signer(f"u{context.user.pk}", context.user.name, context.brand, context.user.pk, may_edit)


def signer_of_link(link: SignLink, name: str = "") -> Signer:
    """The client of a link; `name` is what they call themselves, if they said."""
    key = f"u{link.user_id}" if link.user_id else f"l{link.pk}"
    seen = frozenset(link.profiles) or None
    claimed = _clean_name(name)
    return Signer(
        key,
        link.display_name,
        link.brand,
        link.user_id,
        link.may_edit,
        seen,
        by_link=True,
        claimed_name="" if claimed.casefold() == link.display_name.casefold() else claimed,
    )


def _clean_name(name: str) -> str:
    """On one line, and without what turns the words around it (Unicode's control and format characters, but joiners)."""
    kept = (c for c in name if c in "\u200c\u200d" or c.isspace() or unicodedata.category(c) not in ("Cc", "Cf"))
    return " ".join("".join(kept).split())


@dataclass(frozen=True, slots=True)
class Signers:
    """Everyone who can sign off in a brand, by key."""

    names: dict[str, str] = field(default_factory=dict)

    @classmethod
    def for_brand(cls, brand: Brand) -> "Signers":
        members = Membership.objects.filter(brand=brand, capabilities__contains=[Capability.SIGN_OFF]).select_related(
            "user"
        )
        names = {f"u{m.user_id}": m.user.name for m in members.order_by("user__name")}
        links = SignLink.objects.filter(brand=brand, revoked_at=None, user=None)
        return cls({**names, **{f"l{link.pk}": f"{link.display_name} (by link)" for link in links}})

    def display_names(self, keys: Iterable[str | None]) -> list[str]:
        """The names of those asked; None among them is anyone who may."""
        return sorted(
            "anyone who may sign off" if key is None else self.names.get(key, "someone who has left") for key in keys
        )

    def people(self, keys: Iterable[str | None]) -> set[int]:
        """Those asked who have an account, to be told."""
        wanted = set(keys)
        found = self.names if None in wanted else {key: "" for key in wanted if key in self.names}
        return {int(key[1:]) for key in found if key.startswith("u")}
