"""The networks' own judgement of a post, by their rule sheets and with code of its own.

Nothing here is shared with Menudo but the sheet files: where both agree, that is evidence.
"""

import re
import tomllib
from pathlib import Path
from typing import Any

from uniseg.graphemecluster import grapheme_clusters

from menudo_standin.addresses import find_addresses
from menudo_standin.judge_fields import judge_related, judge_typed
from menudo_standin.refused import RefusedError

__all__ = ["RefusedError", "judge_comment", "judge_post", "load_sheets"]
_TAG = re.compile(r"(?:^|(?<=\s))[#＃﹟](?=\w*[^\W\d])[\w-]+")


def load_sheets(folder: Path) -> dict[str, dict[str, Any]]:
    """Every sheet in the folder, raw, by network."""
    read = (tomllib.loads(f.read_text("utf-8")) for f in sorted(folder.glob("*.toml")))
    return {sheet["network"]: sheet for sheet in read}


def judge_post(
    sheet: dict[str, Any],
    text: str,
    media: list[dict[str, Any]],
    fields: dict[str, str],
    form: str = "post",
    followers: int = 0,
) -> None:
    """Raises RefusedError with the first reason. `media` rows carry kind, format, codec, width, height, size, seconds, alt, people, words."""
    name = sheet["name"]
    if form == "story":
        _judge_story(sheet, name, media, bool(fields.get("link")), followers)
        return
    if form != "post":
        raise RefusedError(f"{name} knows no {form}")
    _judge_parts(sheet, name, text, media, fields)
    _judge_text(sheet["text"], name, text)
    tags = len(_TAG.findall(text))
    most = sheet.get("hashtags", {}).get("most")
    if most is not None and tags > most:
        raise RefusedError(f"{tags} hashtags; {name} takes {most}")
    _judge_media(sheet.get("media", {}), name, media)
    asked = [
        rule
        for rule in sheet.get("fields", [])
        if all(fields.get(other, "") in values for other, values in rule.get("when", {}).items())
    ]
    for rule in asked:
        _judge_field(rule, fields.get(rule["name"], ""))
        judge_related(rule, fields, asked)


def judge_comment(sheet: dict[str, Any], text: str, post: str) -> None:
    """Raises RefusedError when the comment can't stand under the post."""
    name = sheet["name"]
    if "first_comment" in sheet.get("asks", {}).get("forbidden", []):
        raise RefusedError(f"{name} takes no comments from apps")
    if not text.strip():
        raise RefusedError("an empty comment")
    _judge_text(sheet["text"], name, text)
    tags, most = len(_TAG.findall(post)) + len(_TAG.findall(text)), sheet.get("hashtags", {}).get("most")
    if most is not None and tags > most:
        raise RefusedError(f"{tags} hashtags with the comment's; {name} takes {most}")


def _judge_story(sheet: dict[str, Any], name: str, frames: list[dict[str, Any]], link: bool, followers: int) -> None:
    rule = sheet.get("story")
    if rule is None:
        raise RefusedError(f"{name} has no stories")
    if not 1 <= len(frames) <= rule["max_frames"]:
        raise RefusedError(f"a story of {len(frames)} frames; {name} takes 1 to {rule['max_frames']}")
    kinds = sheet.get("media", {}).get("kinds", {})
    for frame in frames:
        if frame["kind"] not in kinds or frame["format"] not in kinds[frame["kind"]]["formats"]:
            raise RefusedError(f"a {frame['kind']} of type {frame['format']} in a story")
        shape = frame["width"] / frame["height"]
        if not rule.get("min_ratio", 0) <= shape <= rule.get("max_ratio", 1e9):
            raise RefusedError(f"a frame of shape {shape:.3f}; a story is 9:16")
        if (frame["seconds"] or 0) > rule.get("max_seconds", 1e9):
            raise RefusedError(f"a frame of {frame['seconds']} s; {name} takes {rule['max_seconds']}")
        if any(ord(c) < 32 and c not in "\t\n\r" for c in frame.get("words", "")):
            raise RefusedError("control characters in a frame's words")
    if link and followers < rule.get("link_followers", 0):
        raise RefusedError(f"a link needs {rule['link_followers']} followers")


def _judge_parts(
    sheet: dict[str, Any], name: str, text: str, media: list[dict[str, Any]], fields: dict[str, Any]
) -> None:
    has = {
        "text": bool(text.strip()),
        "media": bool(media),
        "link": bool(fields.get("link") or find_addresses(text)),
        "first_comment": False,
    }
    if not any(has.values()):
        raise RefusedError("an empty post")
    asks = sheet.get("asks", {})
    for part in asks.get("required", []):
        if not has[part]:
            raise RefusedError(f"{name} needs {part.replace('_', ' ')}")
    for group in asks.get("one_of", []):
        if not any(has[part] for part in group):
            raise RefusedError(f"{name} needs one of {', '.join(group)}")
    for part in asks.get("forbidden", []):
        if has[part]:
            raise RefusedError(f"{name} takes no {part.replace('_', ' ')}")


def _judge_text(rule: dict[str, Any], name: str, text: str) -> None:
    if any(ord(c) < 32 and c not in "\t\n\r" for c in text):
        raise RefusedError("control characters in the text")
    size = _text_size(text, rule["unit"])
    if "link_weight" in rule:
        for found in find_addresses(text):
            size += rule["link_weight"] - _text_size(found, rule["unit"])
    if size > rule["limit"]:
        raise RefusedError(f"the text has {size}, the limit is {rule['limit']}")


def _text_size(text: str, unit: str) -> int:
    if unit == "clusters":
        return len(text) if text.isascii() and "\r" not in text else sum(1 for _ in grapheme_clusters(text))
    if unit == "utf16":
        return sum(2 if ord(c) > 0xFFFF else 1 for c in text)
    return len(text.encode()) if unit == "bytes" else len(text)


def _judge_media(rule: dict[str, Any], name: str, media: list[dict[str, Any]]) -> None:
    kinds = rule.get("kinds", {})
    if len(media) > rule.get("max_count", len(media)):
        raise RefusedError(f"{len(media)} media, the limit is {rule['max_count']}")
    present = {m["kind"] for m in media}
    together = rule.get("together")
    if together and present and not any(present <= set(group) for group in together):
        raise RefusedError(f"{' and '.join(sorted(present))} don't go together")
    for kind in present:
        count = sum(m["kind"] == kind for m in media)
        if kind not in kinds:
            raise RefusedError(f"{name} takes no {kind}")
        if count > kinds[kind]["max_count"]:
            raise RefusedError(f"{count} of kind {kind}, the limit is {kinds[kind]['max_count']}")
    for medium in media:
        _judge_medium(kinds[medium["kind"]], medium)
        people = medium.get("people") or []
        if people and "people" not in rule:
            raise RefusedError(f"{name} tags nobody in a picture")
        if len(people) > rule.get("people", 0):
            raise RefusedError(f"{len(people)} people tagged; {name} takes {rule['people']}")


def _judge_medium(rule: dict[str, Any], m: dict[str, Any]) -> None:
    if m["format"] not in rule["formats"]:
        raise RefusedError(f"a file of type {m['format']}")
    if m.get("codec") and m["codec"] not in rule.get("codecs", [m["codec"]]):
        raise RefusedError(f"a video coded as {m['codec']}")
    limits = [
        ("max_bytes", m["size"], 1),
        ("min_width", m["width"], -1),
        ("min_height", m["height"], -1),
        ("max_width", m["width"], 1),
        ("max_height", m["height"], 1),
        ("max_pixels", m["width"] * m["height"], 1),
        ("max_seconds", m["seconds"] or 0, 1),
    ]
    for limit, value, sign in limits:
        if limit in rule and (value - rule[limit]) * sign > 0:
            raise RefusedError(f"{limit.replace('_', ' ')} is {rule[limit]}, this has {value}")
    # Half a per cent of grace, for shapes that whole pixels can't reach.
    shape = m["width"] / m["height"]
    if shape < rule.get("min_ratio", 0) * 0.995 or shape > rule.get("max_ratio", 1e9) * 1.005:
        raise RefusedError(
            f"the shape {shape:.3f} is outside {rule.get('min_ratio', 'any')} to {rule.get('max_ratio', 'any')}"
        )
    if "min_seconds" in rule and m["seconds"] is not None and m["seconds"] < rule["min_seconds"]:
        raise RefusedError(f"too short: {m['seconds']} s")
    if "alt_limit" in rule and _text_size(m.get("alt", ""), "clusters") > rule["alt_limit"]:
        raise RefusedError(f"the alt text is longer than {rule['alt_limit']}")


def _judge_field(rule: dict[str, Any], value: str) -> None:
    value = value.strip()
    if not value:
        if rule.get("required"):
            raise RefusedError(f"{rule['name']} is missing")
        return
    if "limit" in rule and _text_size(value, "clusters") > rule["limit"]:
        raise RefusedError(f"{rule['name']} is longer than {rule['limit']}")
    if "choices" in rule and value not in rule["choices"]:
        raise RefusedError(f"{rule['name']} is not one of {', '.join(rule['choices'])}")
    judge_typed(rule, value)
