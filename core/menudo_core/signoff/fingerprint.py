"""A wording's fingerprint: what was agreed to is known again by it."""

import hashlib
import json
from collections.abc import Iterable
from dataclasses import asdict
from typing import Any

from menudo_core.networks.content import POST, STORY, Content
from menudo_core.networks.sheet import RuleSheet


def fingerprint(content: Content) -> str:
    """32 hexadecimal digits that any change of text, media, link, first comment, fields or showing changes.

    Order and presence of what says nothing don't: an empty field is as one that isn't there.
    """
    values = {name: _plain_value(value) for name, value in asdict(content).items()}
    whole = json.dumps(values, sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(whole.encode()).hexdigest()[:32]


# The field of a rule sheet that says what kind of post it is.
KIND_FIELD = "listing_kind"


def post_kind(content: Content) -> str:
    """The kind of post, as rules name it: what a listing post says it is (update, event, offer), else post or story."""
    return content.fields.get(KIND_FIELD, "").strip().lower() or content.form


def post_kinds(sheets: Iterable[RuleSheet]) -> list[str]:
    """Every kind of post there is under the sheets: post, story, and what their kind fields offer."""
    choices = [
        choice for sheet in sheets for rule in sheet.fields if rule.name == KIND_FIELD for choice in rule.choices
    ]
    return list(dict.fromkeys([POST, STORY, *choices]))


def _plain_value(value: Any) -> Any:
    if isinstance(value, dict):
        return {str(key): plain for key, one in value.items() if (plain := _plain_value(one)) not in (None, "", {}, [])}
    if isinstance(value, (list, tuple)):
        return [_plain_value(one) for one in value]
    return value
