"""Catalogues as they are sent and shown."""

from datetime import date, datetime
from decimal import Decimal
from typing import Annotated

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo_core.catalogue.events import Availability, EventKind, FieldChange

Column = Annotated[str, Field(max_length=200)]
Named = Annotated[str, Field(pattern="^(key|title|price|currency|standing|open_day|link|picture|about)$")]


class CustomRuleIO(InputSchema):
    """An event of the brand's own: when this field changes, becomes a value, falls or rises."""

    name: str = Field(max_length=60)
    field: Column
    change: FieldChange = FieldChange.CHANGES
    value: str = Field(default="", max_length=200)


class CatalogueIn(InputSchema):
    """`mapping` says which column is which field. Without an address it is brought as files."""

    name: str = Field(max_length=80)
    address: str = Field(default="", max_length=1000)
    mapping: dict[Named, Column] = Field(default={}, max_length=20)
    currency: str = Field(default="", max_length=3, pattern="^[A-Za-z]{0,3}$", description="where a row says none")
    rules: list[CustomRuleIO] = Field(default=[], max_length=20)
    interval_minutes: int = 60


class InspectIn(InputSchema):
    address: str = Field(max_length=1000)
    mapping: dict[Named, Column] | None = Field(default=None, max_length=20, description="null: as it is guessed")


class ReadRowOut(Schema):
    """A row as it would be understood."""

    key: str
    title: str
    price: str
    availability: Availability
    open_day: date | None
    link: str
    picture: str
    faults: list[str]


class InspectionOut(Schema):
    columns: list[str]
    mapping: dict[str, str]
    count: int
    rows: list[ReadRowOut]


class CatalogueOut(Schema):
    id: int
    revision: int
    name: str
    address: str
    mapping: dict[str, str]
    currency: str
    rules: list[CustomRuleIO]
    interval_minutes: int
    read_at: datetime | None
    next_at: datetime | None
    last_error: str
    items: int


class CatalogueEventOut(Schema):
    id: int
    item: int
    kind: EventKind
    event: str
    title: str
    price: str
    before: str
    occurred_at: datetime


class CatalogueItemOut(Schema):
    id: int
    key: str
    title: str
    price: str
    availability: Availability
    open_day: date | None
    link: str
    picture: str
    asset: int | None
    more: dict[str, str]


class CataloguePage(Schema):
    catalogue: CatalogueOut
    items: list[CatalogueItemOut]
    count: int
    events: list[CatalogueEventOut]


class CatalogueEventIn(InputSchema):
    """`price` is the new one, of a lowered price; `open_day` of an open day; `name` of an event of the brand's own."""

    kind: EventKind
    price: Decimal | None = Field(default=None, ge=0, max_digits=14, decimal_places=2)
    open_day: date | None = None
    name: str = Field(default="", max_length=60)


class CatalogueImportedOut(Schema):
    events: int


class CatalogueFormIn(Schema):
    settings: str = Field(max_length=50_000, description="a CatalogueIn as JSON")


class LookFormIn(Schema):
    settings: str = Field(default="", max_length=10_000, description="an InspectIn as JSON; empty: as it is guessed")
