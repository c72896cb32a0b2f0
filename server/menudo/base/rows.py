"""Rows that somebody asks for by name, and many rows written in one statement."""

from collections.abc import Iterable, Sequence
from typing import Any, TypeVar

from django.db import connection
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.models import BigIntegerField, BooleanField, F, Field, Func, Model, QuerySet
from django.db.models.sql.compiler import SQLCompiler

from menudo.base.problems import NotFoundError

Row = TypeVar("Row", bound=Model)


def first_or_404(rows: QuerySet[Row]) -> Row:
    """The first of them. Raises NotFoundError where there is none: what isn't there can't be told from what isn't one's own."""
    found = rows.first()
    if found is None:
        raise NotFoundError()
    return found


class AnyOf(Func):
    """A condition: the field is one of these ids. They go as one array, where `__in` makes a parameter of each, which takes longer to
    prepare than to find them once there are hundreds."""

    output_field = BooleanField()

    def __init__(self, field: str, ids: Iterable[int]) -> None:
        super().__init__(F(field))
        self._ids = list(ids)

    def as_sql(self, compiler: SQLCompiler, connection: BaseDatabaseWrapper, *_: Any, **__: Any) -> tuple[str, Any]:
        sql, params = compiler.compile(self.get_source_expressions()[0])
        return f"{sql} = ANY(%s::bigint[])", [*params, self._ids]


class PlainInteger(Func):
    """A whole number that the database answers as one: Django would make a number of each once more, by a call for each row."""

    output_field = BigIntegerField()

    def get_db_converters(self, connection: BaseDatabaseWrapper) -> list[Any]:
        return []


class EpochMicroseconds(PlainInteger):
    """A time as microseconds since 1970 (UTC): to read thousands of them as such takes a tenth of reading them as datetimes."""

    template = "(EXTRACT(EPOCH FROM %(expressions)s) * 1000000)::bigint"


def write_fields(rows: Sequence[Model], names: Sequence[str]) -> None:
    """Write these fields of each row as they stand in memory: one UPDATE from arrays, however many rows there are.

    Django's bulk_update says the same with a CASE for each row and field, which takes seconds for thousands.
    """
    if not rows:
        return
    model = type(rows[0])
    fields = [model._meta.pk, *(model._meta.get_field(name) for name in names)]
    columns = [_column_values(field, rows) for field in fields]
    arrays = ", ".join(f"unnest(%s::{kind}[]) AS {name}" for name, kind, _ in columns)
    sets = ", ".join(f"{name} = given.{name}" for name, _, _ in columns[1:])
    key, table = columns[0][0], connection.ops.quote_name(model._meta.db_table)
    with connection.cursor() as cursor:
        cursor.execute(
            f"UPDATE {table} AS kept SET {sets} FROM (SELECT {arrays}) AS given WHERE kept.{key} = given.{key}",  # noqa: S608
            [values for _, _, values in columns],
        )


def _column_values(field: Any, rows: Sequence[Model]) -> tuple[str, str, list[Any]]:
    """The column's name and type, and each row's value as the database takes it."""
    assert isinstance(field, Field)
    kind = str(field.rel_db_type(connection) if field.primary_key else field.db_type(connection)).split("(")[0]
    values = [field.get_db_prep_save(getattr(row, field.attname), connection) for row in rows]
    return connection.ops.quote_name(str(field.column)), kind, values
