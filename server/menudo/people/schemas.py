from ninja import Schema

from menudo.base.schemas import In


class BrandOut(Schema):
    slug: str
    name: str
    zone: str
    ink: str
    role: str
    capabilities: list[str]
    needs_signoff: bool


class MeOut(Schema):
    id: int
    name: str
    email: str
    clock24: bool
    brands: list[BrandOut]


class MeIn(In):
    clock24: bool
