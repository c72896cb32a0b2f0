"""Posts, their versions, and their deliveries."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.functions import Lower, Now

from menudo.base import clock
from menudo.labels.models import Ink, Label
from menudo.library.models import LinkTags
from menudo.people.models import Brand, User
from menudo.profiles.models import Profile
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.states import DeliveryState, PostState


class Campaign(models.Model):
    """What gathers posts for a while: its days, the hashtags that belong to it, and how its links are tagged."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="campaigns")
    name = models.CharField(max_length=80)
    starts_on = models.DateField()
    ends_on = models.DateField()
    ink = models.CharField(max_length=12, choices=[(ink.value, ink.value) for ink in Ink], default=Ink.ANIL)
    tags = ArrayField(models.CharField(max_length=100), default=list)
    link_tags = models.ForeignKey(LinkTags, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["starts_on", "id"]
        constraints = [
            models.UniqueConstraint("brand", Lower("name"), name="a_campaigns_name_once"),
            models.CheckConstraint(
                condition=models.Q(ends_on__gte=models.F("starts_on")), name="a_campaign_ends_after_it_starts"
            ),
        ]


class Post(models.Model):
    """What is said. `master` holds text, media (asset ids), link, first_comment and fields. One that is `evergreen` never goes
    out itself, and waits in no tray: its copies do."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="posts")
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    title = models.CharField(max_length=200, blank=True)
    master = models.JSONField(default=dict)
    state = models.CharField(max_length=16, choices=[(s.value, s.value) for s in PostState], default=PostState.DRAFT)
    labels = models.ManyToManyField(Label, related_name="posts")
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="posts")
    revision = models.PositiveIntegerField(default=1)
    requested_at = models.DateTimeField(
        null=True, help_text="when it was put up for sign-off, or planned, the last time"
    )
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    updated_at = models.DateTimeField(default=clock.now, db_default=Now())
    deleted_at = models.DateTimeField(null=True)
    evergreen = models.BooleanField(default=False, db_default=False)
    aside = models.BooleanField(
        default=False, db_default=False, help_text="it waits for an answer elsewhere, not in the tray"
    )

    class Meta:
        indexes = [
            models.Index(fields=["brand", "-updated_at"]),
            models.Index(
                fields=["brand"],
                name="post_unsigned",
                condition=models.Q(deleted_at=None) & ~models.Q(state="signed_off"),
            ),
            models.Index(fields=["brand", "deleted_at"], name="post_binned", condition=~models.Q(deleted_at=None)),
        ]


class Version(models.Model):
    """One network's own form of a post, or one profile's that was split off: `overrides` holds only the fields that differ."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="versions")
    network = models.CharField(max_length=32)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, null=True, related_name="versions")
    overrides = models.JSONField(default=dict)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["post", "network"], condition=models.Q(profile=None), name="a_networks_version_once"
            ),
            models.UniqueConstraint(
                fields=["post", "profile"], condition=~models.Q(profile=None), name="a_profiles_version_once"
            ),
        ]


class Delivery(models.Model):
    """One post's going-out to one profile.

    `wall_time` and `zone` are what was meant; `due_at` is the instant that gave, in UTC. With a stagger or a sway both are
    the time that came of it, and `delay` and `jitter` say by how many minutes, `seed` from what. `was_due` is when it was
    due before it was taken off. `key` never changes: the network knows the post by it. `step` is how far sending got; one that was handed to a person keeps that, also while it is held again. `headline`,
    `thumb_id` and `picture_count` are what its card says, and `signoff_state` is where its sign-off stands: kept by the actions
    that change the post.
    """

    class Step(models.TextChoices):
        NONE = ""
        MEDIA = "media"
        CREATE = "create"
        HAND = "hand"

    # Its index stands below, with the state in it.
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="deliveries", db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.PROTECT, related_name="deliveries")
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="deliveries")
    state = models.CharField(
        max_length=16, choices=[(s.value, s.value) for s in DeliveryState], default=DeliveryState.UNPLANNED
    )
    due_at = models.DateTimeField(null=True)
    wall_time = models.DateTimeField(null=True, help_text="the wall time meant, kept as if it were UTC")
    zone = models.CharField(max_length=64, blank=True)
    delay = models.PositiveIntegerField(default=0, db_default=0, help_text="minutes after the post's first profile")
    jitter = models.SmallIntegerField(default=0, db_default=0, help_text="minutes off the time that was set")
    seed = models.BigIntegerField(null=True)
    was_due = models.DateTimeField(null=True)
    held_for = models.CharField(max_length=12, blank=True, help_text="what it waits for, or why it was missed")
    not_before = models.DateTimeField(null=True, help_text="the next try, when one has been put off")
    key = models.UUIDField(unique=True)
    step = models.CharField(max_length=8, choices=Step, default=Step.NONE, blank=True)
    tries = models.PositiveIntegerField(default=0)
    lease_until = models.DateTimeField(null=True)
    lease_holder = models.CharField(max_length=80, blank=True)
    reason = models.TextField(blank=True)
    reason_code = models.CharField(max_length=20, blank=True)
    remote_url = models.URLField(max_length=500, blank=True)
    sent_content = models.JSONField(null=True, help_text="the content as it was sent")
    attempted_content = models.JSONField(
        null=True, help_text="the content whose sending was begun; it may be there already"
    )
    published_at = models.DateTimeField(null=True)
    signoff_state = models.CharField(
        max_length=8, choices=[(s.value, s.value) for s in SignoffState], blank=True, db_default=""
    )
    headline = models.CharField(max_length=120, blank=True)
    thumb_id = models.BigIntegerField(null=True)
    picture_count = models.PositiveSmallIntegerField(default=0)
    revision = models.PositiveIntegerField(default=1)
    updated_at = models.DateTimeField(
        default=clock.now, db_default=Now(), help_text="when its revision changed last; a trigger writes it"
    )

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
            models.Index(fields=["post", "state"], name="delivery_of_post"),
            models.Index(
                fields=["state", "due_at"],
                condition=models.Q(state__in=["planned", "sending", "held"]),
                name="delivery_waiting",
            ),
            models.Index(fields=["profile", "due_at"]),
            # What stands still is little of ever so much.
            models.Index(
                fields=["brand", "state", "due_at"],
                name="delivery_standing",
                condition=models.Q(state__in=["held", "waiting_for_hand", "in_trouble", "missed"]),
            ),
            models.Index(
                fields=["profile", "due_at"],
                name="delivery_ahead",
                condition=models.Q(state__in=["planned", "held", "waiting_for_hand", "sending"]),
            ),
            models.Index(
                fields=["profile", "due_at"],
                name="delivery_put_off",
                condition=~models.Q(jitter=0) | ~models.Q(delay=0),
            ),
            models.Index(
                fields=["profile", "published_at"], name="delivery_published", condition=models.Q(state="published")
            ),
            models.Index(fields=["brand", "post"], name="delivery_loose", condition=models.Q(state="unplanned")),
        ]


class Watch(models.Model):
    """Who is told of what happens to a post, beside its author."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="watches")
    user = models.ForeignKey(User, on_delete=models.CASCADE)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "user"], name="a_watch_once")]


class Attendance(models.Model):
    """Who has a post open on the Bench, and when that was last said."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="attendances")
    user = models.ForeignKey(User, on_delete=models.CASCADE)
    seen_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "user"], name="an_attendance_once")]
