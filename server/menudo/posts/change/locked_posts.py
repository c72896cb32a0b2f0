"""The rows that a change has taken, and what is read of them once."""

from collections.abc import Collection, Mapping, Sequence
from functools import cached_property

from menudo.people.models import Brand
from menudo.posts.change.content import write_contents
from menudo.posts.models import Campaign, Delivery, Post
from menudo.posts.rendering import PostRenderer, RenderContext
from menudo.posts.serializers import load_post_contents
from menudo.posts.serializers_schedule import load_schedule
from menudo.profiles.models import Profile
from menudo.profiles.pauses import Pauses, pauses_of
from menudo_core.networks.content import PostContent
from menudo_core.signoff.schedule import Schedule


class LockedPosts:
    """Posts and all their deliveries, locked, by id. `by`: the person by whose doing something changes, who isn't told of
    it. `schedules_before`: where deliveries stood when they were taken; `dated_before`: the posts of which something had a date then."""

    def __init__(self, brand: Brand, by: int | None) -> None:
        self.brand, self.by = brand, by
        self.posts: dict[int, Post] = {}
        self.deliveries: dict[int, Delivery] = {}
        self._of_post: dict[int, list[int]] = {}
        self.schedules_before: dict[int, Schedule] = {}
        self.dated_before: set[int] = set()
        self._contents: dict[int, PostContent] = {}
        self._renderers: dict[int, PostRenderer] = {}

    def load(self, ids: Sequence[int]) -> None:
        """Read posts that are locked, and their deliveries; and what the brand's rules of sign-off are by now, since whoever
        changes them waits for these locks, or was waited for."""
        self.brand.refresh_from_db(fields=["needs_signoff", "signoff_on_move", "earlier_signoff_counts"])
        self.add(Post.objects.filter(pk__in=ids).select_related("campaign").order_by("pk"))
        self.load_deliveries(ids)

    def add(self, posts: Collection[Post]) -> None:
        """Posts that are locked, or were made just now."""
        for post in posts:
            post.brand = self.brand
            self.posts[post.pk] = post

    def load_deliveries(self, posts: Sequence[int]) -> None:
        """Read the posts' deliveries; what was sent is left out until somebody asks."""
        rows = Delivery.objects.filter(post__in=posts).defer("sent_content", "attempted_content").order_by("pk")
        self._of_post |= {post_id: [] for post_id in posts}
        for row in rows.prefetch_related("profile"):
            row.post, row.brand = self.posts[row.post_id], self.brand
            self.deliveries[row.pk] = row
            self._of_post[row.post_id].append(row.pk)
            self.schedules_before.setdefault(row.pk, load_schedule(row))
            if row.due_at:
                self.dated_before.add(row.post_id)

    def drop_deliveries(self, ids: Collection[int]) -> None:
        """Forget deliveries that were deleted."""
        for delivery_id in ids:
            row = self.deliveries.pop(delivery_id)
            self._of_post[row.post_id].remove(delivery_id)

    def deliveries_of(self, post: int) -> list[Delivery]:
        """A post's deliveries, in the order in which they were made."""
        return [self.deliveries[delivery_id] for delivery_id in self._of_post[post]]

    @property
    def contents(self) -> Mapping[int, PostContent]:
        """What each post says, read when it is first asked for: two statements for all."""
        missing = [post for post_id, post in self.posts.items() if post_id not in self._contents]
        if missing:
            self._contents |= load_post_contents(missing)
        return self._contents

    @property
    def renderers(self) -> Mapping[int, PostRenderer]:
        """What each post says as it goes out."""
        contents = self.contents
        for post_id, post in self.posts.items():
            known = self._renderers.get(post_id)
            if known is None or known.content is not contents[post_id]:
                self._renderers[post_id] = PostRenderer(
                    self._shared, contents[post_id], self._campaign(post, contents[post_id])
                )
        return self._renderers

    def write_contents(self, after: Mapping[int, PostContent]) -> None:
        """What posts say from now on."""
        write_contents(self.posts, self.contents, after)
        self._contents |= after

    def write_new_contents(self, after: Mapping[int, PostContent]) -> None:
        """The same of posts that were made just now: their own rows say it already."""
        bare = {
            post_id: PostContent(content.title, content.master, campaign_id=content.campaign_id)
            for post_id, content in after.items()
        }
        write_contents(self.posts, bare, after)
        self._contents |= after

    def profile(self, profile_id: int) -> Profile:
        """One of the brand's profiles."""
        if profile_id not in self._profiles:
            self._profiles[profile_id] = Profile.objects.select_related("connection").get(
                pk=profile_id, brand=self.brand
            )
        return self._profiles[profile_id]

    @cached_property
    def pauses(self) -> Pauses:
        return pauses_of([self.brand.pk])

    @cached_property
    def _shared(self) -> RenderContext:
        return RenderContext(self.brand)

    @cached_property
    def _profiles(self) -> dict[int, Profile]:
        return {}

    @cached_property
    def _campaigns(self) -> dict[int, Campaign]:
        return {campaign.pk: campaign for campaign in Campaign.objects.filter(brand=self.brand)}

    def _campaign(self, post: Post, content: PostContent) -> Campaign | None:
        if content.campaign_id is None:
            return None
        known = post.campaign if "campaign" in post._state.fields_cache else None
        return (
            known if known is not None and known.pk == content.campaign_id else self._campaigns.get(content.campaign_id)
        )
