"""What no text may hold."""

from menudo.base.sentences import Sentence, say
from menudo_core.text.storable import unstorable_reason


def storage_refusal(text: str) -> Sentence | None:
    """Why `text` can't be kept, if it can't."""
    reason = unstorable_reason(text)
    return say("text.unstorable", reason=reason) if reason else None
