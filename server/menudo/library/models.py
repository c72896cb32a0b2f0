"""Media."""

from django.db import models
from django.db.models.functions import Now

from menudo.people.models import Brand
from menudo_core.media.facts import MediaFacts, MediaKind


class Asset(models.Model):
    """A picture or video as Menudo keeps it: decoded, turned upright, re-encoded, without its metadata."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="assets")
    name = models.CharField(max_length=200)
    kind = models.CharField(max_length=12, choices=[(k.value, k.value) for k in MediaKind])
    format = models.CharField(max_length=8)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    size = models.PositiveIntegerField(help_text="bytes")
    seconds = models.FloatField(null=True)
    sha256 = models.CharField(max_length=64)
    alt = models.TextField(blank=True)
    added = models.DateTimeField(db_default=Now())

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "sha256"], name="an_asset_once_in_a_brand"),
            models.CheckConstraint(
                condition=models.Q(width__gt=0, height__gt=0, size__gt=0), name="an_asset_has_a_size"
            ),
        ]

    @property
    def facts(self) -> MediaFacts:
        return MediaFacts(
            self.pk, MediaKind(self.kind), self.format, self.width, self.height, self.size, self.seconds, self.alt
        )
