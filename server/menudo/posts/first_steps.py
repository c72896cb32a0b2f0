"""How far a new brand has come on its way to a first post."""

from ninja import Schema
from pydantic import Field

from menudo.brandsheet.filled import filled
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.schemas import SheetIO
from menudo.people.here import Here
from menudo.posts.models import Post
from menudo.profiles.models import Profile, Slot


class FirstSteps(Schema):
    """What is there of each. All of it can be left for later."""

    sheet: bool = Field(description="whether the brand sheet says anything")
    profiles: int
    slots: int = Field(description="in all timetables together")
    posts: int


def steps_of(place: Here) -> FirstSteps:
    """Four statements."""
    profiles = Profile.objects.filter(brand=place.brand).exclude(state=Profile.State.DISCONNECTED)
    return FirstSteps(
        sheet=any(filled(SheetIO(**row.said)) for row in BrandSheet.objects.filter(brand=place.brand)),
        profiles=profiles.count(),
        slots=Slot.objects.filter(profile__in=profiles).count(),
        posts=Post.objects.filter(brand=place.brand, binned=None).count(),
    )
