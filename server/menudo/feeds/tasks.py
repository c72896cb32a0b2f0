"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import OUTWARD, enqueue_outward
from menudo.feeds.actions.check_articles import check_article as check_now
from menudo.feeds.actions.check_articles import enqueue_checks
from menudo.feeds.actions.poll_feed import poll_feed as read_now
from menudo.feeds.actions.send_reminders import send_reminders
from menudo.feeds.models import Feed
from menudo.notices.failures import failure_boundary
from menudo.notices.periodic import EACH_MINUTE, register_periodic

# So many are put in line at once; what is left waits a minute.
_AT_ONCE = 200


@app.task(name="read_feed", queue=OUTWARD, pass_context=False)
def poll_feed(feed: int) -> None:
    """Ask one feed's site what is new."""
    with failure_boundary("read_feed", f"feed {feed}"):
        read_now(feed)


@app.task(name="check_article", queue=OUTWARD, pass_context=False)
def check_article(article: int) -> None:
    """Whether one article and its picture are there."""
    with failure_boundary("check_article", f"article {article}"):
        check_now(article)


def poll_due_feeds() -> None:
    """A job for every feed that is due."""
    due = Feed.objects.filter(is_gone=False, next_at__lte=clock.now()).order_by("next_at")
    for feed_id, address in due.values_list("pk", "address")[:_AT_ONCE]:
        enqueue_outward("read_feed", f"feed:{feed_id}", address, feed=feed_id)


register_periodic("read_feeds", EACH_MINUTE, poll_due_feeds)
register_periodic("check_articles", "*/2 * * * *", enqueue_checks)
register_periodic("remind_of_the_shelf", "*/2 * * * *", send_reminders)
