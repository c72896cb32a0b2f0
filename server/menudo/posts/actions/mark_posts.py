"""Put labels on posts and take them off, and gather posts in a campaign: one or many at once."""

from collections.abc import Sequence
from dataclasses import replace

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.labels.models import Label
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.save_campaign import campaign_of
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts


def mark_posts(
    context: BrandContext,
    posts: Sequence[int],
    put: Sequence[int],
    off: Sequence[int],
    campaign: int | None,
    changes: bool,
) -> int:
    """Labels `put` and taken `off`; `changes` says whether the campaign is set (to none, with None). How many posts.

    Wording stays as it is; a rule of sign-off may ask for what has a label now. Raises InvalidError for what isn't the brand's, NotFoundError for a campaign.
    """
    context.require(Capability.WRITE)
    known = set(Label.objects.filter(brand=context.brand, pk__in=[*put, *off]).values_list("pk", flat=True))
    if foreign := [i for i, label_id in enumerate(put) if label_id not in known]:
        raise InvalidError.at(f"/add/{foreign[0]}", say("label.foreign"))
    gathered = campaign_of(context, campaign) if changes and campaign is not None else None
    with change_posts(context, posts=posts) as change:
        mine = [
            post
            for post in change.posts.values()
            if Capability.EDIT_OTHERS in context.capabilities or post.author_id == context.user.pk
        ]
        if not mine:
            raise InvalidError.at("/posts", say("post.none_yours"))
        contents = {}
        for post in mine:
            content = change.content(post)
            labels = (content.labels - {*off}) | {*put}
            campaign_id = (gathered.pk if gathered else None) if changes else content.campaign_id
            contents[post.pk] = replace(content, labels=labels, campaign_id=campaign_id)
        change.apply(Decision(contents=contents))
        for post in mine:
            change.record("mark", "post", post.pk, say("post.marked"), join=True)
    return len(mine)
