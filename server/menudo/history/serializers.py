"""What the history's JSON columns hold."""

from menudo.base.sentences import Sentence
from menudo.history.models import HistoryEvent


def store_sentence(event: HistoryEvent, sentence: Sentence) -> None:
    event.code, event.params = sentence.code, dict(sentence.params)


def load_sentence(event: HistoryEvent) -> Sentence | None:
    """What was done; None for what was done before there were codes."""
    return Sentence(event.code, event.params) if event.code else None
