"""Keep what is said again and again: snippets, tag sets, link tags."""

from collections.abc import Mapping
from typing import TypeVar

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.library.models import LinkTags, Snippet, TagSet
from menudo.library.schemas import LinkTagsIn
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.text.hashtags import hashtags, strip_sign, tag_key

Saying = Snippet | TagSet | LinkTags
S = TypeVar("S", Snippet, TagSet, LinkTags)
_KIND_NAMES = {Snippet: "snippet", TagSet: "tag set", LinkTags: "link tags"}


def save_snippet(context: BrandContext, snippet_id: int | None, name: str, text: str) -> Snippet:
    """A new snippet (id None), or a changed one. Raises InvalidError, NotFoundError."""
    faults = [] if text.strip() else [Fault("/text", say("snippet.empty"))]
    row = saying_of(context, Snippet, snippet_id)
    row.created_by = row.created_by or context.user
    return _save(context, row, name, {"text": text}, faults)


def save_tag_set(context: BrandContext, tag_set_id: int | None, name: str, tags: list[str]) -> TagSet:
    """A new tag set, or a changed one; each tag once, without its sign. Raises InvalidError, NotFoundError."""
    faults: list[Fault] = []
    clean: list[str] = []
    for i, tag in enumerate(tags):
        bare = strip_sign(tag)
        if bare and hashtags(f"#{bare}") != [bare]:
            faults.append(Fault(f"/tags/{i}", say("tag_set.tag", tag=tag)))
        elif bare and tag_key(bare) not in {tag_key(c) for c in clean}:
            clean.append(bare)
    if not clean and not faults:
        faults.append(Fault("/tags", say("tag_set.empty")))
    return _save(context, saying_of(context, TagSet, tag_set_id), name, {"tags": clean}, faults)


def save_link_tags(context: BrandContext, link_tags_id: int | None, data: LinkTagsIn) -> LinkTags:
    """A new preset, or a changed one. Raises InvalidError, NotFoundError."""
    values = data.model_dump(exclude={"name"})
    faults = [
        Fault(f"/{part}", words) for part, v in values.items() if isinstance(v, str) and (words := storage_refusal(v))
    ]
    if not any(isinstance(v, str) and v.strip() for v in values.values()):
        faults.append(Fault("/source", say("link_tags.empty")))
    values = {part: v.strip() if isinstance(v, str) else v for part, v in values.items()}
    return _save(context, saying_of(context, LinkTags, link_tags_id), data.name, values, faults)


def delete_saying(context: BrandContext, kind: type[S], saying_id: int) -> None:
    """It goes; what was written with it stays. Raises NotFoundError."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        row = saying_of(context, kind, saying_id)
        record_event(
            context.brand.pk,
            context.actor,
            "delete",
            "saying",
            saying_id,
            say("saying.deleted", kind=_KIND_NAMES[kind], name=row.name),
        )
        row.delete()
        publish_change(context.brand.pk, "saying", saying_id)


def saying_of(context: BrandContext, kind: type[S], saying_id: int | None) -> S:
    """The one of this id, or a new one. Raises NotFoundError, also for another brand's."""
    if saying_id is None:
        return kind(brand=context.brand)
    return first_or_404(kind.objects.filter(brand=context.brand, pk=saying_id))


def _save(context: BrandContext, row: S, name: str, values: Mapping[str, object], faults: list[Fault]) -> S:
    context.require(Capability.WRITE)
    name = " ".join(name.split())
    if not name:
        faults.append(Fault("/name", say("saying.nameless")))
    faults += [
        Fault(f"/{p}", words)
        for p, v in {"name": name, **values}.items()
        if isinstance(v, str) and (words := storage_refusal(v))
    ]
    if faults:
        raise InvalidError(faults=faults)
    row.name = name
    for part, value in values.items():
        setattr(row, part, value)
    verb, kind_name = "changed" if row.pk else "made", _KIND_NAMES[type(row)]
    try:
        with transaction.atomic():
            row.save()
            record_event(
                context.brand.pk,
                context.actor,
                verb,
                "saying",
                row.pk,
                say(f"saying.{verb}", kind=kind_name, name=name),
            )
            publish_change(context.brand.pk, "saying", row.pk)
    except IntegrityError as error:
        raise InvalidError.at("/name", say("saying.name_taken", name=name)) from error
    return row
