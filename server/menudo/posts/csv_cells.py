"""What a plan's row says of its media, its link's card and its link tags: cells that hold JSON, or a name."""

import json
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from pydantic import Field, TypeAdapter, ValidationError

from menudo.base.schemas import In
from menudo.library.models import Asset
from menudo.posts.content_io import ShowingIO
from menudo.posts.serializers import store_card, store_showing
from menudo_core.networks.content import Content
from menudo_core.plans.dates import BadCell
from menudo_core.text.clean import unusable

SHOWING, CARD, LINK_TAGS = "showing", "card", "link tags"
NONE = "none"
T = TypeVar("T")


class RowShowing(ShowingIO):
    """As in a wording, with a thumbnail by its file name; 0: none."""

    cover: str | int | None = None  # type: ignore[assignment]


class RowCard(In):
    """As in a wording, with its picture by its file name."""

    title: str = Field(default="", max_length=300)
    description: str = Field(default="", max_length=1000)
    picture: str | None = None


_SHOWINGS: TypeAdapter[dict[int, RowShowing]] = TypeAdapter(dict[int, RowShowing])


def showing_cell(content: Content, names: Mapping[int, str]) -> str:
    """How each medium is shown, by its place from 1; empty: as it is."""
    said: dict[str, Any] = {}
    places = {asset: n for n, asset in enumerate((a for a in content.media if a in names), 1)}
    for asset, showing in content.shown.items():
        one = store_showing(showing)
        if one.get("cover"):
            one["cover"] = names.get(one["cover"], 0)
        if one and asset in places:
            said[str(places[asset])] = one
    return _json(dict(sorted(said.items(), key=lambda pair: int(pair[0])))) if said else ""


def card_cell(content: Content, names: Mapping[int, str]) -> str:
    """The link's card, with its picture by name; empty: none."""
    card = store_card(content.card)
    if card is None:
        return ""
    picture = names.get(card.pop("picture") or 0)
    return _json({**card, **({"picture": picture} if picture else {})})


def link_tags_cell(content: Content, presets: Mapping[int, str]) -> str:
    """The preset's name; `none`: none here; empty: the campaign's, if it has any."""
    return NONE if content.link_tags == 0 else presets.get(content.link_tags or 0, "")


def read_showing(cell: str, media: int, find: Callable[[str], Asset | None]) -> dict[int, dict[str, Any]]:
    """How the media of a row are shown, by their place from 1, as a wording keeps it. `media`: how many there are. Raises
    BadCell."""
    said = _read(cell, _SHOWINGS.validate_json)
    found = {}
    for place, showing in said.items():
        if not 1 <= place <= media:
            raise BadCell(f"There is no medium {place} in this row: it has {media}.")
        one = {name: value for name, value in showing.model_dump().items() if value is not None}
        for words in (showing.words or "", *(p.who for p in showing.people or [])):
            if fault := unusable(words):
                raise BadCell(fault)
        if isinstance(one.get("cover"), str):
            one["cover"] = _named(one["cover"], find)
        found[place] = one
    return found


def read_card(cell: str, find: Callable[[str], Asset | None]) -> dict[str, Any]:
    """A link's card as a wording keeps it. Raises BadCell."""
    card = _read(cell, RowCard.model_validate_json)
    if fault := unusable(card.title) or unusable(card.description):
        raise BadCell(fault)
    return {**card.model_dump(), "picture": _named(card.picture, find) if card.picture else None}


def _named(name: str, find: Callable[[str], Asset | None]) -> int:
    asset = find(name)
    if asset is None:
        raise BadCell(f"There is no one file “{name[:60]}” in the library.")
    return asset.pk


def _read(cell: str, validate: Callable[[str], T]) -> T:
    try:
        return validate(cell)
    except ValidationError as error:
        first = error.errors(include_url=False, include_context=False, include_input=False)[0]
        place = ".".join(map(str, first["loc"]))
        raise BadCell(f"That can't be read{f' at {place}' if place else ''}: {first['msg']}.") from error


def _json(said: object) -> str:
    return json.dumps(_without_point(said), ensure_ascii=False, separators=(",", ":"))


def _without_point(said: Any) -> Any:
    """The same, with whole numbers written as such, however they are kept."""
    if isinstance(said, dict):
        return {name: _without_point(value) for name, value in said.items()}
    if isinstance(said, list):
        return [_without_point(value) for value in said]
    return int(said) if isinstance(said, float) and said.is_integer() else said
