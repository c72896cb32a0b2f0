"""What posts say and where deliveries stand: as the database and the history keep it (JSON, rows), and as the core has it."""

from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from typing import Any

from menudo.posts.models import Delivery, Post, Version
from menudo_core.media.presentation import UNCHANGED, Box, MediaPresentation, Person
from menudo_core.networks.content import POST, Card, Content, Overrides, PostContent
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.schedule import Schedule, SendStep
from menudo_core.signoff.states import DeliveryState


def load_post_content(data: Mapping[str, Any]) -> PostContent:
    """All that a post says, from what the Bench sends or the history keeps: `title`, `master`, `versions` (network,
    profile, `overrides`; an earlier Menudo kept them as `own`), and where they are told `labels` and `campaign`. A
    network's version that has nothing of its own is none; one of a profile that was split off stands by itself."""
    versions = {
        (v["network"], v["profile"]): load_overrides(v["overrides"] if "overrides" in v else v["own"])
        for v in data["versions"]
    }
    return PostContent(
        title=data["title"].strip(),
        master=load_content(data["master"]),
        versions={
            key: overrides for key, overrides in versions.items() if overrides != Overrides() or key[1] is not None
        },
        labels=frozenset(data.get("labels", ())),
        campaign_id=data.get("campaign"),
    )


def store_post_content(content: PostContent) -> dict[str, Any]:
    """Title, master and versions, as the history keeps them."""
    versions = [
        {"network": network, "profile": profile, "overrides": store_overrides(overrides)}
        for (network, profile), overrides in sorted(
            content.versions.items(), key=lambda item: (item[0][0], item[0][1] or 0)
        )
    ]
    return {"title": content.title, "master": store_master(content.master), "versions": versions}


def load_post_contents(posts: Iterable[Post]) -> dict[int, PostContent]:
    """What each of the posts says, by id: two statements, however many there are."""
    rows = {post.pk: post for post in posts}
    versions: dict[int, dict[tuple[str, int | None], Overrides]] = {post_id: {} for post_id in rows}
    for version in Version.objects.filter(post__in=rows).order_by("pk"):
        versions[version.post_id][version.network, version.profile_id] = load_overrides(version.overrides)
    labels: dict[int, set[int]] = {post_id: set() for post_id in rows}
    for post, label in Post.labels.through.objects.filter(post__in=rows).values_list("post_id", "label_id"):
        labels[post].add(label)
    return {
        post_id: PostContent(
            post.title, load_content(post.master), versions[post_id], frozenset(labels[post_id]), post.campaign_id
        )
        for post_id, post in rows.items()
    }


def load_schedule(delivery: Delivery) -> Schedule:
    """Where a delivery's row says that it stands."""
    return Schedule(
        profile_id=delivery.profile_id,
        state=DeliveryState(delivery.state),
        due_at=delivery.due_at,
        wall_time=delivery.wall_time.replace(tzinfo=None) if delivery.wall_time else None,
        zone=delivery.zone,
        delay=delivery.delay,
        jitter=delivery.jitter,
        seed=delivery.seed,
        was_due=delivery.was_due,
        held_for=Hold(delivery.held_for) if delivery.held_for else None,
        not_before=delivery.not_before,
        tries=delivery.tries,
        reason=delivery.reason,
        reason_code=delivery.reason_code,
        step=SendStep(delivery.step),
    )


# What write_schedule writes of a row.
SCHEDULE_FIELDS = (
    "profile", "state", "due_at", "wall_time", "zone", "delay", "jitter", "seed", "was_due", "held_for", "not_before", "tries",
    "reason", "reason_code", "step",
)  # fmt: skip


def write_schedule(delivery: Delivery, schedule: Schedule) -> None:
    """Have a row in memory say where the delivery stands; its profile is set by whoever has it."""
    delivery.state = schedule.state
    delivery.due_at = schedule.due_at
    delivery.wall_time = schedule.wall_time.replace(tzinfo=UTC) if schedule.wall_time else None
    delivery.zone = schedule.zone
    delivery.delay, delivery.jitter, delivery.seed = schedule.delay, schedule.jitter, schedule.seed
    delivery.was_due, delivery.not_before = schedule.was_due, schedule.not_before
    delivery.held_for = schedule.held_for or ""
    delivery.tries, delivery.reason, delivery.reason_code = schedule.tries, schedule.reason, schedule.reason_code
    delivery.step = Delivery.Step(schedule.step.value)


def store_schedule(schedule: Schedule) -> dict[str, Any]:
    """What an undo puts back, as the history keeps it."""
    return {
        "state": schedule.state.value,
        "due_at": _store_instant(schedule.due_at),
        "wall": _store_instant(schedule.wall_time.replace(tzinfo=UTC) if schedule.wall_time else None),
        "zone": schedule.zone,
        "reason": schedule.reason,
        "reason_code": schedule.reason_code,
        "held_for": schedule.held_for or "",
        "delay": schedule.delay,
        "sway": schedule.jitter,
        "seed": schedule.seed,
        "was_due": _store_instant(schedule.was_due),
        "handed": schedule.in_hand,
    }


def load_stored_schedule(kept: Mapping[str, Any], present: Schedule) -> Schedule:
    """What an undo puts back in place of `present`; entries of earlier versions may lack some of it."""
    wall_time, held_for = _load_instant(kept["wall"]), kept.get("held_for", "")
    return Schedule(
        profile_id=kept.get("profile", present.profile_id),
        state=DeliveryState(kept["state"]),
        due_at=_load_instant(kept["due_at"]),
        wall_time=wall_time.replace(tzinfo=None) if wall_time else None,
        zone=kept["zone"],
        delay=kept.get("delay", 0),
        jitter=kept.get("sway", 0),
        seed=kept.get("seed"),
        was_due=_load_instant(kept.get("was_due")),
        held_for=Hold(held_for) if held_for else None,
        not_before=present.not_before,
        tries=present.tries,
        reason=kept["reason"],
        reason_code=kept["reason_code"],
        step=SendStep.HAND if kept.get("handed") else present.step,
    )


def _store_instant(instant: datetime | None) -> str | None:
    return instant.isoformat() if instant else None


def _load_instant(kept: str | None) -> datetime | None:
    return datetime.fromisoformat(kept) if kept else None


def load_content(raw: Mapping[str, Any]) -> Content:
    """A Content from what the database keeps."""
    return Content(
        text=raw.get("text", ""),
        media=tuple(raw.get("media", ())),
        link=raw.get("link", ""),
        first_comment=raw.get("first_comment", ""),
        fields=raw.get("fields", {}),
        form=raw.get("form") or POST,
        shown=_load_shown(raw),
        card=_load_card(raw),
        link_tags=raw.get("link_tags"),
    )


def load_overrides(raw: Mapping[str, Any]) -> Overrides:
    """Overrides from what the database keeps: what isn't there is inherited."""
    media = raw.get("media")
    return Overrides(
        text=raw.get("text"),
        media=None if media is None else tuple(media),
        link=raw.get("link"),
        first_comment=raw.get("first_comment"),
        fields=raw.get("fields", {}),
        form=raw.get("form"),
        shown=_load_shown(raw),
        card=_load_card(raw),
        link_tags=raw.get("link_tags"),
    )


def _load_card(raw: Mapping[str, Any]) -> Card | None:
    card = raw.get("card")
    return Card(card.get("title", ""), card.get("description", ""), card.get("picture")) if card else None


def _load_shown(raw: Mapping[str, Any]) -> dict[int, MediaPresentation]:
    found = {int(asset): load_presentation(one) for asset, one in (raw.get("shown") or {}).items()}
    return {asset: showing for asset, showing in found.items() if showing != UNCHANGED}


def load_presentation(raw: Mapping[str, Any]) -> MediaPresentation:
    crop, focus, people = raw.get("crop"), raw.get("focus"), raw.get("people")
    return MediaPresentation(
        turn=raw.get("turn"),
        crop=Box(crop["x"], crop["y"], crop["w"], crop["h"]) if crop else None,
        focus=(focus["x"], focus["y"]) if focus else None,
        fit=raw.get("fit"),
        words=raw.get("words"),
        words_at=raw.get("words_at"),
        people=None if people is None else tuple(Person(p["who"], p["x"], p["y"]) for p in people),
        cover=raw.get("cover"),
        cover_at=raw.get("cover_at"),
    )


def store_presentation(showing: MediaPresentation) -> dict[str, Any]:
    """What is said of a showing; what isn't said is left out."""
    values: dict[str, Any] = {
        "turn": showing.turn,
        "crop": store_box(showing.crop) if showing.crop else None,
        "focus": {"x": showing.focus[0], "y": showing.focus[1]} if showing.focus else None,
        "fit": showing.fit,
        "words": showing.words,
        "words_at": showing.words_at,
        "people": None if showing.people is None else [store_person(p) for p in showing.people],
        "cover": showing.cover,
        "cover_at": showing.cover_at,
    }
    return {name: value for name, value in values.items() if value is not None}


def store_box(box: Box) -> dict[str, float]:
    return {"x": box.x, "y": box.y, "w": box.w, "h": box.h}


def store_person(person: Person) -> dict[str, Any]:
    return {"who": person.who, "x": person.x, "y": person.y}


def store_card(card: Card | None) -> dict[str, Any] | None:
    return {"title": card.title, "description": card.description, "picture": card.picture} if card else None


def store_master(content: Content) -> dict[str, Any]:
    """A post's master as the database keeps it: a card and link tags only where there are any."""
    values = {
        "text": content.text,
        "media": list(content.media),
        "link": content.link,
        "first_comment": content.first_comment,
        "fields": dict(content.fields),
        "shown": {str(asset): store_presentation(s) for asset, s in content.shown.items()},
    }
    more = {"card": store_card(content.card), "link_tags": content.link_tags}
    return {**values, **{name: value for name, value in more.items() if value is not None}}


def store_overrides(overrides: Overrides) -> dict[str, Any]:
    """Overrides as the database keeps it: only what is said."""
    values = {
        "text": overrides.text,
        "media": None if overrides.media is None else list(overrides.media),
        "link": overrides.link,
        "first_comment": overrides.first_comment,
        "fields": dict(overrides.fields) or None,
        "form": overrides.form,
        "shown": {str(asset): store_presentation(s) for asset, s in overrides.shown.items()} or None,
        "card": store_card(overrides.card),
        "link_tags": overrides.link_tags,
    }
    return {name: value for name, value in values.items() if value is not None}


def store_content(content: Content) -> dict[str, Any]:
    """What the database keeps of a content that went out."""
    return {
        "text": content.text,
        "media": list(content.media),
        "link": content.link,
        "first_comment": content.first_comment,
        "fields": dict(content.fields),
        "form": content.form,
        "shown": {str(asset): store_presentation(s) for asset, s in content.shown.items() if asset in content.media},
        "card": store_card(content.card),
    }


def asset_ids_in(raw: Mapping[str, Any]) -> set[int]:
    """Every asset that a kept master or version uses: its media, thumbnails, its card's picture."""
    found = {*(raw.get("media") or ())}
    found |= {one["cover"] for one in (raw.get("shown") or {}).values() if one.get("cover")}
    card = raw.get("card") or {}
    return found | ({card["picture"]} if card.get("picture") else set())
