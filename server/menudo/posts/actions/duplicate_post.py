"""Make a copy of a post: wording, versions and profiles; its times too when wished."""

from dataclasses import replace

from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import load_content, store_post_content
from menudo.profiles.models import Profile
from menudo_core.networks.content import PostContent
from menudo_core.signoff.schedule import Schedule
from menudo_core.text.lines import first_line


def duplicate_post(context: BrandContext, post: Post, times: bool) -> Post:
    """A new draft of the person's own, for the same profiles as far as they are connected still.

    With `times` each delivery keeps the wall time of the one it was copied from, unplanned, so that planning it there
    is one step and never happens by itself.
    """
    context.require(Capability.WRITE)
    with change_posts(context, posts=[post.pk]) as change:
        original = change.post(post.pk)
        there = [d for d in change.deliveries_of(original) if d.profile.state != Profile.State.DISCONNECTED]
        content = copy_content(change.content(original))
        content = replace(content, title=content.title and f"{content.title} (copy)"[:200])
        [copy] = change.create([NewPost(content, [d.profile_id for d in there], context.user)])
        kept = {d.profile_id: change.schedule(d) for d in there}
        timed = {
            d.pk: _with_time_of(change.schedule(d), kept[d.profile_id]) for d in change.deliveries_of(copy) if times
        }
        change.apply(Decision(schedules=timed))
        name = first_line(original.title or load_content(original.master).text)
        change.record(
            "make",
            "post",
            copy.pk,
            say("post.copied", post=name[:80]),
            before={"of": post.pk},
            after=store_post_content(content),
        )
    return copy


def copy_content(content: PostContent) -> PostContent:
    """What a copy says: all of it, but versions of profiles that are disconnected."""
    split = {profile for _, profile in content.versions if profile is not None}
    gone = set(
        Profile.objects.filter(pk__in=split, state=Profile.State.DISCONNECTED).values_list("pk", flat=True)
        if split
        else ()
    )
    return replace(
        content, versions={key: overrides for key, overrides in content.versions.items() if key[1] not in gone}
    )


def _with_time_of(schedule: Schedule, original: Schedule) -> Schedule:
    return replace(schedule, due_at=original.due_at, wall_time=original.wall_time, zone=original.zone)
