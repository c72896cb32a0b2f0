"""Media, and what is kept to be said again."""

from django.db import models
from django.db.models.functions import Now

from menudo.base import clock
from menudo.base.sealing import SealedField
from menudo.labels.models import Label
from menudo.people.models import Brand, User
from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.text.link_tags import LinkTags as Tags


class Folder(models.Model):
    """A folder of media. A bundle is a folder whose pictures carry captions, to be copied and laid out."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="folders")
    name = models.CharField(max_length=120)
    bundle = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="a_folder_once")]


class Asset(models.Model):
    """A picture or video as Menudo keeps it: decoded, turned upright, clean of metadata. `codec` is a video's."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="assets")
    folder = models.ForeignKey(Folder, on_delete=models.SET_NULL, null=True, related_name="assets")
    name = models.CharField(max_length=200)
    kind = models.CharField(max_length=12, choices=[(k.value, k.value) for k in MediaKind])
    format = models.CharField(max_length=8)
    codec = models.CharField(max_length=16, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    size = models.PositiveIntegerField(help_text="bytes")
    seconds = models.FloatField(null=True)
    sha256 = models.CharField(max_length=64)
    alt = models.TextField(blank=True)
    caption = models.TextField(blank=True)
    credit = models.CharField(max_length=200, blank=True)
    labels = models.ManyToManyField(Label, related_name="assets")
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    deleted_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["brand", "sha256"]),
            models.Index(fields=["brand", "-id"]),
        ]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(width__gt=0, height__gt=0, size__gt=0), name="an_asset_has_a_size"
            ),
        ]

    @property
    def facts(self) -> MediaFacts:
        return MediaFacts(
            self.pk,
            MediaKind(self.kind),
            self.format,
            self.width,
            self.height,
            self.size,
            self.seconds,
            self.alt,
            self.codec,
        )


class Use(models.Model):
    """A post that uses an asset, with its words for the search; written by what keeps posts."""

    asset = models.ForeignKey(Asset, on_delete=models.CASCADE, related_name="uses")
    post_id = models.BigIntegerField()
    title = models.CharField(max_length=200, blank=True)
    excerpt = models.TextField(blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["asset", "post_id"], name="a_use_once")]
        indexes = [models.Index(fields=["post_id"])]


class Snippet(models.Model):
    """Saved wording."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="snippets")
    name = models.CharField(max_length=80)
    text = models.TextField()
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="a_snippet_once")]


class TagSet(models.Model):
    """Saved hashtags, without their sign."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="tag_sets")
    name = models.CharField(max_length=80)
    tags = models.JSONField(default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="a_tag_set_once")]


class LinkTags(models.Model):
    """A preset of UTM values, which may hold placeholders."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="link_tags")
    name = models.CharField(max_length=80)
    source = models.CharField(max_length=200, blank=True)
    medium = models.CharField(max_length=200, blank=True)
    campaign = models.CharField(max_length=200, blank=True)
    content = models.CharField(max_length=200, blank=True)
    term = models.CharField(max_length=200, blank=True)
    keeps = models.BooleanField(default=True, help_text="what stands in the link already stays")
    in_text = models.BooleanField(default=True, help_text="links in the text are tagged too")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="link_tags_once")]

    @property
    def tags(self) -> Tags:
        return Tags(self.source, self.medium, self.campaign, self.content, self.term, self.keeps, self.in_text)


class Store(models.Model):
    """A shared store that media are brought in from over WebDAV (RFC 4918). The password is sealed."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="stores")
    name = models.CharField(max_length=80)
    address = models.CharField(max_length=500)
    user = models.CharField(max_length=120, blank=True)
    password = SealedField(blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="a_store_once")]
