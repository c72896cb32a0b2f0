"""A delivery's media as its network gets them, for those who publish by hand."""

from django.http import FileResponse, HttpRequest

from menudo.base.problems import NotFoundError
from menudo.library.queries import asset_of
from menudo.library.rendering import render_outgoing
from menudo.people.context import brand_context
from menudo.posts import queries
from menudo.posts.rendering import render_for
from menudo.profiles.sheets import sheet_for
from menudo_core.media.facts import MediaKind
from menudo_core.media.presentation import UNCHANGED


def serve_outgoing(request: HttpRequest, brand: str, asset_id: int) -> FileResponse:
    """The asset turned, cropped and fitted as ?delivery= has it. Raises NotFoundError."""
    if not request.user.is_authenticated:
        raise NotFoundError()
    context = brand_context(request, brand)
    number = request.GET.get("delivery", "")
    if not number.isascii() or not number.isdigit() or len(number) > 18:
        raise NotFoundError()
    delivery = queries.delivery_of(context, int(number))
    found = asset_of(context, asset_id)
    sheet = sheet_for(context.brand.pk, delivery.profile.network)
    showing = render_for(delivery).shown.get(found.pk, UNCHANGED)
    drawn = render_outgoing(found, showing, sheet.media.kinds.get(MediaKind(found.kind)))
    kind = "video" if found.kind == MediaKind.VIDEO else "image"
    name = f"{found.name.rsplit('.', 1)[0]}.{drawn.format}"
    response = FileResponse(drawn.open(), as_attachment=True, filename=name, content_type=f"{kind}/{drawn.format}")
    response.headers["Cache-Control"] = "private, no-cache"
    response.headers["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return response
