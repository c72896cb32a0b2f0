"""Routes for snippets, tag sets and link tags."""

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.problems import ERRORS
from menudo.library import schemas
from menudo.library.actions import keep_saying
from menudo.library.models import LinkTags, Snippet, TagSet
from menudo.people.capabilities import May
from menudo.people.here import here

router = Router(tags=["library"])


@router.get("/brands/{brand}/sayings", response={200: schemas.SayingsOut, **ERRORS}, operation_id="sayings")
def sayings(request: HttpRequest, brand: str) -> dict[str, Any]:
    """Everything that is kept to be said again."""
    mine = {"brand": here(request, brand).brand}
    return {
        "snippets": list(Snippet.objects.filter(**mine).order_by("name")),
        "tag_sets": list(TagSet.objects.filter(**mine).order_by("name")),
        "link_tags": list(LinkTags.objects.filter(**mine).order_by("name")),
    }


@router.post("/brands/{brand}/snippets", response={201: schemas.SnippetOut, **ERRORS}, operation_id="makeSnippet")
def make_snippet(request: HttpRequest, brand: str, data: schemas.SnippetIn) -> Status[Snippet]:
    """A new snippet."""
    return Status(201, keep_saying.keep_snippet(here(request, brand, May.WRITE), None, data.name, data.text))


@router.put("/brands/{brand}/snippets/{id}", response={200: schemas.SnippetOut, **ERRORS}, operation_id="changeSnippet")
def change_snippet(request: HttpRequest, brand: str, id: int, data: schemas.SnippetIn) -> Snippet:
    """Change a snippet."""
    return keep_saying.keep_snippet(here(request, brand, May.WRITE), id, data.name, data.text)


@router.delete("/brands/{brand}/snippets/{id}", response={204: None, **ERRORS}, operation_id="deleteSnippet")
def delete_snippet(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a snippet."""
    keep_saying.delete(here(request, brand, May.WRITE), Snippet, id)
    return Status(204, None)


@router.post("/brands/{brand}/tag-sets", response={201: schemas.TagSetOut, **ERRORS}, operation_id="makeTagSet")
def make_tag_set(request: HttpRequest, brand: str, data: schemas.TagSetIn) -> Status[TagSet]:
    """A new tag set."""
    return Status(201, keep_saying.keep_tag_set(here(request, brand, May.WRITE), None, data.name, data.tags))


@router.put("/brands/{brand}/tag-sets/{id}", response={200: schemas.TagSetOut, **ERRORS}, operation_id="changeTagSet")
def change_tag_set(request: HttpRequest, brand: str, id: int, data: schemas.TagSetIn) -> TagSet:
    """Change a tag set."""
    return keep_saying.keep_tag_set(here(request, brand, May.WRITE), id, data.name, data.tags)


@router.delete("/brands/{brand}/tag-sets/{id}", response={204: None, **ERRORS}, operation_id="deleteTagSet")
def delete_tag_set(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a tag set."""
    keep_saying.delete(here(request, brand, May.WRITE), TagSet, id)
    return Status(204, None)


@router.post("/brands/{brand}/link-tags", response={201: schemas.LinkTagsOut, **ERRORS}, operation_id="makeLinkTags")
def make_link_tags(request: HttpRequest, brand: str, data: schemas.LinkTagsIn) -> Status[LinkTags]:
    """A new preset of link tags."""
    said = data.model_dump(exclude={"name"})
    return Status(201, keep_saying.keep_link_tags(here(request, brand, May.WRITE), None, data.name, said))


@router.put(
    "/brands/{brand}/link-tags/{id}", response={200: schemas.LinkTagsOut, **ERRORS}, operation_id="changeLinkTags"
)
def change_link_tags(request: HttpRequest, brand: str, id: int, data: schemas.LinkTagsIn) -> LinkTags:
    """Change a preset."""
    said = data.model_dump(exclude={"name"})
    return keep_saying.keep_link_tags(here(request, brand, May.WRITE), id, data.name, said)


@router.delete("/brands/{brand}/link-tags/{id}", response={204: None, **ERRORS}, operation_id="deleteLinkTags")
def delete_link_tags(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a preset; posts that were to be tagged with it go out without."""
    keep_saying.delete(here(request, brand, May.WRITE), LinkTags, id)
    return Status(204, None)
