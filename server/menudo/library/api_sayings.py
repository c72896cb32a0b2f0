"""Routes for snippets, tag sets and link tags."""

from django.db.models import Q
from django.http import HttpRequest
from ninja import Router, Status

from menudo.library import schemas
from menudo.library.actions import save_saying
from menudo.library.models import LinkTags, Snippet, TagSet
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context

router = Router(tags=["library"])


@router.get("/brands/{brand}/sayings", response=schemas.SayingsOut, operation_id="sayings")
def list_sayings(request: HttpRequest, brand: str) -> schemas.SayingsOut:
    """Everything that is kept to be said again."""
    of_brand = Q(brand=brand_context(request, brand).brand)
    return schemas.SayingsOut(
        snippets=[schemas.SnippetOut.from_orm(row) for row in Snippet.objects.filter(of_brand).order_by("name")],
        tag_sets=[schemas.TagSetOut.from_orm(row) for row in TagSet.objects.filter(of_brand).order_by("name")],
        link_tags=[schemas.LinkTagsOut.from_orm(row) for row in LinkTags.objects.filter(of_brand).order_by("name")],
    )


@router.post("/brands/{brand}/snippets", response={201: schemas.SnippetOut}, operation_id="createSnippet")
def create_snippet(request: HttpRequest, brand: str, data: schemas.SnippetIn) -> Status[Snippet]:
    """A new snippet."""
    return Status(
        201, save_saying.save_snippet(brand_context(request, brand, Capability.WRITE), None, data.name, data.text)
    )


@router.put("/brands/{brand}/snippets/{snippet_id}", response=schemas.SnippetOut, operation_id="updateSnippet")
def update_snippet(request: HttpRequest, brand: str, snippet_id: int, data: schemas.SnippetIn) -> Snippet:
    """Change a snippet."""
    return save_saying.save_snippet(brand_context(request, brand, Capability.WRITE), snippet_id, data.name, data.text)


@router.delete("/brands/{brand}/snippets/{snippet_id}", response={204: None}, operation_id="deleteSnippet")
def destroy_snippet(request: HttpRequest, brand: str, snippet_id: int) -> Status[None]:
    """Delete a snippet."""
    save_saying.delete_saying(brand_context(request, brand, Capability.WRITE), Snippet, snippet_id)
    return Status(204, None)


@router.post("/brands/{brand}/tag-sets", response={201: schemas.TagSetOut}, operation_id="createTagSet")
def create_tag_set(request: HttpRequest, brand: str, data: schemas.TagSetIn) -> Status[TagSet]:
    """A new tag set."""
    return Status(
        201, save_saying.save_tag_set(brand_context(request, brand, Capability.WRITE), None, data.name, data.tags)
    )


@router.put("/brands/{brand}/tag-sets/{tag_set_id}", response=schemas.TagSetOut, operation_id="updateTagSet")
def update_tag_set(request: HttpRequest, brand: str, tag_set_id: int, data: schemas.TagSetIn) -> TagSet:
    """Change a tag set."""
    return save_saying.save_tag_set(brand_context(request, brand, Capability.WRITE), tag_set_id, data.name, data.tags)


@router.delete("/brands/{brand}/tag-sets/{tag_set_id}", response={204: None}, operation_id="deleteTagSet")
def destroy_tag_set(request: HttpRequest, brand: str, tag_set_id: int) -> Status[None]:
    """Delete a tag set."""
    save_saying.delete_saying(brand_context(request, brand, Capability.WRITE), TagSet, tag_set_id)
    return Status(204, None)


@router.post("/brands/{brand}/link-tags", response={201: schemas.LinkTagsOut}, operation_id="createLinkTags")
def create_link_tags(request: HttpRequest, brand: str, data: schemas.LinkTagsIn) -> Status[LinkTags]:
    """A new preset of link tags."""
    return Status(201, save_saying.save_link_tags(brand_context(request, brand, Capability.WRITE), None, data))


@router.put(
    "/brands/{brand}/link-tags/{preset_id}",
    response=schemas.LinkTagsOut,
    operation_id="updateLinkTags",
)
def update_link_tags(request: HttpRequest, brand: str, preset_id: int, data: schemas.LinkTagsIn) -> LinkTags:
    """Change a preset."""
    return save_saying.save_link_tags(brand_context(request, brand, Capability.WRITE), preset_id, data)


@router.delete("/brands/{brand}/link-tags/{preset_id}", response={204: None}, operation_id="deleteLinkTags")
def destroy_link_tags(request: HttpRequest, brand: str, preset_id: int) -> Status[None]:
    """Delete a preset; posts that were to be tagged with it go out without."""
    save_saying.delete_saying(brand_context(request, brand, Capability.WRITE), LinkTags, preset_id)
    return Status(204, None)
