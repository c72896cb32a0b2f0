"""What is said to people, as a code with parameters: the words are made of it in one place for each kind of thing that is said
(`history/sentences.py`), so that another language, another program or a count can go by the code."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from string import Formatter
from typing import Any

# One template, or one for a single thing and one for several, by the parameter `count`.
Template = str | tuple[str, str]
_NAMED = 3


@dataclass(frozen=True, slots=True)
class Sentence:
    """`params` are texts, numbers, lists of texts, wall times (ISO 8601), or what another sentence says."""

    code: str
    params: Mapping[str, Any] = field(default_factory=dict)


def say(code: str, /, **params: Any) -> Sentence:
    """A sentence of its code and what it is said of; a datetime is a time on a wall."""
    return Sentence(code, {name: _plain(value) for name, value in params.items()})


def _plain(value: Any) -> Any:
    if isinstance(value, date) and not isinstance(value, datetime):
        return value.isoformat()
    if isinstance(value, datetime):
        return value.replace(tzinfo=None).isoformat(timespec="minutes")
    if isinstance(value, Sentence):
        return {"code": value.code, "params": dict(value.params)}
    return value


def render(catalog: Mapping[str, Template], sentence: Sentence) -> str:
    """The sentence's words. Raises KeyError where the catalog lacks its code, or the sentence a parameter."""
    template = catalog[sentence.code]
    if not isinstance(template, str):
        template = template[0 if sentence.params["count"] == 1 else 1]
    return _Words(catalog).vformat(template, (), sentence.params)


class _Words(Formatter):
    """What stands after a parameter's colon says what it is: `post`, `draft`, `yours` (a title, in quotation marks; a post may have
    none), `wall` (a time on a wall), `day` (a date), `for` (of which profiles, if not of all); else as `format` has it."""

    def __init__(self, catalog: Mapping[str, Template]) -> None:
        self._catalog = catalog

    def format_field(self, value: Any, format_spec: str) -> str:
        if isinstance(value, Mapping):
            return render(self._catalog, Sentence(value["code"], value["params"]))
        match format_spec:
            case "post":
                return f"“{value}”" if value else "a post without words"
            case "draft":
                return f"“{value}”" if value else "a post"
            case "yours":
                return f"“{value or 'your post'}”"
            case "day":
                day = date.fromisoformat(value)
                return f"{day.day} {day:%B}"
            case "wall":
                at = datetime.fromisoformat(value)
                return f"{at:%a} {at.day} {at:%b, %H:%M}"
            case "for":
                return f" for {name_some(value)}" if value else ""
        return str(super().format_field(value, format_spec))


def name_some(names: Sequence[str]) -> str:
    """The first few of them, and how many more there are."""
    more = len(names) - _NAMED
    return ", ".join(names[:_NAMED]) + (f" and {more} more" if more > 0 else "")
