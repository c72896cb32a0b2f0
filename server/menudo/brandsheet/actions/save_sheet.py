"""Write the brand sheet."""

import re
from collections.abc import Iterator

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.revisions import require_unchanged
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.brandsheet.countries import COUNTRIES
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.queries import sheet_out
from menudo.brandsheet.schemas import SheetIO
from menudo.history.actions.record_event import record_event
from menudo.library.models import Asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext

_LANGUAGE = re.compile(r"^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$")
_EMAIL = re.compile(r"^[^@\s]+@[^@\s]+\.[^@\s]+$")


def current_sheet(context: BrandContext) -> BrandSheet:
    """The brand's sheet; one that says nothing yet when none was written."""
    return BrandSheet.objects.filter(brand=context.brand).first() or BrandSheet(brand=context.brand, revision=0)


def save_sheet(context: BrandContext, sheet: SheetIO, revision: int) -> BrandSheet:
    """Keep the sheet whole. Raises InvalidError at each faulty field, StaleRevisionError when it moved on since `revision`."""
    context.require(Capability.EDIT_OTHERS)
    values = sheet.model_dump()
    faults = list(_faults(context, sheet))
    if faults:
        raise InvalidError(faults=faults)
    with transaction.atomic():
        row = BrandSheet.objects.select_for_update(no_key=True).filter(brand=context.brand).first() or BrandSheet(
            brand=context.brand, revision=0
        )
        require_unchanged(revision, row.revision, sheet_out(row))
        before, row.values = row.values, values
        row.revision += 1
        row.save()
        record_event(
            context.brand.pk,
            context.actor,
            "write",
            "sheet",
            row.pk,
            say("sheet.changed"),
            {"said": before},
            {"said": values},
        )
        publish_change(context.brand.pk, "brand", context.brand.pk)
    return row


def _faults(context: BrandContext, sheet: SheetIO) -> Iterator[Fault]:
    for pointer, text in _text_values(sheet.model_dump(), ""):
        if words := storage_refusal(text):
            yield Fault(pointer, words)
    if sheet.site and not re.match(r"^https?://[^\s/]+", sheet.site):
        yield Fault("/site", say("address.not_whole"))
    if sheet.contact.email and not _EMAIL.match(sheet.contact.email):
        yield Fault("/contact/email", say("email.malformed"))
    if sheet.language and not _LANGUAGE.match(sheet.language):
        yield Fault("/language", say("sheet.language"))
    if sheet.country and sheet.country not in COUNTRIES:
        yield Fault("/country", say("sheet.country"))
    if sheet.logo is not None and not Asset.objects.filter(brand=context.brand, pk=sheet.logo).exists():
        yield Fault("/logo", say("picture.foreign"))
    for n, tag in enumerate(sheet.hashtags):
        if not re.fullmatch(r"[\w\-+]+", tag):
            yield Fault(f"/hashtags/{n}", say("sheet.hashtag", tag=tag))


def _text_values(value: object, pointer: str) -> Iterator[tuple[str, str]]:
    if isinstance(value, str):
        yield pointer, value
    elif isinstance(value, dict):
        for key, one in value.items():
            yield from _text_values(one, f"{pointer}/{key}")
    elif isinstance(value, list):
        for number, one in enumerate(value):
            yield from _text_values(one, f"{pointer}/{number}")
