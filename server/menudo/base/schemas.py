"""What is sent in."""

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

# A day of the calendar. Bounded, so that a day before or after it is one, in whatever zone.
Day = Annotated[date, Field(ge=date(1971, 1, 1), le=date(9000, 12, 31))]


class InputSchema(BaseModel):
    """A body that someone sends. What isn't asked for is refused, so that a slip in a name is told and not lost."""

    model_config = ConfigDict(extra="forbid")
