"""Labels: what a team calls its kinds of posts, each in one of twelve inks."""

from django.db import models
from django.db.models.functions import Lower

from menudo.people.models import Brand


class Ink(models.TextChoices):
    """The twelve inks; each is told by its name too."""

    ANIL = "anil"
    PIMENTON = "pimenton"
    EPAZOTE = "epazote"
    MAIZE = "maize"
    PLUM = "plum"
    BRICK = "brick"
    MOSS = "moss"
    SLATE = "slate"
    ROSE = "rose"
    TEAL = "teal"
    OCHRE = "ochre"
    SMOKE = "smoke"


class Label(models.Model):
    """A label of a brand."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="labels")
    name = models.CharField(max_length=40)
    ink = models.CharField(max_length=12, choices=Ink, default=Ink.ANIL)

    class Meta:
        ordering = [Lower("name"), "id"]
        constraints = [models.UniqueConstraint("brand", Lower("name"), name="a_labels_name_once")]
