"""The one filter of every view: what is asked for in the address, and what it leaves of the deliveries."""

from dataclasses import dataclass

from django.db.models import Q, QuerySet

from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.profiles.queries import profile_ids_of_set
from menudo_core.profiles.sets import set_members
from menudo_core.signoff.states import DeliveryState

_STATES = frozenset(s.value for s in DeliveryState)


@dataclass(frozen=True, slots=True)
class CalendarFilter:
    """`profiles` None: all. The others empty: all. `words` are looked for in title, text and card."""

    profiles: frozenset[int] | None = None
    states: frozenset[str] = frozenset()
    labels: frozenset[int] = frozenset()
    campaigns: frozenset[int] = frozenset()
    people: frozenset[int] = frozenset()
    words: str = ""

    @property
    def filters_posts(self) -> bool:
        """Whether it looks for something that posts say or are: then profiles with nothing of it are out of sight."""
        return bool(self.states or self.labels or self.campaigns or self.people or self.words)

    @property
    def post_query(self) -> Q:
        """What it asks of the posts themselves."""
        if not self.words:
            return self._label_query
        return self._label_query & (Q(title__icontains=self.words) | Q(master__text__icontains=self.words))

    @property
    def _label_query(self) -> Q:
        asks = Q()
        if self.labels:
            asks &= Q(pk__in=Post.labels.through.objects.filter(label_id__in=self.labels).values("post_id"))
        if self.campaigns:
            asks &= Q(campaign_id__in=self.campaigns)
        if self.people:
            asks &= Q(author_id__in=self.people)
        return asks

    def filter_deliveries(self, rows: QuerySet[Delivery], context: BrandContext) -> QuerySet[Delivery]:
        """The deliveries that are left."""
        if self.profiles is not None:
            rows = rows.filter(profile_id__in=self.profiles)
        if self.states:
            rows = rows.filter(state__in=self.states)
        if self._label_query:
            rows = rows.filter(post_id__in=Post.objects.filter(self._label_query, brand=context.brand).values("pk"))
        if self.words:
            # Of the rows there are, not of every post there ever was.
            rows = rows.filter(
                Q(headline__icontains=self.words)
                | Q(post__title__icontains=self.words)
                | Q(post__master__text__icontains=self.words)
            )
        return rows


@dataclass(frozen=True, slots=True)
class FilterParams:
    """The filter as the address has it: ids and names with commas."""

    sets: str = ""
    profiles: str = ""
    networks: str = ""
    states: str = ""
    labels: str = ""
    campaigns: str = ""
    people: str = ""
    words: str = ""

    def to_filter(self, context: BrandContext) -> CalendarFilter:
        """Raises NotFoundError for a set that isn't the brand's. What else isn't there leaves nothing."""
        only: frozenset[int] | None = None
        if self.sets:
            named = [profile_ids_of_set(context, set_id) for set_id in sorted(_parse_ids(self.sets))]
            only = frozenset(set_members(named, sorted(set().union(*named)))) if named else frozenset()
        if self.profiles:
            chosen = _parse_ids(self.profiles)
            only = chosen if only is None else only & chosen
        if self.networks:
            names = _split_list(self.networks)
            there = Profile.objects.filter(brand=context.brand, network__in=names).values_list("pk", flat=True)
            only = frozenset(there) if only is None else only & frozenset(there)
        return CalendarFilter(
            only,
            frozenset(_split_list(self.states)) & _STATES,
            _parse_ids(self.labels),
            _parse_ids(self.campaigns),
            _parse_ids(self.people),
            self.words.replace("\0", "").strip()[:100],
        )


def _split_list(listed: str) -> list[str]:
    return [part for part in listed.split(",") if part]


def _parse_ids(listed: str) -> frozenset[int]:
    return frozenset(int(text) for text in _split_list(listed) if text.isascii() and text.isdigit() and len(text) < 18)
