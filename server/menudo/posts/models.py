"""Posts, their versions, and their deliveries."""

from django.db import models
from django.db.models.functions import Now

from menudo.people.models import Brand, User
from menudo.profiles.models import Profile
from menudo_core.networks.content import Content, Own
from menudo_core.signoff.states import DeliveryState, PostState


class Post(models.Model):
    """What is said. `master` holds text, media (asset ids), link, first_comment and fields."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="posts")
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    title = models.CharField(max_length=200, blank=True)
    master = models.JSONField(default=dict)
    state = models.CharField(max_length=16, choices=[(s.value, s.value) for s in PostState], default=PostState.DRAFT)
    revision = models.PositiveIntegerField(default=1)
    made = models.DateTimeField(db_default=Now())
    changed = models.DateTimeField(db_default=Now())
    binned = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["brand", "-changed"]),
            models.Index(
                fields=["brand"], name="post_unsigned", condition=models.Q(binned=None) & ~models.Q(state="signed_off")
            ),
        ]

    @property
    def content(self) -> Content:
        return content_of(self.master)


class Version(models.Model):
    """One network's own form of a post: `own` holds only the fields that differ."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="versions")
    network = models.CharField(max_length=32)
    own = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "network"], name="a_version_once")]


class Delivery(models.Model):
    """One post's going-out to one profile.

    `wall` and `zone` are what was meant; `due_at` is the instant that gave, in UTC. `key` never
    changes: the network knows the post by it. `step` is how far sending got, and `headline`,
    `thumb_id` and `pictures` are what its card says, kept by the actions that change the post.
    """

    class Step(models.TextChoices):
        NONE = ""
        MEDIA = "media"
        CREATE = "create"

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="deliveries")
    profile = models.ForeignKey(Profile, on_delete=models.PROTECT, related_name="deliveries")
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="deliveries")
    state = models.CharField(
        max_length=16, choices=[(s.value, s.value) for s in DeliveryState], default=DeliveryState.UNPLANNED
    )
    due_at = models.DateTimeField(null=True)
    wall = models.DateTimeField(null=True, help_text="the wall time meant, kept as if it were UTC")
    zone = models.CharField(max_length=64, blank=True)
    held_for = models.CharField(max_length=12, blank=True, help_text="what it waits for, or why it was missed")
    not_before = models.DateTimeField(null=True, help_text="the next try, when one has been put off")
    key = models.UUIDField(unique=True)
    step = models.CharField(max_length=8, choices=Step, default=Step.NONE, blank=True)
    tries = models.PositiveIntegerField(default=0)
    lease_until = models.DateTimeField(null=True)
    lease_by = models.CharField(max_length=80, blank=True)
    reason = models.TextField(blank=True)
    reason_code = models.CharField(max_length=20, blank=True)
    remote_url = models.URLField(max_length=500, blank=True)
    sent = models.JSONField(null=True, help_text="the content as it was sent")
    published_at = models.DateTimeField(null=True)
    headline = models.CharField(max_length=120, blank=True)
    thumb_id = models.BigIntegerField(null=True)
    pictures = models.PositiveSmallIntegerField(default=0)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["post", "profile"], name="one_delivery_for_a_post_and_profile"),
            models.UniqueConstraint(
                fields=["profile"], condition=models.Q(state="sending"), name="one_at_a_time_for_a_profile"
            ),
            models.CheckConstraint(
                condition=models.Q(state__in=["unplanned", "called_off"]) | models.Q(due_at__isnull=False),
                name="what_is_planned_has_a_time",
            ),
            models.CheckConstraint(
                condition=~models.Q(state="sending") | models.Q(lease_until__isnull=False),
                name="what_is_being_sent_has_a_lease",
            ),
        ]
        indexes = [
            models.Index(fields=["brand", "due_at"]),
            models.Index(
                fields=["state", "due_at"],
                condition=models.Q(state__in=["planned", "sending", "held"]),
                name="delivery_waiting",
            ),
            models.Index(fields=["profile", "due_at"]),
            models.Index(fields=["brand", "post"], name="delivery_loose", condition=models.Q(state="unplanned")),
        ]


def content_of(raw: dict) -> Content:
    """A Content from what the database keeps."""
    return Content(
        text=raw.get("text", ""),
        media=tuple(raw.get("media", ())),
        link=raw.get("link", ""),
        first_comment=raw.get("first_comment", ""),
        fields=raw.get("fields", {}),
    )


def as_sent(content: Content) -> dict:
    """What the database keeps of a content that went out."""
    return {"text": content.text, "media": list(content.media), "link": content.link, "fields": dict(content.fields)}


def own_of(raw: dict) -> Own:
    """An Own from what the database keeps: what isn't there is inherited."""
    media = raw.get("media")
    return Own(
        text=raw.get("text"),
        media=None if media is None else tuple(media),
        link=raw.get("link"),
        first_comment=raw.get("first_comment"),
        fields=raw.get("fields", {}),
    )
