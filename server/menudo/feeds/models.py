"""Feeds and their articles."""

from django.contrib.postgres.fields import ArrayField
from django.db import models

from menudo.people.models import Brand, User


class Feed(models.Model):
    """A feed that a brand follows, read every `interval_minutes`; `failure_count` failures in a row make that rarer. `etag` and
    `modified` are as its site gave them, for conditional requests. `is_gone`: its site answered 410, and it is read no more.
    `shelved`: its articles stand on the reading shelf."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="feeds")
    address = models.CharField(max_length=1000)
    title = models.CharField(max_length=200)
    site = models.CharField(max_length=1000, blank=True)
    language = models.CharField(max_length=35, blank=True)
    shelved = models.BooleanField(default=True)
    interval_minutes = models.PositiveIntegerField(default=60)
    etag = models.CharField(max_length=300, blank=True)
    modified = models.CharField(max_length=300, blank=True)
    read_at = models.DateTimeField(null=True)
    next_at = models.DateTimeField()
    failure_count = models.PositiveIntegerField(default=0)
    last_error = models.CharField(max_length=300, blank=True)
    is_gone = models.BooleanField(default=False)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["title", "id"]
        constraints = [models.UniqueConstraint(fields=["brand", "address"], name="a_feed_once_in_a_brand")]
        indexes = [models.Index(fields=["next_at"], name="feed_due", condition=models.Q(is_gone=False))]


class Article(models.Model):
    """An entry of a feed, known again by `entry_key` however it is edited; `former_links` are where it led before. `is_new`: it came after the feed was first read.
    Whether its link and picture are there is found out once: None is not yet."""

    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, related_name="articles")
    entry_key = models.CharField(max_length=600)
    title = models.CharField(max_length=500)
    link = models.CharField(max_length=2000, blank=True)
    former_links = ArrayField(models.CharField(max_length=2000), default=list, db_default=[])
    summary = models.TextField(blank=True)
    author = models.CharField(max_length=200, blank=True)
    published_at = models.DateTimeField(null=True)
    tags = ArrayField(models.CharField(max_length=100), default=list)
    picture = models.CharField(max_length=2000, blank=True)
    seen_at = models.DateTimeField()
    is_new = models.BooleanField(default=False)
    link_ok = models.BooleanField(null=True)
    picture_ok = models.BooleanField(null=True)
    thumb = models.BinaryField(null=True)
    shared_at = models.DateTimeField(null=True)
    put_away = models.BooleanField(default=False)

    class Meta:
        ordering = ["-seen_at", "-published_at", "-id"]
        constraints = [models.UniqueConstraint(fields=["feed", "entry_key"], name="an_article_once_in_a_feed")]
        indexes = [models.Index(fields=["feed", "-seen_at"])]


class ShelfReminder(models.Model):
    """On which weekdays (0 is Monday) and when, on the brand's wall, a person wants a few fresh articles."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="shelf_reminders")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    weekdays = ArrayField(models.PositiveSmallIntegerField(), default=list)
    at = models.TimeField()
    last_sent_on = models.DateField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "user"], name="a_shelf_reminder_once")]
