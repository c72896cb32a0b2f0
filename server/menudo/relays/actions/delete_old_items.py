"""Forget what appeared long ago and became no post."""

from datetime import datetime, timedelta

from menudo.relays.actions.poll_sources import LOOKS_BACK
from menudo.relays.models import SourceItem

# Longer than anything is looked for: nothing forgotten can appear a second time.
KEEP_FOR = LOOKS_BACK + timedelta(days=30)
_AT_ONCE = 5000


def delete_old_items(now: datetime) -> int:
    """What appeared before that and no post was made of goes, with the log's lines of it. What became a post stays, for it
    tells where the post has been, and so does that a profile had it. How many."""
    old = SourceItem.objects.filter(seen_at__lt=now - KEEP_FOR).exclude(firings__post__isnull=False)
    ids = list(old.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
    SourceItem.objects.filter(pk__in=ids).delete()
    return len(ids)
