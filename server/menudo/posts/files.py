"""A delivery's media as its network gets them, for those who publish by hand."""

from django.http import FileResponse, HttpRequest

from menudo.base.problems import NotFound
from menudo.library.reads import asset
from menudo.library.rendering import as_sent
from menudo.people.here import here
from menudo.posts import reads
from menudo.posts.rendering import content_for
from menudo.profiles.sheets import sheet_for
from menudo_core.media.facts import MediaKind
from menudo_core.media.showing import PLAIN


def sent(request: HttpRequest, brand: str, id: int) -> FileResponse:
    """The asset turned, cropped and fitted as ?delivery= has it. Raises NotFound."""
    if not request.user.is_authenticated:
        raise NotFound()
    place = here(request, brand)
    number = request.GET.get("delivery", "")
    if not number.isascii() or not number.isdigit() or len(number) > 18:
        raise NotFound()
    delivery = reads.delivery(place, int(number))
    found = asset(place, id)
    sheet = sheet_for(place.brand.pk, delivery.profile.network)
    showing = content_for(delivery).shown.get(found.pk, PLAIN)
    drawn = as_sent(found, showing, sheet.media.kinds.get(MediaKind(found.kind)))
    kind = "video" if found.kind == MediaKind.VIDEO else "image"
    name = f"{found.name.rsplit('.', 1)[0]}.{drawn.format}"
    response = FileResponse(drawn.open(), as_attachment=True, filename=name, content_type=f"{kind}/{drawn.format}")
    response.headers["Cache-Control"] = "private, no-cache"
    response.headers["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return response
