"""A client's link for signing off."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.functions import Now

from menudo.base import clock
from menudo.people.models import Brand, User


class SignLink(models.Model):
    """A link with which a client signs off without an account. Its token is kept as a hash.

    `profiles` narrows what it shows (empty: every profile of the brand). `user`: the member in whose place it answers;
    None: it answers as itself.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="sign_links")
    token_hash = models.CharField(max_length=64, unique=True)
    display_name = models.CharField(max_length=120)
    user = models.ForeignKey(User, on_delete=models.CASCADE, null=True, related_name="+")
    profiles = ArrayField(models.BigIntegerField(), default=list)
    may_edit = models.BooleanField(default=False)
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    expires_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    last_opened_at = models.DateTimeField(null=True, help_text="when it was last opened")
