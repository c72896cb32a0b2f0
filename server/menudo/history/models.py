"""What happened, to what, by whom. Written by the actions, never by triggers or signals."""

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.functions import Now, Upper

from menudo.base import clock


class HistoryEvent(models.Model):
    """One thing that was done. `code` and `params` say what (see sentences.py); `summary` is that in words, for who searches, and
    all there is of what was done before there were codes. `before` and `after` hold what an undo needs."""

    brand_id = models.BigIntegerField()
    actor_id = models.BigIntegerField(null=True)
    actor_name = models.CharField(max_length=300)
    verb = models.CharField(max_length=40)
    kind = models.CharField(max_length=20)
    object_id = models.BigIntegerField()
    code = models.CharField(max_length=60, default="", db_default="", blank=True)
    params = models.JSONField(default=dict, db_default={})
    summary = models.CharField(max_length=300)
    before = models.JSONField(default=dict)
    after = models.JSONField(default=dict)
    undone = models.BooleanField(default=False)
    occurred_at = models.DateTimeField(default=clock.now, db_default=Now())

    class Meta:
        indexes = [
            models.Index(fields=["brand_id", "-id"]),
            models.Index(fields=["kind", "object_id", "-id"]),
            # For who looks for words: `icontains` asks for upper case.
            GinIndex(OpClass(Upper("summary"), name="gin_trgm_ops"), name="history_words"),
        ]
