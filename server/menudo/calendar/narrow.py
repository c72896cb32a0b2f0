"""The one filter of every view: what is asked for in the address, and what it leaves of the deliveries."""

from dataclasses import dataclass

from django.db.models import Q, QuerySet

from menudo.people.here import Here
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.profiles.reads import set_members
from menudo_core.profiles.sets import members
from menudo_core.signoff.states import DeliveryState

_MOST = 100
_STATES = frozenset(s.value for s in DeliveryState)


@dataclass(frozen=True, slots=True)
class Narrow:
    """`profiles` None: all. The others empty: all. `words` are looked for in title, text and card."""

    profiles: frozenset[int] | None = None
    states: frozenset[str] = frozenset()
    labels: frozenset[int] = frozenset()
    campaigns: frozenset[int] = frozenset()
    people: frozenset[int] = frozenset()
    words: str = ""

    @property
    def asks_of_posts(self) -> bool:
        """Whether it looks for something that posts say or are: then profiles with nothing of it are out of sight."""
        return bool(self.states or self.labels or self.campaigns or self.people or self.words)

    @property
    def of_posts(self) -> Q:
        """What it asks of the posts themselves."""
        if not self.words:
            return self._marked
        return self._marked & (Q(title__icontains=self.words) | Q(master__text__icontains=self.words))

    @property
    def _marked(self) -> Q:
        asks = Q()
        if self.labels:
            asks &= Q(pk__in=Post.labels.through.objects.filter(label_id__in=self.labels).values("post_id"))
        if self.campaigns:
            asks &= Q(campaign_id__in=self.campaigns)
        if self.people:
            asks &= Q(author_id__in=self.people)
        return asks

    def of_deliveries(self, rows: QuerySet[Delivery], place: Here) -> QuerySet[Delivery]:
        """The deliveries that are left."""
        if self.profiles is not None:
            rows = rows.filter(profile_id__in=self.profiles)
        if self.states:
            rows = rows.filter(state__in=self.states)
        if self._marked:
            rows = rows.filter(post_id__in=Post.objects.filter(self._marked, brand=place.brand).values("pk"))
        if self.words:
            said = Post.objects.filter(Q(title__icontains=self.words) | Q(master__text__icontains=self.words))
            rows = rows.filter(
                Q(headline__icontains=self.words) | Q(post_id__in=said.filter(brand=place.brand).values("pk"))
            )
        return rows


@dataclass(frozen=True, slots=True)
class Asked:
    """The filter as the address has it: ids and names with commas."""

    sets: str = ""
    profiles: str = ""
    networks: str = ""
    states: str = ""
    labels: str = ""
    campaigns: str = ""
    people: str = ""
    words: str = ""

    def narrow(self, place: Here) -> Narrow:
        """Raises NotFound for a set that isn't the brand's. What else isn't there leaves nothing."""
        only: frozenset[int] | None = None
        if self.sets:
            named = [set_members(place, id) for id in sorted(_ids(self.sets))]
            only = frozenset(members(named, sorted(set().union(*named)))) if named else frozenset()
        if self.profiles:
            chosen = _ids(self.profiles)
            only = chosen if only is None else only & chosen
        if self.networks:
            names = _parts(self.networks)
            there = Profile.objects.filter(brand=place.brand, network__in=names).values_list("pk", flat=True)
            only = frozenset(there) if only is None else only & frozenset(there)
        return Narrow(
            only, frozenset(_parts(self.states)) & _STATES, _ids(self.labels), _ids(self.campaigns), _ids(self.people),
            self.words.replace("\0", "").strip()[:100],
        )  # fmt: skip


def _parts(listed: str) -> list[str]:
    return [part for part in listed.split(",")[:_MOST] if part]


def _ids(listed: str) -> frozenset[int]:
    return frozenset(int(id) for id in _parts(listed) if id.isascii() and id.isdigit() and len(id) < 18)
