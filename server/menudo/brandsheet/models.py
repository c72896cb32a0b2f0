"""The brand sheet: what a brand is and how it speaks."""

from django.db import models

from menudo.people.models import Brand


class BrandSheet(models.Model):
    """One for each brand, made when it is first written. `values` is as brandsheet/schemas.py has it."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, related_name="sheet")
    values = models.JSONField(default=dict)
    revision = models.PositiveIntegerField(default=1)
