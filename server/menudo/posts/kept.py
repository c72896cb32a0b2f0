"""Wordings as the database keeps them (JSON), and as the core has them."""

from collections.abc import Mapping
from typing import Any

from menudo_core.media.showing import Box, Person, Showing
from menudo_core.networks.content import POST, Card, Content, Own


def content_of(raw: Mapping[str, Any]) -> Content:
    """A Content from what the database keeps."""
    return Content(
        text=raw.get("text", ""),
        media=tuple(raw.get("media", ())),
        link=raw.get("link", ""),
        first_comment=raw.get("first_comment", ""),
        fields=raw.get("fields", {}),
        form=raw.get("form") or POST,
        shown=_shown(raw),
        card=_card(raw),
        link_tags=raw.get("link_tags"),
    )


def own_of(raw: Mapping[str, Any]) -> Own:
    """An Own from what the database keeps: what isn't there is inherited."""
    media = raw.get("media")
    return Own(
        text=raw.get("text"),
        media=None if media is None else tuple(media),
        link=raw.get("link"),
        first_comment=raw.get("first_comment"),
        fields=raw.get("fields", {}),
        form=raw.get("form"),
        shown=_shown(raw),
        card=_card(raw),
        link_tags=raw.get("link_tags"),
    )


def _card(raw: Mapping[str, Any]) -> Card | None:
    card = raw.get("card")
    return Card(card.get("title", ""), card.get("description", ""), card.get("picture")) if card else None


def _shown(raw: Mapping[str, Any]) -> dict[int, Showing]:
    return {int(asset): showing_of(one) for asset, one in (raw.get("shown") or {}).items()}


def showing_of(raw: Mapping[str, Any]) -> Showing:
    crop, focus, people = raw.get("crop"), raw.get("focus"), raw.get("people")
    return Showing(
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


def showing_out(showing: Showing) -> dict[str, Any]:
    """What is said of a showing; what isn't said is left out."""
    said: dict[str, Any] = {
        "turn": showing.turn,
        "crop": box_out(showing.crop) if showing.crop else None,
        "focus": {"x": showing.focus[0], "y": showing.focus[1]} if showing.focus else None,
        "fit": showing.fit,
        "words": showing.words,
        "words_at": showing.words_at,
        "people": None if showing.people is None else [person_out(p) for p in showing.people],
        "cover": showing.cover,
        "cover_at": showing.cover_at,
    }
    return {name: value for name, value in said.items() if value is not None}


def box_out(box: Box) -> dict[str, float]:
    return {"x": box.x, "y": box.y, "w": box.w, "h": box.h}


def person_out(person: Person) -> dict[str, Any]:
    return {"who": person.who, "x": person.x, "y": person.y}


def card_out(card: Card | None) -> dict[str, Any] | None:
    return {"title": card.title, "description": card.description, "picture": card.picture} if card else None


def own_out(own: Own) -> dict[str, Any]:
    """An Own as the database keeps it: only what is said."""
    said = {
        "text": own.text,
        "media": None if own.media is None else list(own.media),
        "link": own.link,
        "first_comment": own.first_comment,
        "fields": dict(own.fields) or None,
        "form": own.form,
        "shown": {str(asset): showing_out(s) for asset, s in own.shown.items()} or None,
        "card": card_out(own.card),
        "link_tags": own.link_tags,
    }
    return {name: value for name, value in said.items() if value is not None}


def as_sent(content: Content) -> dict[str, Any]:
    """What the database keeps of a content that went out."""
    return {
        "text": content.text,
        "media": list(content.media),
        "link": content.link,
        "first_comment": content.first_comment,
        "fields": dict(content.fields),
        "form": content.form,
        "shown": {str(asset): showing_out(s) for asset, s in content.shown.items() if asset in content.media},
        "card": card_out(content.card),
    }


def assets_in(raw: Mapping[str, Any]) -> set[int]:
    """Every asset that a kept master or version uses: its media, thumbnails, its card's picture."""
    found = {*(raw.get("media") or ())}
    found |= {one["cover"] for one in (raw.get("shown") or {}).values() if one.get("cover")}
    card = raw.get("card") or {}
    return found | ({card["picture"]} if card.get("picture") else set())
