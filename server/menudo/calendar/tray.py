"""The calendar's tray: drafts without a date."""

from collections import defaultdict
from typing import Any

from django.db.models import Exists, OuterRef

from menudo.base.rows import AnyOf
from menudo.calendar import schemas
from menudo.calendar.filters import CalendarFilter
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_content
from menudo.profiles.sheets import sheets_of
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.text.lines import first_line

_TRAY_LIMIT = 60


def unplanned_posts(context: BrandContext, narrow: CalendarFilter) -> schemas.TrayPage:
    """The drafts that the filter leaves, the last changed first: six statements, and one more where there are more than are shown."""
    # Few posts are loose, of ever so many: found by the two small indexes, not by looking at all of them.
    loose = Delivery.objects.filter(brand=context.brand, state=DeliveryState.UNPLANNED).values_list(
        "post_id", flat=True
    )
    # Of those that wait for sign-off most are planned, and may be tens of thousands: what goes to no profile yet is few.
    bare = (
        Post.objects.filter(brand=context.brand, deleted_at__isnull=True)
        .exclude(Exists(Delivery.objects.filter(post_id=OuterRef("pk"))))
        .exclude(state=PostState.SIGNED)
        .values_list("pk", flat=True)
    )
    candidates = list(loose.union(bare))
    busy = Delivery.objects.filter(post_id=OuterRef("pk")).exclude(state=DeliveryState.UNPLANNED)
    drafts = Post.objects.filter(
        narrow.post_query, AnyOf("pk", candidates), deleted_at__isnull=True, evergreen=False, aside=False
    ).exclude(Exists(busy))
    shown = list(drafts.order_by("-updated_at").values_list("pk", "title", "master", "state", "revision")[:_TRAY_LIMIT])
    ids = [row[0] for row in shown]
    letters = {network: sheet.letters for network, sheet in sheets_of(context.brand.pk).items()}
    goes_to: dict[int, list[tuple[int, str]]] = defaultdict(list)
    of_post = Delivery.objects.filter(AnyOf("post_id", ids)).order_by("pk")
    for post, profile, network in of_post.values_list("post_id", "profile_id", "profile__network"):
        goes_to[post].append((profile, network))
    labels: dict[int, list[int]] = defaultdict(list)
    links = Post.labels.through.objects.filter(AnyOf("post_id", ids)).order_by("label")
    for post, label in links.values_list("post_id", "label_id"):
        labels[post].append(label)
    return schemas.TrayPage(
        drafts=[
            _draft_of(
                row, goes_to[row[0]], letters.keys() & {network for _, network in goes_to[row[0]]}, labels[row[0]]
            )
            for row in shown
        ],
        total=len(shown) if len(shown) < _TRAY_LIMIT else drafts.count(),
    )


def _draft_of(
    row: tuple[Any, ...], goes_to: list[tuple[int, str]], networks: set[str], labels: list[int]
) -> schemas.TrayOut:
    post, title, master, state, revision = row
    content = load_content(master)
    return schemas.TrayOut(
        post=post,
        headline=(title or first_line(content.text))[:100],
        thumb=content.media[0] if content.media else None,
        pictures=len(content.media),
        networks=sorted(networks),
        state=state,
        labels=labels,
        profiles=[profile for profile, _ in goes_to],
        revision=revision,
    )
