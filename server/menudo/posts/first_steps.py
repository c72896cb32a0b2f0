"""How far a new brand has come on its way to a first post."""

from pydantic import Field

from menudo.base.schemas import Schema
from menudo.brandsheet.completeness import filled_parts
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.schemas import SheetIO
from menudo.people.context import BrandContext
from menudo.posts.models import Post
from menudo.profiles.models import Profile, Slot


class FirstSteps(Schema):
    """Which steps are done. Each can be left for later."""

    sheet: bool = Field(description="the brand sheet says something")
    profiles: bool = Field(description="a profile is connected, or added by hand")
    timetable: bool = Field(description="a profile has a slot")
    post: bool = Field(description="a post was begun")


def first_steps_for(context: BrandContext) -> FirstSteps:
    """The brand's steps: four statements."""
    profiles = Profile.objects.filter(brand=context.brand).exclude(state=Profile.State.DISCONNECTED)
    return FirstSteps(
        sheet=any(filled_parts(SheetIO(**row.values)) for row in BrandSheet.objects.filter(brand=context.brand)),
        profiles=profiles.exists(),
        timetable=Slot.objects.filter(profile__in=profiles).exists(),
        post=Post.objects.filter(brand=context.brand, deleted_at=None).exists(),
    )
