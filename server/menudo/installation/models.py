"""Ways into an installation that no invitation of a brand's leads to."""

from django.conf import settings
from django.db import models
from django.db.models.functions import Now

from menudo.base import clock


class AccessLink(models.Model):
    """A one-time address, kept as a hash: for the first person (no `email`), for a new one, or, with `user`, for one who lost
    access. `grants_installation`: whether a new person will manage the installation."""

    token_hash = models.CharField(max_length=64, unique=True)
    email = models.EmailField(blank=True)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    grants_installation = models.BooleanField(default=False, db_default=False)
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
