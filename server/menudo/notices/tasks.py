"""Background jobs: each a thin call of an action."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from menudo.notices.actions.mail import mail, send_digests


@app.task(name="mail_notice", queue="sweep", retry=RetryStrategy(max_attempts=8, exponential_wait=4))
def mail_notice(notice: int) -> None:
    """Mail one notice; tried again while the mail server is away."""
    mail(notice)


@app.periodic(cron="*/5 * * * *")
@app.task(name="digests", queue="sweep", queueing_lock="digests", pass_context=False)
def digests(timestamp: int) -> None:
    """Every five minutes: the digests whose time has come."""
    send_digests()
