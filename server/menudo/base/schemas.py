"""What is sent in."""

from pydantic import BaseModel, ConfigDict


class In(BaseModel):
    """A body that someone sends. What isn't asked for is refused, so that a slip in a name is told and not lost."""

    model_config = ConfigDict(extra="forbid")
