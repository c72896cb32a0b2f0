"""Background jobs: each a thin call of an action."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from menudo.notices.actions.mail import mail


@app.task(name="mail_notice", queue="sweep", retry=RetryStrategy(max_attempts=8, exponential_wait=4))
def mail_notice(notice: int) -> None:
    """Mail one notice; tried again while the mail server is away."""
    mail(notice)
