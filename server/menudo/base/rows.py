"""Rows that somebody asks for by name."""

from typing import TypeVar

from django.db.models import Model, QuerySet

from menudo.base.problems import NotFound

Row = TypeVar("Row", bound=Model)


def the_one(rows: QuerySet[Row]) -> Row:
    """The first of them. Raises NotFound where there is none: what isn't there can't be told from what isn't one's own."""
    found = rows.first()
    if found is None:
        raise NotFound()
    return found
