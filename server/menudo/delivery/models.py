"""What follows a delivery at its network."""

from django.db import models


class FirstComment(models.Model):
    """The comment that follows a delivery's post, a step of its own: it can fail and be tried alone.

    `key` never changes: the network knows the comment by it. `begun`: it may have been sent already, so the network is
    asked first.
    """

    class State(models.TextChoices):
        WAITING = "waiting"
        SENDING = "sending"
        PUBLISHED = "published"
        TROUBLE = "in_trouble"

    delivery = models.OneToOneField("posts.Delivery", on_delete=models.CASCADE, related_name="comment")
    text = models.TextField()
    state = models.CharField(max_length=12, choices=State, default=State.WAITING)
    key = models.UUIDField(unique=True)
    begun = models.BooleanField(default=False)
    tries = models.PositiveIntegerField(default=0)
    not_before = models.DateTimeField(null=True)
    lease_until = models.DateTimeField(null=True)
    lease_holder = models.CharField(max_length=80, blank=True)
    reason = models.TextField(blank=True)
    reason_code = models.CharField(max_length=20, blank=True)
    remote_url = models.URLField(max_length=500, blank=True)

    class Meta:
        indexes = [
            models.Index(
                fields=["state"], name="comment_waiting", condition=models.Q(state__in=["waiting", "sending"])
            ),
            models.Index(fields=["delivery"], name="comment_in_trouble", condition=models.Q(state="in_trouble")),
        ]
