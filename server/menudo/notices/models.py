"""What people are told, and the mail that the demo keeps instead of sending."""

from datetime import time

from django.conf import settings
from django.db import models
from django.db.models.functions import Now

from menudo.base import clock
from menudo.base.sealing import SealedField
from menudo_core.notices.timing import Channel


class Notice(models.Model):
    """One thing told to one person. `key` names the thing: it is told once. `path` leads to the spot. `code` and `params` are what is
    told (see sentences.py), `summary` that in words."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="notices")
    brand_id = models.BigIntegerField(null=True)
    kind = models.CharField(max_length=20)
    key = models.CharField(max_length=120)
    code = models.CharField(max_length=60, default="", db_default="", blank=True)
    params = models.JSONField(default=dict, db_default={})
    summary = models.CharField(max_length=300)
    path = models.CharField(max_length=200)
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    read_at = models.DateTimeField(null=True)
    channel = models.CharField(
        max_length=8, choices=[(w.value, w.value) for w in Channel], db_default=Channel.NOW, default=Channel.NOW
    )
    mailed_at = models.DateTimeField(null=True, help_text="when it left the product, whichever way")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="told_once")]
        indexes = [
            models.Index(fields=["user", "-id"]),
            models.Index(
                fields=["user"], condition=models.Q(mailed_at=None, channel="digest"), name="notice_for_the_digest"
            ),
        ]


class NotificationPreferences(models.Model):
    """How a person wants to be told outside the product. `channels` by kind of notice; what isn't named is as it comes.

    `zone` is an IANA name; quiet hours and the digest are on its wall.
    """

    user = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="notification_preferences"
    )
    channels = models.JSONField(default=dict)
    zone = models.CharField(max_length=64, default="UTC")
    quiet_from = models.TimeField(null=True)
    quiet_to = models.TimeField(null=True)
    digest_at = models.TimeField(default=time(8))
    phone = models.CharField(max_length=30, blank=True)
    digest_sent = models.DateTimeField(null=True)


class JobFailure(models.Model):
    """Something that broke while Menudo worked by itself: the step, its subject (“delivery 12”; empty: the whole step), and
    what the error said. Kept so that a person and /health are told; forgotten a while after it has last happened."""

    step = models.CharField(max_length=60)
    subject = models.CharField(max_length=80, blank=True)
    brand_id = models.BigIntegerField(null=True)
    error = models.CharField(max_length=400)
    first_at = models.DateTimeField(default=clock.now, db_default=Now())
    last_at = models.DateTimeField(default=clock.now, db_default=Now())
    count = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["step", "subject"], name="one_failure_of_a_step_and_subject")]
        indexes = [models.Index(fields=["-last_at"])]


class SentMail(models.Model):
    """A mail of the demo's, to be looked at on its mail tray."""

    to = models.CharField(max_length=300)
    subject = models.CharField(max_length=300)
    channel = models.CharField(
        max_length=8, default="mail", db_default="mail", help_text="mail, or text for a text message"
    )
    body = models.TextField()
    sent_at = models.DateTimeField(default=clock.now, db_default=Now())


class MailServer(models.Model):
    """By which server the installation sends mail, where it was said on its page. One row at most; the password is sealed."""

    host = models.CharField(max_length=253)
    port = models.PositiveIntegerField()
    security = models.CharField(max_length=8)
    user = models.CharField(max_length=254, blank=True)
    password = SealedField(blank=True)
    sender = models.CharField(max_length=254)
    updated_at = models.DateTimeField(default=clock.now, db_default=Now())

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(pk=1), name="one_mail_server")]
