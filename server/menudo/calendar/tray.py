"""The calendar's tray: drafts without a date."""

from django.db.models import Exists, OuterRef

from menudo.calendar import schemas
from menudo.calendar.filters import CalendarFilter
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_content
from menudo.profiles.sheets import sheets_of
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.text.lines import first_line

_TRAY_LIMIT = 60


def unplanned_posts(context: BrandContext, narrow: CalendarFilter) -> list[schemas.TrayOut]:
    """The drafts that the filter leaves, the last changed first: six statements."""
    # Few posts are loose, of ever so many: found by the two small indexes, not by looking at all of them.
    loose = Delivery.objects.filter(brand=context.brand, state=DeliveryState.UNPLANNED).values_list(
        "post_id", flat=True
    )
    unsigned = (
        Post.objects.filter(brand=context.brand, deleted_at__isnull=True)
        .exclude(state=PostState.SIGNED)
        .values_list("pk", flat=True)
    )
    candidates = list(loose.union(unsigned))
    busy = Delivery.objects.filter(post_id=OuterRef("pk")).exclude(state=DeliveryState.UNPLANNED)
    drafts = (
        Post.objects.filter(narrow.post_query, pk__in=candidates, deleted_at__isnull=True, evergreen=False, aside=False)
        .exclude(Exists(busy))
        .order_by("-updated_at")
        .prefetch_related("deliveries__profile", "labels")
    )
    letters = {network: sheet.letters for network, sheet in sheets_of(context.brand.pk).items()}
    out = []
    for post in drafts[:_TRAY_LIMIT]:
        content = load_content(post.master)
        media, line = content.media, first_line(content.text)
        networks = sorted({d.profile.network for d in post.deliveries.all()} & letters.keys())
        out.append(
            schemas.TrayOut(
                post=post.pk,
                headline=(post.title or line)[:100],
                thumb=media[0] if media else None,
                pictures=len(media),
                networks=networks,
                state=post.state,
                labels=[label.pk for label in post.labels.all()],
                profiles=[d.profile_id for d in post.deliveries.all()],
                revision=post.revision,
            )
        )
    return out
