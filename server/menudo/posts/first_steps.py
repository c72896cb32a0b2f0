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
    """Which steps are done. Each can be left for later."""

    sheet: bool = Field(description="the brand sheet says something")
    profiles: bool = Field(description="a profile is connected, or added by hand")
    timetable: bool = Field(description="a profile has a slot")
    post: bool = Field(description="a post was begun")


def first_steps_for(place: Here) -> FirstSteps:
    """The brand's steps: four statements."""
    profiles = Profile.objects.filter(brand=place.brand).exclude(state=Profile.State.DISCONNECTED)
    return FirstSteps(
        sheet=any(filled(SheetIO(**row.said)) for row in BrandSheet.objects.filter(brand=place.brand)),
        profiles=profiles.exists(),
        timetable=Slot.objects.filter(profile__in=profiles).exists(),
        post=Post.objects.filter(brand=place.brand, binned=None).exists(),
    )
