"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import outward, soon
from menudo.feeds.actions.check_articles import check_articles
from menudo.feeds.actions.read_feed import read_feed as read_now
from menudo.feeds.actions.remind import remind
from menudo.feeds.models import Feed

# So many are put in line at once; what is left waits a minute.
_AT_ONCE = 200


@app.task(name="read_feed", queue="sweep", pass_context=False)
def read_feed(feed: int) -> None:
    """Ask one feed's site what is new."""
    read_now(feed)


@app.periodic(cron="* * * * *")
@app.task(name="read_feeds", queue="sweep", queueing_lock="read_feeds", pass_context=False)
def read_feeds(timestamp: int) -> None:
    """Each minute: a job for every feed that is due; then look at what they brought."""
    due = Feed.objects.filter(gone=False, next_at__lte=clock.now()).order_by("next_at")
    for id in due.values_list("pk", flat=True)[:_AT_ONCE]:
        soon("read_feed", f"feed:{id}", outward(id), feed=id)


@app.periodic(cron="*/2 * * * *")
@app.task(name="check_articles", queue="sweep", queueing_lock="check_articles", lock=outward(1), pass_context=False)
def check_shelf(timestamp: int = 0) -> None:
    """Every two minutes: whether what came is there to be read; and who wants to be told of it."""
    check_articles()
    remind()
