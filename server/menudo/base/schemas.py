"""What is sent in, and what is answered."""

from datetime import date, time
from typing import Annotated, Any

import ninja
from ninja.schema import DjangoGetter
from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    ModelWrapValidatorHandler,
    ValidationInfo,
    WithJsonSchema,
    model_validator,
)
from pydantic_core import PydanticCustomError

# A day of the calendar. Bounded, so that a day before or after it is one, in whatever zone.
Day = Annotated[date, Field(ge=date(1971, 1, 1), le=date(9000, 12, 31))]


def _refuse_offset(at: time) -> time:
    if at.tzinfo is not None:
        raise PydanticCustomError("time_offset", "Write the time as the wall shows it, without an offset: 09:30.")
    return at


# What the clock on a wall shows: RFC 3339's partial-time. JSON Schema's "time" would have an offset; OpenAPI's registry of formats calls
# one without "time-local".
WallTime = Annotated[time, AfterValidator(_refuse_offset), WithJsonSchema({"type": "string", "format": "time-local"})]


class InputSchema(BaseModel):
    """A body that someone sends. What isn't asked for is refused, so that a slip in a name is told and not lost."""

    model_config = ConfigDict(extra="forbid")


class Schema(ninja.Schema):
    """What is answered. One that stands already is taken as it is, and named fields as they are named: Ninja would read each of
    them through a getter and build another, which takes longer than all the rest where there are hundreds."""

    @model_validator(mode="wrap")
    @classmethod
    def _run_root_validator(cls, values: Any, handler: ModelWrapValidatorHandler[Any], info: ValidationInfo) -> Any:
        if type(values) is cls:
            return values
        if type(values) is dict and not cls._ninja_resolvers:
            return handler(values)
        return handler(DjangoGetter(values, cls, info.context))
