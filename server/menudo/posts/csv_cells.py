"""What a plan's row says of its media, its link's card and its link tags: cells that hold JSON, or a name."""

import json
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from pydantic import Field, TypeAdapter, ValidationError

from menudo.base.schemas import InputSchema
from menudo.library.models import Asset
from menudo.posts.schemas_content import ShowingIO
from menudo.posts.serializers import load_presentation, store_card, store_presentation
from menudo_core.media.presentation import MediaPresentation
from menudo_core.networks.content import Card, Content
from menudo_core.plans.dates import InvalidCellError
from menudo_core.text.storable import unstorable_reason

SHOWING, CARD, LINK_TAGS = "showing", "card", "link tags"
NONE = "none"
T = TypeVar("T")


class RowShowing(ShowingIO):
    """As in a wording, with a thumbnail by its file name; 0: none."""

    cover: str | int | None = None  # type: ignore[assignment]


class RowCard(InputSchema):
    """As in a wording, with its picture by its file name."""

    title: str = Field(default="", max_length=300)
    description: str = Field(default="", max_length=1000)
    picture: str | None = None


_SHOWINGS: TypeAdapter[dict[int, RowShowing]] = TypeAdapter(dict[int, RowShowing])


def format_presentation(content: Content, names: Mapping[int, str]) -> str:
    """How each medium is shown, by its place from 1; empty: as it is."""
    cells: dict[str, Any] = {}
    places = {asset: n for n, asset in enumerate((a for a in content.media if a in names), 1)}
    for asset, showing in content.shown.items():
        one = store_presentation(showing)
        if one.get("cover"):
            one["cover"] = names.get(one["cover"], 0)
        if one and asset in places:
            cells[str(places[asset])] = one
    return _dump_json(dict(sorted(cells.items(), key=lambda pair: int(pair[0])))) if cells else ""


def format_card(content: Content, names: Mapping[int, str]) -> str:
    """The link's card, with its picture by name; empty: none."""
    card = store_card(content.card)
    if card is None:
        return ""
    picture = names.get(card.pop("picture") or 0)
    return _dump_json({**card, **({"picture": picture} if picture else {})})


def format_link_tags(content: Content, presets: Mapping[int, str]) -> str:
    """The preset's name; `none`: none here; empty: the campaign's, if it has any."""
    return NONE if content.link_tags == 0 else presets.get(content.link_tags or 0, "")


def parse_presentation(cell: str, media: int, find: Callable[[str], Asset | None]) -> dict[int, MediaPresentation]:
    """How the media of a row are shown, by their place from 1. `media`: how many there are. Raises
    InvalidCellError."""
    parsed = _parse_cell(cell, _SHOWINGS.validate_json)
    found = {}
    for number, showing in parsed.items():
        if not 1 <= number <= media:
            raise InvalidCellError(f"There is no medium {number} in this row: it has {media}.")
        one = {name: value for name, value in showing.model_dump().items() if value is not None}
        for words in (showing.words or "", *(p.who for p in showing.people or [])):
            if fault := unstorable_reason(words):
                raise InvalidCellError(fault)
        if isinstance(one.get("cover"), str):
            one["cover"] = _find_picture(one["cover"], find)
        found[number] = load_presentation(one)
    return found


def parse_card(cell: str, find: Callable[[str], Asset | None]) -> Card:
    """A link's card. Raises InvalidCellError."""
    card = _parse_cell(cell, RowCard.model_validate_json)
    if fault := unstorable_reason(card.title) or unstorable_reason(card.description):
        raise InvalidCellError(fault)
    return Card(card.title, card.description, _find_picture(card.picture, find) if card.picture else None)


def _find_picture(name: str, find: Callable[[str], Asset | None]) -> int:
    asset = find(name)
    if asset is None:
        raise InvalidCellError(f"There is no one file “{name[:60]}” in the library.")
    return asset.pk


def _parse_cell(cell: str, validate: Callable[[str], T]) -> T:
    try:
        return validate(cell)
    except ValidationError as error:
        first = error.errors(include_url=False, include_context=False, include_input=False)[0]
        where = ".".join(map(str, first["loc"]))
        raise InvalidCellError(f"That can't be read{f' at {where}' if where else ''}: {first['msg']}.") from error


def _dump_json(data: object) -> str:
    return json.dumps(_whole_numbers(data), ensure_ascii=False, separators=(",", ":"))


def _whole_numbers(data: Any) -> Any:
    """The same, with whole numbers written as such, however they are kept."""
    if isinstance(data, dict):
        return {name: _whole_numbers(value) for name, value in data.items()}
    if isinstance(data, list):
        return [_whole_numbers(value) for value in data]
    return int(data) if isinstance(data, float) and data.is_integer() else data
