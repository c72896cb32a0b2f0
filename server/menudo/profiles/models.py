"""Sign-ins at networks, the profiles they manage, and their timetables."""

from django.db import models
from django.db.models.functions import Now

from menudo.people.models import Brand, User


class Connection(models.Model):
    """One sign-in at a network: its sealed tokens serve every profile chosen there."""

    class State(models.TextChoices):
        CONNECTED = "connected"
        ENDED = "ended"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="connections")
    network = models.CharField(max_length=32)
    account = models.CharField(max_length=200)
    state = models.CharField(max_length=12, choices=State, default=State.CONNECTED)
    access_token = models.TextField()
    refresh_token = models.TextField(blank=True)
    access_ends = models.DateTimeField()
    ends = models.DateTimeField(null=True)
    endpoints = models.JSONField(default=dict)
    since = models.DateTimeField(db_default=Now())

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "network", "account"], name="one_connection_an_account")
        ]


class PendingConnection(models.Model):
    """A trip to a network that has begun. Its state is kept as a hash, and it serves once."""

    state_hash = models.CharField(max_length=64, unique=True)
    verifier = models.TextField()
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    user = models.ForeignKey(User, on_delete=models.CASCADE)
    network = models.CharField(max_length=32)
    endpoints = models.JSONField(default=dict)
    ends = models.DateTimeField()


class Profile(models.Model):
    """One profile at a network. `zone` empty: the brand's. Connected while its connection is."""

    class State(models.TextChoices):
        CONNECTED = "connected"
        RECONNECT = "must_be_reconnected"
        BY_HAND = "by_hand"
        PAUSED = "paused"
        DISCONNECTED = "disconnected"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="profiles")
    network = models.CharField(max_length=32)
    connection = models.ForeignKey(Connection, on_delete=models.SET_NULL, null=True, related_name="profiles")
    remote_id = models.CharField(max_length=200)
    handle = models.CharField(max_length=120)
    name = models.CharField(max_length=200)
    kind = models.CharField(max_length=32)
    zone = models.CharField(max_length=64, blank=True)
    state = models.CharField(max_length=20, choices=State, default=State.CONNECTED)

    class Meta:
        ordering = ["network", "handle"]
        constraints = [
            models.UniqueConstraint(fields=["brand", "network", "remote_id"], name="a_profile_once_in_a_brand")
        ]


class Slot(models.Model):
    """A weekly slot of a profile: weekday 0 (Monday) to 6, wall time in the profile's zone."""

    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="slots")
    weekday = models.PositiveSmallIntegerField()
    at = models.TimeField()

    class Meta:
        ordering = ["weekday", "at"]
        constraints = [
            models.UniqueConstraint(fields=["profile", "weekday", "at"], name="a_slot_once"),
            models.CheckConstraint(condition=models.Q(weekday__lte=6), name="a_real_weekday"),
        ]
