"""Catalogues, their things, and what happened to them."""

from django.db import models

from menudo.library.models import Asset
from menudo.people.models import Brand, User
from menudo_core.catalogue.events import Happened, Standing


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
    every = models.PositiveIntegerField(default=60)
    etag = models.CharField(max_length=300, blank=True)
    modified = models.CharField(max_length=300, blank=True)
    read_at = models.DateTimeField(null=True)
    next_at = models.DateTimeField(null=True)
    fails = models.PositiveIntegerField(default=0)
    trouble = models.CharField(max_length=300, blank=True)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name", "id"]


class Thing(models.Model):
    """One thing, as it was last read."""

    catalogue = models.ForeignKey(Catalogue, on_delete=models.CASCADE, related_name="things")
    key = models.CharField(max_length=200)
    title = models.CharField(max_length=300)
    price = models.DecimalField(max_digits=14, decimal_places=2, null=True)
    currency = models.CharField(max_length=3, blank=True)
    standing = models.CharField(max_length=10, choices=[(s.value, s.value) for s in Standing], default=Standing.FREE)
    open_day = models.DateField(null=True)
    link = models.CharField(max_length=2000, blank=True)
    picture = models.CharField(max_length=2000, blank=True)
    about = models.TextField(blank=True)
    more = models.JSONField(default=dict)
    read = models.JSONField(default=dict, db_default={}, help_text="what the last reading said of how it stands")
    asset = models.ForeignKey(Asset, on_delete=models.SET_NULL, null=True, related_name="+")
    seen = models.DateTimeField()

    class Meta:
        ordering = ["title", "id"]
        constraints = [models.UniqueConstraint(fields=["catalogue", "key"], name="a_thing_once_in_a_catalogue")]


class Happening(models.Model):
    """What happened to a thing, once. `said` are the facts as they were then. `by`: who said so by hand."""

    catalogue = models.ForeignKey(Catalogue, on_delete=models.CASCADE, related_name="happenings")
    thing = models.ForeignKey(Thing, on_delete=models.CASCADE, related_name="happenings")
    happened = models.CharField(max_length=10, choices=[(h.value, h.value) for h in Happened])
    name = models.CharField(max_length=60, blank=True)
    known_by = models.CharField(max_length=400)
    said = models.JSONField(default=dict)
    at = models.DateTimeField()
    by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["-at", "-id"]
        constraints = [models.UniqueConstraint(fields=["catalogue", "known_by"], name="it_happens_once")]
