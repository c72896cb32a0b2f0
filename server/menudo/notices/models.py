"""What people are told, and the mail that the demo keeps instead of sending."""

from django.conf import settings
from django.db import models
from django.db.models.functions import Now


class Notice(models.Model):
    """One thing told to one person. `key` names the thing: it is told once. `path` leads to the spot."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="notices")
    brand_id = models.BigIntegerField(null=True)
    kind = models.CharField(max_length=20)
    key = models.CharField(max_length=120)
    words = models.CharField(max_length=300)
    path = models.CharField(max_length=200)
    at = models.DateTimeField(db_default=Now())
    read_at = models.DateTimeField(null=True)
    mailed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="told_once")]
        indexes = [models.Index(fields=["user", "-id"])]


class SentMail(models.Model):
    """A mail of the demo's, to be looked at on its mail tray."""

    to = models.CharField(max_length=300)
    subject = models.CharField(max_length=300)
    body = models.TextField()
    at = models.DateTimeField(db_default=Now())
