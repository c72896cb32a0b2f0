"""What a delivery says: its version, with placeholders filled in and links tagged."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime
from functools import cached_property
from zoneinfo import ZoneInfo

from menudo.base import clock
from menudo.library.models import LinkTags as Preset
from menudo.people.models import Brand
from menudo.posts.models import Campaign, Delivery, Post
from menudo.posts.serializers import load_post_contents
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import Content, PostContent
from menudo_core.text.link_tags import LinkTags, tag_link, tag_links_in, utm_values
from menudo_core.text.placeholders import day_values, fill_placeholders


class RenderContext:
    """What the wordings of all posts of a brand share, each read once and when it is first asked for."""

    def __init__(self, brand: Brand) -> None:
        self.brand = brand
        self._names: dict[str, str] = {}

    @cached_property
    def presets(self) -> dict[int, LinkTags]:
        """The brand's link tags by id."""
        return {p.pk: p.tags for p in Preset.objects.filter(brand=self.brand)}

    def network_name(self, network: str) -> str:
        if network not in self._names:
            self._names[network] = sheet_for(self.brand.pk, network).name
        return self._names[network]


class PostRenderer:
    """What one post says as it goes out, of what is written. Link tags are read once, and only where links are tagged."""

    def __init__(self, shared: RenderContext, content: PostContent, campaign: Campaign | None = None) -> None:
        self._shared = shared
        self._campaign = campaign
        self.content = content

    @classmethod
    def for_post(cls, post: Post, brand: Brand) -> "PostRenderer":
        """Of a kept post, with its versions and labels."""
        return cls.for_posts(brand, [post])[post.pk]

    @classmethod
    def for_posts(cls, brand: Brand, posts: Iterable[Post]) -> dict[int, "PostRenderer"]:
        """Of many kept posts of a brand, by id: two statements. Their campaigns are read with them."""
        rows = {post.pk: post for post in posts}
        shared, contents = RenderContext(brand), load_post_contents(rows.values())
        return {
            post_id: cls(shared, contents[post_id], post.campaign if post.campaign_id else None)
            for post_id, post in rows.items()
        }

    def has_own_version(self, profile: int) -> bool:
        """Whether the profile has a version of its own, beside its network's."""
        return any(version_profile == profile for _, version_profile in self.content.versions)

    def version(self, network: str, profile: int | None) -> Content:
        """The version's content as it is written, placeholders and all."""
        return self.content.version(network, profile)

    def render(self, network: str, profile: int | None, handle: str, day: date) -> Content:
        """The version's content as it goes out to a profile on a day."""
        content = self.version(network, profile)
        known = {
            "brand": self._shared.brand.name,
            "network": self._shared.network_name(network),
            "profile": handle,
            "title": self.content.title,
            "campaign": self._campaign.name if self._campaign else "",
            "link": content.link,
            **day_values(day),
        }
        preset = self._link_tags(content.link_tags)
        if preset is not None:
            added = utm_values(preset, {**known, "date": day.isoformat()})
            link = tag_link(content.link, added, preset.keeps) if content.link.strip() else content.link
            known["link"] = link
            content = replace(content, link=link)
        filled = replace(
            content,
            text=fill_placeholders(content.text, known),
            first_comment=fill_placeholders(content.first_comment, known),
            link=fill_placeholders(content.link, known),
            fields={key: fill_placeholders(value, known) for key, value in content.fields.items()},
        )
        if preset is None or not preset.in_text:
            return filled
        return replace(
            filled,
            text=tag_links_in(filled.text, added, preset.keeps),
            first_comment=tag_links_in(filled.first_comment, added, preset.keeps),
        )

    def _link_tags(self, preset_id: int | None) -> LinkTags | None:
        """The link tags chosen; None is the campaign's, 0 is none at all."""
        if preset_id is None and self._campaign:
            preset_id = self._campaign.link_tags_id
        if not preset_id:
            return None
        return self._shared.presets.get(preset_id)


def render_deliveries(post: Post, brand: Brand, deliveries: Iterable[Delivery]) -> dict[int, Content]:
    """What each delivery of a post says, by its id. Their profiles are read with them."""
    renderer = PostRenderer.for_post(post, brand)
    return {d.pk: render_delivery(renderer, d, d.profile, brand) for d in deliveries}


def render_delivery(renderer: PostRenderer, delivery: Delivery, profile: Profile, brand: Brand) -> Content:
    """What one delivery says on its own day."""
    return renderer.render(profile.network, profile.pk, profile.handle, delivery_day(delivery.wall_time, brand))


def render_for(delivery: Delivery) -> Content:
    """What one delivery says; its post, profile and brand are read with it."""
    return render_delivery(
        PostRenderer.for_post(delivery.post, delivery.brand), delivery, delivery.profile, delivery.brand
    )


def delivery_day(wall_time: datetime | None, brand: Brand) -> date:
    """The day a delivery goes out, in the zone it was meant in; today in the brand's zone while it has none."""
    return wall_time.date() if wall_time else clock.now().astimezone(ZoneInfo(brand.zone)).date()
