"""Keep what is said again and again: snippets, tag sets, link tags."""

from typing import Any, TypeVar

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.rows import the_one
from menudo.history.actions.record import record
from menudo.library.models import LinkTags, Snippet, TagSet
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.clean import unusable
from menudo_core.text.hashtags import bare_tag, hashtags, tag_key

Saying = Snippet | TagSet | LinkTags
S = TypeVar("S", Snippet, TagSet, LinkTags)
_CALLED = {Snippet: "snippet", TagSet: "tag set", LinkTags: "link tags"}


def keep_snippet(place: Here, id: int | None, name: str, text: str) -> Snippet:
    """A new snippet (id None), or a changed one. Raises Invalid, NotFound."""
    faults = [] if text.strip() else [Fault("/text", "Write what the snippet says.", "missing")]
    row = found(place, Snippet, id)
    row.by = row.by or place.user
    return _keep(place, row, name, {"text": text}, faults)


def keep_tag_set(place: Here, id: int | None, name: str, tags: list[str]) -> TagSet:
    """A new tag set, or a changed one; each tag once, without its sign. Raises Invalid, NotFound."""
    faults: list[Fault] = []
    clean: list[str] = []
    for i, tag in enumerate(tags):
        bare = bare_tag(tag)
        if bare and hashtags(f"#{bare}") != [bare]:
            faults.append(
                Fault(f"/tags/{i}", f"“{tag}” can't be a hashtag: letters, digits and low lines only.", "tag")
            )
        elif bare and tag_key(bare) not in {tag_key(c) for c in clean}:
            clean.append(bare)
    if not clean and not faults:
        faults.append(Fault("/tags", "Write at least one hashtag.", "missing"))
    return _keep(place, found(place, TagSet, id), name, {"tags": clean}, faults)


def keep_link_tags(place: Here, id: int | None, name: str, said: dict[str, Any]) -> LinkTags:
    """A new preset, or a changed one. Raises Invalid, NotFound."""
    faults = [Fault(f"/{part}", words) for part, v in said.items() if isinstance(v, str) and (words := unusable(v))]
    if not any(isinstance(v, str) and v.strip() for v in said.values()):
        faults.append(Fault("/source", "Fill in at least one of the values.", "missing"))
    said = {part: v.strip() if isinstance(v, str) else v for part, v in said.items()}
    return _keep(place, found(place, LinkTags, id), name, said, faults)


def delete(place: Here, kind: type[S], id: int) -> None:
    """It goes; what was written with it stays. Raises NotFound."""
    place.needs(May.WRITE)
    with transaction.atomic():
        row = found(place, kind, id)
        record(place.brand.pk, place.actor, "delete", "saying", id, f"deleted the {_CALLED[kind]} “{row.name}”")
        row.delete()
        tell(place.brand.pk, "saying", id)


def found(place: Here, kind: type[S], id: int | None) -> S:
    """The one of this id, or a new one. Raises NotFound, also for another brand's."""
    if id is None:
        return kind(brand=place.brand)
    return the_one(kind.objects.filter(brand=place.brand, pk=id))


def _keep(place: Here, row: S, name: str, said: dict[str, Any], faults: list[Fault]) -> S:
    place.needs(May.WRITE)
    name = " ".join(name.split())
    if not name:
        faults.append(Fault("/name", "Give it a name.", "missing"))
    faults += [
        Fault(f"/{p}", words)
        for p, v in {"name": name, **said}.items()
        if isinstance(v, str) and (words := unusable(v))
    ]
    if faults:
        raise Invalid(faults=faults)
    row.name = name
    for part, value in said.items():
        setattr(row, part, value)
    verb, called = "changed" if row.pk else "made", _CALLED[type(row)]
    try:
        with transaction.atomic():
            row.save()
            record(place.brand.pk, place.actor, verb, "saying", row.pk, f"{verb} the {called} “{name}”")
            tell(place.brand.pk, "saying", row.pk)
    except IntegrityError as error:
        raise Invalid.at("/name", f"There is one named “{name}” already.", "taken") from error
    return row
