"""Catalogues, their things, and what happened to them."""

from django.db import models

from menudo.library.models import Asset
from menudo.people.models import Brand, User
from menudo_core.catalogue.events import Availability, EventKind


class Catalogue(models.Model):
    """Where things come from: an address that is read every so many minutes, or files that people bring (no address).

    `mapping` says which column is which field; `rules` are the brand's own events: [{name, field, change, value}].
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="catalogues")
    name = models.CharField(max_length=80)
    address = models.CharField(max_length=1000, blank=True)
    mapping = models.JSONField(default=dict)
    currency = models.CharField(max_length=3, blank=True)
    rules = models.JSONField(default=list)
    interval_minutes = models.PositiveIntegerField(default=60)
    etag = models.CharField(max_length=300, blank=True)
    modified = models.CharField(max_length=300, blank=True)
    read_at = models.DateTimeField(null=True)
    next_at = models.DateTimeField(null=True)
    failure_count = models.PositiveIntegerField(default=0)
    last_error = models.CharField(max_length=300, blank=True)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name", "id"]


class CatalogueItem(models.Model):
    """One thing, as it was last read."""

    catalogue = models.ForeignKey(Catalogue, on_delete=models.CASCADE, related_name="items")
    key = models.CharField(max_length=200)
    title = models.CharField(max_length=300)
    price = models.DecimalField(max_digits=14, decimal_places=2, null=True)
    currency = models.CharField(max_length=3, blank=True)
    availability = models.CharField(
        max_length=10, choices=[(s.value, s.value) for s in Availability], default=Availability.FREE
    )
    open_day = models.DateField(null=True)
    link = models.CharField(max_length=2000, blank=True)
    picture = models.CharField(max_length=2000, blank=True)
    about = models.TextField(blank=True)
    more = models.JSONField(default=dict)
    last_reading = models.JSONField(
        default=dict, db_default={}, help_text="what the last reading said of how it stands"
    )
    asset = models.ForeignKey(Asset, on_delete=models.SET_NULL, null=True, related_name="+")
    last_seen_at = models.DateTimeField()

    class Meta:
        ordering = ["title", "id"]
        constraints = [models.UniqueConstraint(fields=["catalogue", "key"], name="a_thing_once_in_a_catalogue")]


class CatalogueEvent(models.Model):
    """What happened to a thing, once. `values` are the facts as they were then. `created_by`: who said so by hand."""

    catalogue = models.ForeignKey(Catalogue, on_delete=models.CASCADE, related_name="events")
    item = models.ForeignKey(CatalogueItem, on_delete=models.CASCADE, related_name="events")
    kind = models.CharField(max_length=10, choices=[(h.value, h.value) for h in EventKind])
    name = models.CharField(max_length=60, blank=True)
    dedup_key = models.CharField(max_length=400)
    values = models.JSONField(default=dict)
    occurred_at = models.DateTimeField()
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["-occurred_at", "-id"]
        constraints = [models.UniqueConstraint(fields=["catalogue", "dedup_key"], name="it_happens_once")]
