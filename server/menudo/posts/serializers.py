"""What posts say: as the database and the history keep it (JSON, rows), and as the core has it."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import Any

from menudo.posts.models import Post, Version
from menudo.posts.sent_content import SentContent
from menudo_core.media.presentation import UNCHANGED, Box, MediaPresentation, Person
from menudo_core.networks.content import POST, Card, Content, Overrides, PostContent


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


def store_sent_content(sent: SentContent) -> dict[str, Any]:
    """What went out, as its delivery keeps it."""
    values: dict[str, Any] = {
        **store_content(sent.content),
        "hashes": {str(pk): one for pk, one in sent.hashes.items()},
    }
    return {**values, "changed_at": sent.changed_at.isoformat()} if sent.changed_at else values


def load_sent_content(raw: Mapping[str, Any]) -> SentContent:
    changed_at = raw.get("changed_at")
    hashes = {int(pk): sha256 for pk, sha256 in raw.get("hashes", {}).items()}
    return SentContent(load_content(raw), hashes, datetime.fromisoformat(changed_at) if changed_at else None)


def asset_ids_in(raw: Mapping[str, Any]) -> set[int]:
    """Every asset that a kept master or version uses: its media, thumbnails, its card's picture."""
    found = {*(raw.get("media") or ())}
    found |= {one["cover"] for one in (raw.get("shown") or {}).values() if one.get("cover")}
    card = raw.get("card") or {}
    return found | ({card["picture"]} if card.get("picture") else set())
