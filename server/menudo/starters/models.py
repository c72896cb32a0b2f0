"""Starters and what became of them."""

from django.db import models

from menudo.people.models import Brand, User
from menudo.posts.models import Post
from menudo_core.starters.choose import Kind, Reason


class Starter(models.Model):
    """A proposed draft. `key` names what it begins from: nothing is proposed twice. `why` says it to people."""

    class State(models.TextChoices):
        PROPOSED = "proposed"
        KEPT = "kept"
        THROWN = "thrown"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="starters")
    kind = models.CharField(max_length=10, choices=[(k.value, k.value) for k in Kind])
    key = models.CharField(max_length=300)
    topic = models.CharField(max_length=300)
    why = models.CharField(max_length=300)
    master = models.JSONField(default=dict)
    expires_on = models.DateField(null=True)
    state = models.CharField(max_length=10, choices=State, default=State.PROPOSED)
    reason = models.CharField(max_length=10, choices=[(r.value, r.value) for r in Reason], blank=True)
    post = models.ForeignKey(Post, on_delete=models.SET_NULL, null=True, related_name="+")
    decided_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    created_at = models.DateTimeField()

    class Meta:
        ordering = ["-created_at", "-id"]
        constraints = [models.UniqueConstraint(fields=["brand", "key"], name="a_starter_once")]
