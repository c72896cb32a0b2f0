"""Rules of sign-off, the answers, and clients' links for giving them.

The kernel of posts writes the answers, so this module imports nothing of posts: they are named by a string."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.functions import Now

from menudo.base import clock
from menudo.people.models import Brand, User
from menudo_core.signoff.agreement import Verdict
from menudo_core.signoff.rules import SigningMode


class SignRule(models.Model):
    """One of a brand's rules of sign-off. An empty list asks of everything; `signers` are signers' keys, in their order."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="sign_rules")
    name = models.CharField(max_length=80)
    signers = ArrayField(models.CharField(max_length=20), default=list)
    mode = models.CharField(max_length=8, choices=[(h.value, h.value) for h in SigningMode], default=SigningMode.ANY)
    profiles = ArrayField(models.BigIntegerField(), default=list)
    labels = ArrayField(models.BigIntegerField(), default=list)
    kinds = ArrayField(models.CharField(max_length=20), default=list)
    authors = ArrayField(models.BigIntegerField(), default=list)
    before_hours = models.PositiveSmallIntegerField(null=True)

    class Meta:
        ordering = ["pk"]


class RulesRecheck(models.Model):
    """Some of a brand's open posts are still to be looked at again since its rules changed: those with ids above `after`."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, related_name="+")
    after = models.BigIntegerField(default=0)


class SignOff(models.Model):
    """A signer's answer to what a delivery said (`fingerprint`, `content`) and to its time. Never changed: a new one follows.

    `signer` is a person (u and their id) or a client's link (l and its id).
    """

    delivery = models.ForeignKey("posts.Delivery", on_delete=models.CASCADE, related_name="signoffs")
    profile_id = models.BigIntegerField()
    signer = models.CharField(max_length=20)
    name = models.CharField(max_length=300)
    verdict = models.CharField(max_length=8, choices=[(v.value, v.value) for v in Verdict])
    fingerprint = models.CharField(max_length=32)
    content = models.JSONField(help_text="the wording that was answered")
    due_at = models.DateTimeField(null=True)
    answered_at = models.DateTimeField()

    class Meta:
        ordering = ["pk"]


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
