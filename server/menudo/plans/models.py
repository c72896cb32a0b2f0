"""Plans brought in: which rows of which files have been taken already."""

from django.db import models
from django.db.models.functions import Now

from menudo.base import clock
from menudo.people.models import Brand, User
from menudo.posts.models import Post


class Import(models.Model):
    """A plan that was brought in. `digest` is the file's, so that the same file is known again."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="imports")
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=200)
    digest = models.CharField(max_length=64)
    created_at = models.DateTimeField(default=clock.now, db_default=Now())

    class Meta:
        indexes = [models.Index(fields=["brand", "digest"])]


class ImportedRow(models.Model):
    """One row that became a post; `row_hash` is its content's, so that a row isn't taken twice unless it is asked for."""

    plan = models.ForeignKey(Import, on_delete=models.CASCADE, related_name="rows")
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    line = models.PositiveIntegerField()
    row_hash = models.CharField(max_length=64)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["brand", "row_hash"])]
