"""What the notices' JSON columns hold."""

from typing import Any

from menudo.base.sentences import Sentence


def store_params(sentence: Sentence) -> dict[str, Any]:
    return dict(sentence.params)
