"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import OUTWARD, outward
from menudo.feeds.actions.check_articles import check_article as check_now
from menudo.feeds.actions.check_articles import put_checks
from menudo.feeds.actions.read_feed import read_feed as read_now
from menudo.feeds.actions.remind import remind
from menudo.feeds.models import Feed
from menudo.notices.mishaps import boundary
from menudo.notices.periodic import EACH_MINUTE, periodic

# So many are put in line at once; what is left waits a minute.
_AT_ONCE = 200


@app.task(name="read_feed", queue=OUTWARD, pass_context=False)
def read_feed(feed: int) -> None:
    """Ask one feed's site what is new."""
    with boundary("read_feed", f"feed {feed}"):
        read_now(feed)


@app.task(name="check_article", queue=OUTWARD, pass_context=False)
def check_article(article: int) -> None:
    """Whether one article and its picture are there."""
    with boundary("check_article", f"article {article}"):
        check_now(article)


def read_due() -> None:
    """A job for every feed that is due."""
    due = Feed.objects.filter(gone=False, next_at__lte=clock.now()).order_by("next_at")
    for id, address in due.values_list("pk", "address")[:_AT_ONCE]:
        outward("read_feed", f"feed:{id}", address, feed=id)


periodic("read_feeds", EACH_MINUTE, read_due)
periodic("check_articles", "*/2 * * * *", put_checks)
periodic("remind_of_the_shelf", "*/2 * * * *", remind)
