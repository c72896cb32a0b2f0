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

    `event` is a catalogue's, with `event_name` an own event's. `carries_since`: what appeared before isn't carried; `activated_at`: what was seen before is none of
    its business. `messages` take turns: [{id, text, times}], `message_counts` counts them, `last_message` was used last. `adaptation` and
    `conditions` are as relays/serializers.py has them. `paused_reason` says why it paused itself.
    """

    class Timing(models.TextChoices):
        AT_ONCE = "at_once"
        AFTER = "after"
        SLOT = "slot"

    class Confirmation(models.TextChoices):
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
    run_as = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    active = models.BooleanField(default=False)
    carries_since = models.DateTimeField(null=True)
    activated_at = models.DateTimeField(null=True)
    earlier_item_ids = ArrayField(
        models.BigIntegerField(), default=list, help_text="what was there before and is carried too"
    )
    conditions = models.JSONField(default=dict)
    messages = models.JSONField(default=list)
    message_counts = models.JSONField(default=dict)
    last_message = models.PositiveIntegerField(null=True)
    adaptation = models.JSONField(default=dict)
    link_tags = models.ForeignKey(LinkTags, on_delete=models.SET_NULL, null=True, related_name="+")
    timing = models.CharField(max_length=8, choices=Timing, default=Timing.AT_ONCE)
    delay_minutes = models.PositiveIntegerField(default=30)
    confirmation = models.CharField(max_length=8, choices=Confirmation, default=Confirmation.GOES)
    hours_from = models.TimeField(null=True)
    hours_until = models.TimeField(null=True)
    daily_limit = models.PositiveSmallIntegerField(null=True)
    hourly_limit = models.PositiveSmallIntegerField(default=10)
    failure_count = models.PositiveSmallIntegerField(default=0)
    paused_reason = models.CharField(max_length=300, blank=True)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "profile", "feed", "catalogue", "label", "event", "event_name", "target"],
                nulls_distinct=False,
                name="one_relay_a_cell",
            ),
            models.CheckConstraint(
                condition=models.Q(profile=None) | ~models.Q(profile=models.F("target")), name="no_relay_to_itself"
            ),
        ]

    @property
    def source(self) -> str:
        """The source's key, as the core has it."""
        kinds = (("p", self.profile_id), ("f", self.feed_id), ("c", self.catalogue_id), ("l", self.label_id))
        return next(f"{letter}{source_id}" for letter, source_id in kinds if source_id is not None)


class SourceItem(models.Model):
    """Something that appeared at a source, once. `data` is as relays/serializers.py has it; `trail` the profiles it has been on;
    `addresses` those it is and was found at."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    source = models.CharField(max_length=24)
    origin = models.CharField(max_length=700)
    event = models.CharField(max_length=10, blank=True)
    event_name = models.CharField(max_length=60, blank=True)
    occurred_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    trail = ArrayField(models.BigIntegerField(), default=list)
    addresses = ArrayField(models.CharField(max_length=700), default=list, db_default=[])
    data = models.JSONField(default=dict)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "source", "origin"], name="it_appears_once_at_a_source")
        ]
        indexes = [models.Index(fields=["brand", "source", "seen_at"])]


class Firing(models.Model):
    """What became of what appeared, at one relay: `verdict` is of the core's, or one of these."""

    class Asked(models.TextChoices):
        ASKED = "asked"
        DECLINED = "declined"
        TOLD = "told"
        STOPPED = "stopped"

    relay = models.ForeignKey(Relay, on_delete=models.CASCADE, related_name="firings")
    item = models.ForeignKey(SourceItem, on_delete=models.CASCADE, related_name="firings")
    fired_at = models.DateTimeField()
    verdict = models.CharField(max_length=12)
    explanation = models.CharField(max_length=300, blank=True)
    message = models.PositiveIntegerField(null=True)
    post = models.OneToOneField(Post, on_delete=models.SET_NULL, null=True, related_name="firing")

    class Meta:
        ordering = ["-fired_at", "-id"]
        constraints = [models.UniqueConstraint(fields=["relay", "item"], name="a_leg_once")]
        indexes = [models.Index(fields=["relay", "-fired_at"])]


@receiver(pre_delete, sender=Firing)
def restore_draft_state(sender: type[Firing], instance: Firing, **_: Any) -> None:
    """Where a question goes, with its relay, feed or catalogue, its draft is one in the tray as any other."""
    Post.objects.filter(pk=instance.post_id or 0, aside=True).update(aside=False)


class SeenItem(models.Model):
    """That a profile had a thing, by whatever path: never again. `origin` is the thing's own name, or the key of an address it
    is or was found at; `source` where it came from, empty for what was noted before that was kept."""

    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="+")
    origin = models.CharField(max_length=700)
    source = models.CharField(max_length=24, blank=True, db_default="")
    firing = models.ForeignKey(Firing, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "origin"], name="never_twice_to_a_profile")]


class RemoteItem(models.Model):
    """A post that stands at a profile and wasn't made here, as its network told it."""

    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="remote_items")
    url = models.CharField(max_length=500)
    published_at = models.DateTimeField()
    data = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "url"], name="an_outside_post_once")]
