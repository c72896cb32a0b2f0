"""Background jobs: each a thin call of an action."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.notices.actions.mail import mail, send_digests
from menudo.notices.mishaps import forget_old
from menudo.notices.periodic import periodic


@app.task(name="mail_notice", queue="sweep", retry=RetryStrategy(max_attempts=8, exponential_wait=4))
def mail_notice(notice: int) -> None:
    """Mail one notice; tried again while the mail server is away."""
    mail(notice)


periodic("digests", "*/5 * * * *", send_digests)
periodic("forget_mishaps", "51 3 * * *", lambda: forget_old(clock.now()))
