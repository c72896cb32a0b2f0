"""Read a first version of the brand sheet from the brand's own page: proposals, nothing more."""

import tempfile

from lxml.html import HtmlElement

from menudo.base.apart import BrokenApartError, Limits, call_apart
from menudo.base.fetch import FetchError, fetch
from menudo.base.html import parse_html
from menudo.base.problems import ForbiddenError, InvalidError
from menudo.base.sentences import say
from menudo.brandsheet.countries import COUNTRIES
from menudo.brandsheet.page_parser import PageFact, logo_candidates, parse_page
from menudo.brandsheet.schemas import Proposal, ReadOut
from menudo.library.actions.add_asset import add_asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.text.storable import unstorable_reason

_LABELS = {
    "name": "Name",
    "site": "Web site",
    "about": "About",
    "topics": "Topics",
    "colours": "Colours",
    "language": "Language",
    "country": "Country",
    "feeds": "Feeds",
    "contact/email": "E-mail",
    "contact/phone": "Telephone",
    "contact/address": "Address",
    "logo": "Logo",
}
_LIMITS = Limits(memory=1_000_000_000, file_size=1_000_000, seconds=20)
_MAX_BYTES = {"about": 4000, "name": 120, "contact/address": 300, "contact/email": 254, "contact/phone": 60}


def propose_from_page(context: BrandContext, address: str) -> ReadOut:
    """What the page at `address` says, part by part, each with where it stands. Keeps nothing but the logo, in the library.

    Raises InvalidError when the page can't be read.
    """
    context.require(Capability.EDIT_OTHERS)
    address = address.strip()
    if "://" not in address:
        address = f"https://{address}"
    try:
        page = fetch(address)
    except FetchError as error:
        raise InvalidError.at("/address", str(error), "fetch") from error
    if page.type not in ("text/html", "application/xhtml+xml"):
        raise InvalidError.at("/address", say("page.not_web", type=page.type) if page.type else say("page.typeless"))
    document = parse_html(page.text)
    found = parse_page(document, page.address)
    proposals = [p for one in found if (p := _proposal_of(one))]
    logo = _find_logo(document, page.address)
    if logo is not None:
        data, source, colours = logo
        known = next((p for p in proposals if p.part == "colours"), None)
        if colours and known is not None and isinstance(known.value, list):
            known.value = list(dict.fromkeys([*known.value, *colours]))[:8]
            known.shown, known.source = ", ".join(known.value), f"{known.source} and the logo"
        elif colours:
            proposals.append(
                Proposal(part="colours", label="Colours", value=colours, shown=", ".join(colours), source="the logo")
            )
        try:
            asset = add_asset(context, data, "logo", "Logo")
            proposals.append(Proposal(part="logo", label="Logo", value=asset.pk, shown=asset.name, source=source))
        except (InvalidError, ForbiddenError):
            pass
    return ReadOut(address=page.address, proposals=proposals)


def _proposal_of(one: PageFact) -> Proposal | None:
    value = one.value
    if isinstance(value, str):
        value = " ".join(value.split()) if one.part != "about" else value.strip()
        value = value[: _MAX_BYTES.get(one.part, 500)]
        if unstorable_reason(value) or (one.part == "country" and value not in COUNTRIES):
            return None
        shown = value
    else:
        value = [v for v in value if not unstorable_reason(v)]
        shown = ", ".join(value)
    if not value:
        return None
    return Proposal(part=one.part, label=_LABELS[one.part], value=value, shown=shown, source=one.source)


def _find_logo(document: HtmlElement, address: str) -> tuple[bytes, str, list[str]] | None:
    """The first picture that can be read, of the likeliest three: it, where it stands, and its colours."""
    for one in logo_candidates(document, address)[:3]:
        try:
            picture = fetch(one, "image/*")
        except FetchError:
            continue
        if picture.type.startswith("image/") and (colours := _main_colours(picture.body)):
            return picture.body, one, colours
    return None


def _main_colours(data: bytes) -> list[str]:
    with tempfile.NamedTemporaryFile() as file:
        file.write(data)
        file.flush()
        try:
            found: list[str] = call_apart("menudo.brandsheet.logo_colours:main_colours", file.name, limits=_LIMITS)
        except BrokenApartError:
            return []
    return found
