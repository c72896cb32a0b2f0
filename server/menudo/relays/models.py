"""Relays, what appeared at their sources, and what became of it."""

from typing import Any

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.signals import pre_delete
from django.dispatch import receiver

from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.labels.models import Label
from menudo.library.models import LinkTags
from menudo.people.models import Brand, User
from menudo.posts.models import Post
from menudo.profiles.models import Profile


class Relay(models.Model):
    """From one source to one profile; a filled cell of the board.

    `event` is a catalogue's, with `event_name` an own event's. `since`: what appeared before isn't carried; `on_at`: what was seen before is none of
    its business. `messages` take turns: [{id, text, times}], `used` counts them, `last` was used last. `shape` and
    `conditions` are as relays/kept.py has them. `paused` says why it paused itself.
    """

    class How(models.TextChoices):
        AT_ONCE = "at_once"
        AFTER = "after"
        SLOT = "slot"

    class Asks(models.TextChoices):
        GOES = "goes"
        ASKS = "asks"
        TELLS = "tells"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="relays")
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, null=True, related_name="relays_from")
    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, null=True, related_name="relays")
    catalogue = models.ForeignKey(Catalogue, on_delete=models.CASCADE, null=True, related_name="relays")
    label = models.ForeignKey(Label, on_delete=models.CASCADE, null=True, related_name="relays")
    event = models.CharField(max_length=10, blank=True)
    event_name = models.CharField(max_length=60, blank=True)
    target = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="relays_to")
    by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    on = models.BooleanField(default=False)
    since = models.DateTimeField(null=True)
    on_at = models.DateTimeField(null=True)
    taken = ArrayField(models.BigIntegerField(), default=list, help_text="what was there before and is carried too")
    conditions = models.JSONField(default=dict)
    messages = models.JSONField(default=list)
    used = models.JSONField(default=dict)
    last = models.PositiveIntegerField(null=True)
    shape = models.JSONField(default=dict)
    link_tags = models.ForeignKey(LinkTags, on_delete=models.SET_NULL, null=True, related_name="+")
    how = models.CharField(max_length=8, choices=How, default=How.AT_ONCE)
    minutes = models.PositiveIntegerField(default=30)
    asks = models.CharField(max_length=8, choices=Asks, default=Asks.GOES)
    goes_from = models.TimeField(null=True)
    goes_until = models.TimeField(null=True)
    per_day = models.PositiveSmallIntegerField(null=True)
    ceiling = models.PositiveSmallIntegerField(default=10)
    fails = models.PositiveSmallIntegerField(default=0)
    paused = models.CharField(max_length=300, blank=True)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "profile", "feed", "catalogue", "label", "event", "event_name", "target"],
                nulls_distinct=False, name="one_relay_a_cell",
            ),
            models.CheckConstraint(
                condition=models.Q(profile=None) | ~models.Q(profile=models.F("target")), name="no_relay_to_itself"
            ),
        ]  # fmt: skip

    @property
    def source(self) -> str:
        """The source's key, as the core has it."""
        kinds = (("p", self.profile_id), ("f", self.feed_id), ("c", self.catalogue_id), ("l", self.label_id))
        return next(f"{letter}{id}" for letter, id in kinds if id is not None)


class Appeared(models.Model):
    """Something that appeared at a source, once. `data` is as relays/kept.py has it; `trail` the profiles it has been on;
    `addresses` those it is and was found at."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    source = models.CharField(max_length=24)
    origin = models.CharField(max_length=700)
    event = models.CharField(max_length=10, blank=True)
    event_name = models.CharField(max_length=60, blank=True)
    at = models.DateTimeField()
    seen = models.DateTimeField()
    trail = ArrayField(models.BigIntegerField(), default=list)
    addresses = ArrayField(models.CharField(max_length=700), default=list, db_default=[])
    data = models.JSONField(default=dict)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "source", "origin"], name="it_appears_once_at_a_source")
        ]
        indexes = [models.Index(fields=["brand", "source", "seen"])]


class Leg(models.Model):
    """What became of what appeared, at one relay: `verdict` is of the core's, or one of these."""

    class Asked(models.TextChoices):
        ASKED = "asked"
        DECLINED = "declined"
        TOLD = "told"
        STOPPED = "stopped"

    relay = models.ForeignKey(Relay, on_delete=models.CASCADE, related_name="legs")
    appeared = models.ForeignKey(Appeared, on_delete=models.CASCADE, related_name="legs")
    at = models.DateTimeField()
    verdict = models.CharField(max_length=12)
    words = models.CharField(max_length=300, blank=True)
    message = models.PositiveIntegerField(null=True)
    post = models.OneToOneField(Post, on_delete=models.SET_NULL, null=True, related_name="leg")

    class Meta:
        ordering = ["-at", "-id"]
        constraints = [models.UniqueConstraint(fields=["relay", "appeared"], name="a_leg_once")]
        indexes = [models.Index(fields=["relay", "-at"])]


@receiver(pre_delete, sender=Leg)
def draft_again(sender: type[Leg], instance: Leg, **_: Any) -> None:
    """Where a question goes, with its relay, feed or catalogue, its draft is one in the tray as any other."""
    Post.objects.filter(pk=instance.post_id or 0, aside=True).update(aside=False)


class Had(models.Model):
    """That a profile had a thing, by whatever path: never again. `origin` is the thing's own name, or the key of an address it
    is or was found at; `source` where it came from, empty for what was noted before that was kept."""

    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="+")
    origin = models.CharField(max_length=700)
    source = models.CharField(max_length=24, blank=True, db_default="")
    leg = models.ForeignKey(Leg, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "origin"], name="never_twice_to_a_profile")]


class Outside(models.Model):
    """A post that stands at a profile and wasn't made here, as its network told it."""

    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="outside")
    url = models.CharField(max_length=500)
    at = models.DateTimeField()
    data = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "url"], name="an_outside_post_once")]
