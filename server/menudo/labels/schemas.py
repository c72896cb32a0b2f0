"""Labels as they are sent and shown."""

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema


class PostLabelIn(InputSchema):
    name: str = Field(max_length=40)
    ink: str = Field(max_length=12, description="one of the twelve inks")


class PostLabelOut(Schema):
    id: int
    name: str
    ink: str
