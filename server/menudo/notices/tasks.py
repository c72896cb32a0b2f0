"""Background jobs: each a thin call of an action."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.notices.actions.mail import mail_notice as mail_now
from menudo.notices.actions.mail import send_digests
from menudo.notices.cache_upkeep import delete_expired_entries
from menudo.notices.failures import delete_old_failures
from menudo.notices.periodic import register_periodic


@app.task(name="mail_notice", queue="sweep", retry=RetryStrategy(max_attempts=8, exponential_wait=4))
def mail_notice(notice: int) -> None:
    """Mail one notice; tried again while the mail server is away."""
    mail_now(notice)


register_periodic("digests", "*/5 * * * *", send_digests)
register_periodic("empty_cache", "17 * * * *", delete_expired_entries)
register_periodic("forget_mishaps", "51 3 * * *", lambda: delete_old_failures(clock.now()))
