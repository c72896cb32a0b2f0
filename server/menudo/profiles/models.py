"""Sign-ins at networks, the profiles they manage, and their timetables."""

from datetime import time

from django.db import models
from django.db.models.functions import Lower, Now

from menudo.base import clock
from menudo.base.sealing import SealedField
from menudo.labels.models import Label
from menudo.people.models import Brand, User


class Connection(models.Model):
    """One sign-in at a network: its sealed tokens serve every profile chosen there. An account that signs in by a client's
    link, too, has a connection for that: each has the tokens of what was chosen with it."""

    class State(models.TextChoices):
        CONNECTED = "connected"
        ENDED = "ended"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="connections")
    network = models.CharField(max_length=32)
    account = models.CharField(max_length=200)
    state = models.CharField(max_length=12, choices=State, default=State.CONNECTED)
    access_token = SealedField()
    refresh_token = SealedField(blank=True)
    access_expires_at = models.DateTimeField()
    expires_at = models.DateTimeField(null=True)
    endpoints = models.JSONField(default=dict)
    connected_at = models.DateTimeField(default=clock.now, db_default=Now())
    address = models.CharField(max_length=500, blank=True, help_text="of an open site")
    link = models.ForeignKey("ConnectLink", on_delete=models.SET_NULL, null=True, related_name="connections")
    warned_days = models.PositiveSmallIntegerField(null=True, help_text="days before its end that were warned of last")

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "network", "account", "link"], nulls_distinct=False, name="one_connection_an_account"
            )
        ]


class PendingConnection(models.Model):
    """A trip to a network that has begun, by a person or through a client's link. Its state is kept as a hash, and it serves once."""

    state_hash = models.CharField(max_length=64, unique=True)
    verifier = SealedField()
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    user = models.ForeignKey(User, on_delete=models.CASCADE, null=True)
    link = models.ForeignKey("ConnectLink", on_delete=models.CASCADE, null=True)
    address = models.CharField(max_length=500, blank=True)
    network = models.CharField(max_length=32)
    endpoints = models.JSONField(default=dict)
    expires_at = models.DateTimeField()


class Profile(models.Model):
    """One profile at a network. `zone` empty: the brand's. Connected while its connection is.

    `facts` are what the network told of it; with a condition that isn't met it is not ready.
    A pause is no state: see Pause. `display_name` is the team's own name for it; `keeper` is in charge by hand. What it
    wishes of its spacing is advice; null is no wish. Times that vary stay in its waking hours.
    """

    class State(models.TextChoices):
        CONNECTED = "connected"
        NOT_READY = "not_ready"
        RECONNECT = "must_be_reconnected"
        BY_HAND = "by_hand"
        DISCONNECTED = "disconnected"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="profiles")
    network = models.CharField(max_length=32)
    connection = models.ForeignKey(Connection, on_delete=models.SET_NULL, null=True, related_name="profiles")
    remote_id = models.CharField(max_length=200)
    site = models.CharField(max_length=300, blank=True, help_text="of an open site: two of them may name things alike")
    handle = models.CharField(max_length=120)
    name = models.CharField(max_length=200)
    kind = models.CharField(max_length=32)
    zone = models.CharField(max_length=64, blank=True)
    state = models.CharField(max_length=20, choices=State, default=State.CONNECTED)
    display_name = models.CharField(max_length=120, blank=True)
    url = models.CharField(max_length=500, blank=True, help_text="its page at the network")
    followers = models.PositiveIntegerField(null=True)
    facts = models.JSONField(default=dict)
    keeper = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    max_gap_days = models.PositiveSmallIntegerField(null=True, default=4, help_text="days without a post")
    min_gap_minutes = models.PositiveIntegerField(null=True, default=60, help_text="between two posts")
    min_repeat_days = models.PositiveSmallIntegerField(null=True, default=30, help_text="before the same returns")
    waking_from = models.TimeField(default=time(7))
    waking_until = models.TimeField(default=time(23))

    class Meta:
        ordering = ["network", "handle"]
        constraints = [
            models.UniqueConstraint(fields=["brand", "network", "site", "remote_id"], name="a_profile_once_in_a_brand")
        ]


class ProfileSet(models.Model):
    """A named subset of a brand's profiles. What is planned already never depends on it."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="profile_sets")
    name = models.CharField(max_length=60)
    profiles = models.ManyToManyField(Profile, related_name="sets")

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint("brand", Lower("name"), name="a_set_name_once_in_a_brand")]


class Pause(models.Model):
    """A time in which nothing goes out: of one profile, or of the whole brand (`profile` null). `ends_at` null: until ended."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="pauses")
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, null=True, related_name="pauses")
    starts_at = models.DateTimeField()
    ends_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    reason = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "profile"],
                condition=models.Q(ended_at=None),
                nulls_distinct=False,
                name="one_pause_at_a_time",
            )
        ]


class CustomRuleSheet(models.Model):
    """A rule sheet that a brand loaded for a network nobody here thought of."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="custom_sheets")
    network = models.CharField(max_length=32)
    toml = models.TextField()
    created_at = models.DateTimeField(default=clock.now, db_default=Now())

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "network"], name="an_own_sheet_once_in_a_brand")]


class ConnectLink(models.Model):
    """A link with which a client connects their own profiles. Its token is kept as a hash.

    `requested` are the networks and kinds that are asked for: [{"network": ..., "kinds": [...]}].
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="connect_links")
    token_hash = models.CharField(max_length=64, unique=True)
    display_name = models.CharField(max_length=120)
    requested = models.JSONField()
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    expires_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)


class Slot(models.Model):
    """A weekly slot of a profile: weekday 0 (Monday) to 6, wall time in the profile's zone; kept for a label or for anything."""

    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="slots")
    weekday = models.PositiveSmallIntegerField()
    at = models.TimeField()
    label = models.ForeignKey(Label, on_delete=models.SET_NULL, null=True, related_name="slots")

    class Meta:
        ordering = ["weekday", "at"]
        constraints = [
            models.UniqueConstraint(fields=["profile", "weekday", "at"], name="a_slot_once"),
            models.CheckConstraint(condition=models.Q(weekday__lte=6), name="a_real_weekday"),
        ]
