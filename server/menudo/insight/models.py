"""Measured results."""

from django.db import models

from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile


class Reading(models.Model):
    """What a published delivery had earned when its network was last asked. `published_at` is when it went out, kept here so that
    results can be counted without their deliveries."""

    delivery = models.OneToOneField(Delivery, on_delete=models.CASCADE, related_name="reading")
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="readings")
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="readings")
    published_at = models.DateTimeField()
    read_at = models.DateTimeField()
    reach = models.PositiveIntegerField(default=0)
    reactions = models.PositiveIntegerField(default=0)
    clicks = models.PositiveIntegerField(default=0)

    class Meta:
        indexes = [models.Index(fields=["profile", "published_at"]), models.Index(fields=["brand", "published_at"])]
