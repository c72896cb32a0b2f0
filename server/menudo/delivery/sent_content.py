"""What is about to go out, as it is kept."""

from menudo.library.models import Asset
from menudo.posts.sent_content import SentContent
from menudo_core.networks.content import Content


def sent_content_of(content: Content) -> SentContent:
    """The wording with the hashes of its media, as they are in the library now."""
    rows = Asset.objects.filter(pk__in=content.media).values_list("pk", "sha256") if content.media else ()
    return SentContent(content, dict(rows))
