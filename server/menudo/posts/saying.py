"""What a delivery says: its version, with placeholders filled in and links tagged."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime
from functools import cached_property
from zoneinfo import ZoneInfo

from menudo.base import clock
from menudo.library.models import LinkTags as Preset
from menudo.people.models import Brand
from menudo.posts.kept import content_of, own_of
from menudo.posts.models import Campaign, Delivery, Post, Version
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import Content, Own, inherit
from menudo_core.text.link_tags import LinkTags, tagged, tagged_text, values
from menudo_core.text.placeholders import fill, of_day


class Shared:
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


class Sayings:
    """The wordings of one post: versions and link tags are read once."""

    def __init__(self, shared: Shared, title: str, master: Content, campaign: Campaign | None = None) -> None:
        self._shared = shared
        self._title = title
        self._master = master
        self._campaign = campaign
        self._by_network: dict[str, Own] = {}
        self._by_profile: dict[int, Own] = {}

    @classmethod
    def of(cls, post: Post, brand: Brand) -> "Sayings":
        """Of a kept post, with its versions: one statement, and one more when links are tagged."""
        return cls.of_all(brand, [post])[post.pk]

    @classmethod
    def of_all(cls, brand: Brand, posts: Iterable[Post]) -> dict[int, "Sayings"]:
        """Of many kept posts of a brand, by id: one statement for all their versions. Their campaigns are read with them."""
        shared = Shared(brand)
        made = {
            post.pk: cls(shared, post.title, content_of(post.master), post.campaign if post.campaign_id else None)
            for post in posts
        }
        for version in Version.objects.filter(post__in=made):
            made[version.post_id].version(version.network, version.profile_id, own_of(version.own))
        return made

    def version(self, network: str, profile: int | None, own: Own) -> None:
        """A network's version, or the one of a profile that was split off."""
        if profile is None:
            self._by_network[network] = own
        else:
            self._by_profile[profile] = own

    def split_off(self, profile: int) -> bool:
        """Whether the profile has a version of its own, beside its network's."""
        return profile in self._by_profile

    def raw(self, network: str, profile: int | None) -> Content:
        """The version's content as it is written, placeholders and all."""
        own = self._by_profile.get(profile) if profile is not None else None
        return inherit(self._master, own or self._by_network.get(network) or Own())

    def said(self, network: str, profile: int | None, handle: str, day: date) -> Content:
        """The version's content as it goes out to a profile on a day."""
        content = self.raw(network, profile)
        known = {
            "brand": self._shared.brand.name, "network": self._shared.network_name(network), "profile": handle, "title": self._title,
            "campaign": self._campaign.name if self._campaign else "",
            "link": content.link, **of_day(day),
        }  # fmt: skip
        preset = self._preset(content.link_tags)
        if preset is not None:
            added = values(preset, {**known, "date": day.isoformat()})
            link = tagged(content.link, added, preset.keeps) if content.link.strip() else content.link
            known["link"] = link
            content = replace(content, link=link)
        filled = replace(
            content,
            text=fill(content.text, known),
            first_comment=fill(content.first_comment, known),
            link=fill(content.link, known),
            fields={key: fill(value, known) for key, value in content.fields.items()},
        )
        if preset is None or not preset.in_text:
            return filled
        return replace(
            filled,
            text=tagged_text(filled.text, added, preset.keeps),
            first_comment=tagged_text(filled.first_comment, added, preset.keeps),
        )

    def _preset(self, id: int | None) -> LinkTags | None:
        """The link tags chosen; None is the campaign's, 0 is none at all."""
        if id is None and self._campaign:
            id = self._campaign.link_tags_id
        if not id:
            return None
        return self._shared.presets.get(id)


def contents(post: Post, brand: Brand, deliveries: Iterable[Delivery]) -> dict[int, Content]:
    """What each delivery of a post says, by its id. Their profiles are read with them."""
    sayings = Sayings.of(post, brand)
    return {d.pk: said_by(sayings, d, d.profile, brand) for d in deliveries}


def said_by(sayings: Sayings, delivery: Delivery, profile: Profile, brand: Brand) -> Content:
    """What one delivery says on its own day."""
    return sayings.said(profile.network, profile.pk, profile.handle, day_of(delivery.wall, brand))


def content_for(delivery: Delivery) -> Content:
    """What one delivery says; its post, profile and brand are read with it."""
    return said_by(Sayings.of(delivery.post, delivery.brand), delivery, delivery.profile, delivery.brand)


def day_of(wall: datetime | None, brand: Brand) -> date:
    """The day a delivery goes out, in the zone it was meant in; today in the brand's zone while it has none."""
    return wall.date() if wall else clock.now().astimezone(ZoneInfo(brand.zone)).date()
