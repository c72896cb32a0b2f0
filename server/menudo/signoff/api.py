"""Routes for sign-off."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from menudo.base.problems import ERRORS
from menudo.base.revisions import began_from
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.posts import reads
from menudo.posts.schemas import PostOut
from menudo.signoff.actions.agree import agree

router = Router(tags=["signoff"])


@router.post("/brands/{brand}/posts/{id}/agree", response={200: PostOut, **ERRORS}, operation_id="agreeToPost")
def agree_to(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> PostOut:
    """Sign a post off as it stands (If-Match)."""
    place = here(request, brand, May.SIGN_OFF)
    post = agree(place, reads.post(place, id), began_from(request))
    response["ETag"] = f'"{post.revision}"'
    return reads.post_out(post)
