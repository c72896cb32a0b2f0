"""Forget what appeared long ago and became no post."""

from datetime import datetime, timedelta

from menudo.relays.gather import LOOKS_BACK
from menudo.relays.models import Appeared

# Longer than anything is looked for: nothing forgotten can appear a second time.
KEPT = LOOKS_BACK + timedelta(days=30)
_AT_ONCE = 5000


def forget(now: datetime) -> int:
    """What appeared before that and no post was made of goes, with the log's lines of it. What became a post stays, for it
    tells where the post has been, and so does that a profile had it. How many."""
    old = Appeared.objects.filter(seen__lt=now - KEPT).exclude(legs__post__isnull=False)
    ids = list(old.order_by("pk").values_list("pk", flat=True)[:_AT_ONCE])
    Appeared.objects.filter(pk__in=ids).delete()
    return len(ids)
