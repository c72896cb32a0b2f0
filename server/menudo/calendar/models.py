"""What belongs to the calendar itself: views kept by name, addresses for other programs, and the days worth a post."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.functions import Lower, Now

from menudo.base import clock
from menudo.people.models import Brand, User
from menudo.profiles.models import ProfileSet


class SavedView(models.Model):
    """A view and its filter under a name; `query` is the address's. One's own, or `shared` with the brand."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="views")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=60)
    query = models.JSONField(default=dict)
    shared = models.BooleanField(default=False)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint("brand", "user", Lower("name"), name="a_views_name_once")]


class Subscription(models.Model):
    """A secret address at which other programs read the calendar. Its token is kept as a hash.

    Of the whole brand, of one set of profiles, or of what one person (`mine`) has written or keeps.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="subscriptions")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    profile_set = models.ForeignKey(ProfileSet, on_delete=models.CASCADE, null=True, related_name="+")
    mine = models.BooleanField(default=False)
    name = models.CharField(max_length=80)
    token_hash = models.CharField(max_length=64, unique=True)
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    last_read_at = models.DateTimeField(null=True)
    revoked_at = models.DateTimeField(null=True)


class Almanac(models.Model):
    """Which days worth a post a brand sees: public holidays of these countries, and the observances but for `excluded`."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, related_name="almanac")
    countries = ArrayField(models.CharField(max_length=2), default=list)
    excluded = ArrayField(models.CharField(max_length=40), default=list)
    observances = models.BooleanField(default=True)


class CustomDate(models.Model):
    """A brand's own date. `rule` is one whole date (2026-12-13) or a yearly rule, as the core reads it."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="custom_dates")
    name = models.CharField(max_length=120)
    rule = models.CharField(max_length=40)

    class Meta:
        ordering = ["name", "id"]
