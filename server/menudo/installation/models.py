"""Ways into an installation that no invitation of a brand's leads to."""

from django.conf import settings
from django.db import models
from django.db.models.functions import Now

from menudo.base import clock


class WayIn(models.Model):
    """A one-time address, kept as a hash: for the first person (no `email`), for a new one, or, with `user`, for one who lost
    access. `manages`: whether a new person will manage the installation."""

    token_hash = models.CharField(max_length=64, unique=True)
    email = models.EmailField(blank=True)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    manages = models.BooleanField(default=False, db_default=False)
    made = models.DateTimeField(default=clock.now, db_default=Now())
    ends = models.DateTimeField()
    used = models.DateTimeField(null=True)
