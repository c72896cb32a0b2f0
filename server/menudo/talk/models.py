"""What people say to each other at a post, and who must do what with it by when."""

from django.contrib.postgres.fields import ArrayField
from django.db import models

from menudo.people.models import User
from menudo.posts.models import Post


class Remark(models.Model):
    """One remark, in order of `created_at`. `network` (and `profile_id`) and `field` say what it is on; empty: the whole post.

    `user` None: a client by link, called `name`. `mentions` are the people it names.
    """

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="remarks")
    user = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=300)
    text = models.TextField()
    network = models.CharField(max_length=32, blank=True)
    profile_id = models.BigIntegerField(null=True)
    field = models.CharField(max_length=32, blank=True)
    shared = models.BooleanField(default=False, db_default=False, help_text="whether clients by link see it")
    mentions = ArrayField(models.BigIntegerField(), default=list)
    created_at = models.DateTimeField()
    edited_at = models.DateTimeField(null=True)
    resolved_at = models.DateTimeField(null=True)
    resolved_by = models.CharField(max_length=120, blank=True)

    class Meta:
        ordering = ["created_at", "pk"]


class Task(models.Model):
    """What somebody was asked to do with a post, until when (an instant; None: no hurry)."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="tasks")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="tasks")
    assigned_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    summary = models.CharField(max_length=200, blank=True)
    due_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField()
    done_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["due_at", "pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["post", "user"], condition=models.Q(done_at=None), name="one_open_task_for_a_post_and_person"
            )
        ]
        indexes = [models.Index(fields=["user"], condition=models.Q(done_at=None), name="task_open")]
