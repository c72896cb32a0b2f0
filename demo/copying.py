"""Rows by the ten thousand, with PostgreSQL's COPY."""

from collections.abc import Iterable
from typing import Any

from django.db import connection, models
from psycopg.types.json import Jsonb


def next_id(model: type[models.Model]) -> int:
    """The first id that no row of the model has."""
    last = model._default_manager.order_by("-pk").values_list("pk", flat=True).first()
    return 1 if last is None else last + 1


def copy_rows(model: type[models.Model], fields: tuple[str, ...], rows: Iterable[tuple[Any, ...]]) -> int:
    """Copy rows of the named fields (`id` may be one; a foreign key by its column); every other field has its default.
    The rows may not ask the database: its connection is taken meanwhile. How many."""
    rest = [
        f for f in model._meta.concrete_fields if f.has_default() and not {f.name, f.attname} & set(fields)
    ]  # what the database would leave out has the model's default
    given = [next(f for f in model._meta.concrete_fields if name in (f.name, f.attname)) for name in fields]
    blank = [
        f for f in model._meta.concrete_fields if f not in (*given, *rest) and f.empty_strings_allowed and not f.null
    ]
    blank = [f for f in blank if isinstance(f, models.CharField | models.TextField)]
    columns = [*given, *rest, *blank]
    json = [isinstance(f, models.JSONField) for f in columns]
    tail = (*(f.get_default() for f in rest), *("" for _ in blank))
    count = 0
    quoted = ", ".join(f'"{f.column}"' for f in columns)
    with connection.cursor() as cursor:
        with cursor.copy(f'COPY "{model._meta.db_table}" ({quoted}) FROM STDIN') as copy:
            for row in rows:
                values = zip((*row, *tail), json, strict=True)
                copy.write_row([Jsonb(value) if is_json and value is not None else value for value, is_json in values])
                count += 1
        if "id" in fields:
            cursor.execute(
                "SELECT setval(pg_get_serial_sequence(%s, 'id'), greatest(max(id), 1)) FROM "
                f'"{model._meta.db_table}"',
                [model._meta.db_table],
            )
    return count
