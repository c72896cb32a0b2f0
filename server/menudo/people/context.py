"""The one place that says which brand a request is about and whether it may be."""

import re
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from django.http import HttpRequest

from menudo.base.problems import ForbiddenError, NotFoundError
from menudo.base.sentences import say
from menudo.history.actions.record_event import Actor
from menudo.people.capabilities import Capability
from menudo.people.models import Brand, Membership, User

_SLUG = re.compile(r"^[\w-]{1,50}$", re.ASCII)


@dataclass(frozen=True, slots=True)
class BrandContext:
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

    def require(self, may: Capability) -> None:
        """Raises ForbiddenError unless this person has the capability."""
        if may not in self.capabilities:
            raise ForbiddenError(say("brand.not_allowed", what=say(f"may.{may}"), brand=self.brand.name))


def current_user(request: HttpRequest) -> User:
    """The person of a request that the API has let in."""
    if not isinstance(request.user, User):
        raise NotFoundError()
    return request.user


def brand_context(request: HttpRequest, slug: str, may: Capability = Capability.SEE) -> BrandContext:
    """The person and the brand of a request. Raises NotFoundError for a brand that isn't theirs, ForbiddenError without `may`."""
    user = current_user(request)
    # What is no slug can't be a brand's, and NUL can't even be asked for.
    members = Membership.objects.select_related("brand").filter(user=user, brand__slug=slug)
    found = members.first() if _SLUG.match(slug) else None
    if found is None:
        raise NotFoundError()
    context = BrandContext(user, found.brand, frozenset(found.capabilities))
    context.require(may)
    return context
