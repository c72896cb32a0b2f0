"""The one place that says which brand a request is about and whether it may be."""

import re
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from django.http import HttpRequest

from menudo.base.problems import Forbidden, NotFound
from menudo.history.actions.record import Actor
from menudo.people.capabilities import May
from menudo.people.models import Brand, Membership, User

_SLUG = re.compile(r"^[\w-]{1,50}$", re.ASCII)
_NEEDS = {
    May.WRITE: "write posts",
    May.PUBLISH: "plan and publish",
    May.MANAGE_PROFILES: "manage profiles",
    May.DELETE: "delete",
    May.SIGN_OFF: "sign off",
    May.MANAGE_PEOPLE: "manage people",
}


@dataclass(frozen=True, slots=True)
class Here:
    """A signed-in person in a brand. Everything that is read or changed is narrowed to `brand`."""

    user: User
    brand: Brand
    capabilities: frozenset[str]

    @property
    def actor(self) -> Actor:
        return Actor(self.user.pk, self.user.name)

    @property
    def zone(self) -> ZoneInfo:
        return ZoneInfo(self.brand.zone)

    def needs(self, may: May) -> None:
        """Raises Forbidden unless this person has the capability."""
        if may not in self.capabilities:
            raise Forbidden(
                f"You may not {_NEEDS.get(may, may.replace('_', ' '))} in {self.brand.name}. Ask its coordinator."
            )


def signed_in(request: HttpRequest) -> User:
    """The person of a request that the API has let in."""
    if not isinstance(request.user, User):
        raise NotFound()
    return request.user


def here(request: HttpRequest, slug: str, may: May = May.SEE) -> Here:
    """The person and the brand of a request. Raises NotFound for a brand that isn't theirs, Forbidden without `may`."""
    user = signed_in(request)
    # What is no slug can't be a brand's, and NUL can't even be asked for.
    members = Membership.objects.select_related("brand").filter(user=user, brand__slug=slug)
    found = members.first() if _SLUG.match(slug) else None
    if found is None:
        raise NotFound()
    place = Here(user, found.brand, frozenset(found.capabilities))
    place.needs(may)
    return place
