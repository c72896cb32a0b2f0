"""The plan as CSV: a row for each delivery, with its own wording, in the columns that can be brought in again."""

from datetime import date, datetime, time

from menudo.calendar.narrow import Narrow
from menudo.calendar.reads import on_calendar
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.posts.kept import content_of, own_of
from menudo.posts.models import Delivery, Version
from menudo_core.networks.content import Content, Own, inherit
from menudo_core.plans.out import written
from menudo_core.timing.walltimes import day_bounds

HEADER = (
    "date", "time", "zone", "profiles", "text", "media", "link", "labels", "kind", "title", "first comment", "campaign",
    "state", "published at",
)  # fmt: skip


def planned(place: Here, first: date, days: int, narrow: Narrow) -> list[tuple[Delivery, Content]]:
    """Every delivery of the window that the filter leaves, with its wording, earliest first: four statements.

    The wording is as its version has it, placeholders and all, or as it was sent.
    """
    start, end = day_bounds(datetime.combine(first, time()), place.zone, days)
    rows = narrow.of_deliveries(on_calendar(start, end).filter(brand=place.brand), place)
    found = list(rows.select_related("post__campaign", "profile").prefetch_related("post__labels"))
    owns: dict[tuple[int, str, int | None], Own] = {
        (post, network, profile): own_of(own)
        for post, network, profile, own in Version.objects.filter(post__in={d.post_id for d in found}).values_list(
            "post_id", "network", "profile_id", "own"
        )
    }
    said = []
    for d in found:
        network = d.profile.network
        own = owns.get((d.post_id, network, d.profile_id)) or owns.get((d.post_id, network, None)) or Own()
        said.append((d, content_of(d.sent) if d.sent else inherit(content_of(d.post.master), own)))
    return said


def plan_csv(place: Here, first: date, days: int, narrow: Narrow) -> bytes:
    """The same as CSV; UTF-8, safe from formulas. `state` and `published at` are told, and passed over when the file is
    brought in: one statement more."""
    said = planned(place, first, days, narrow)
    used = {asset for _, content in said for asset in content.media}
    names = dict(Asset.objects.filter(brand=place.brand, pk__in=used).values_list("pk", "name"))
    return written(
        HEADER,
        [
            [
                f"{d.wall:%Y-%m-%d}" if d.wall else "", f"{d.wall:%H:%M}" if d.wall else "", d.zone, d.profile.handle,
                content.text, "; ".join(names.get(asset, "") for asset in content.media), content.link,
                "; ".join(label.name for label in d.post.labels.all()), content.form, d.post.title,
                content.first_comment, d.post.campaign.name if d.post.campaign else "", d.state.replace("_", " "),
                d.remote_url,
            ]
            for d, content in said
        ],
    )  # fmt: skip
