"""Findings and proofs for a Bench: one statement for the facts, then the core."""

from collections.abc import Iterable, Mapping

from menudo.library.models import Asset
from menudo.people.models import Brand
from menudo.posts.serializers import store_box, store_card, store_person
from menudo.profiles.sheets import sheet_for
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import applies, as_sent_media, check, text_length
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, stops
from menudo_core.networks.mends import WORDS, offered
from menudo_core.networks.proof import Piece, Proof, proof
from menudo_core.networks.sheet import RuleSheet
from menudo_core.text.links import weighed_length


def facts(brand: Brand | int, contents: Iterable[Content]) -> dict[int, MediaFacts]:
    """The facts of every asset that the contents use, by id. Another brand's assets aren't found."""
    wanted = {asset for content in contents for asset in content.media}
    if not wanted:
        return {}
    return {a.pk: a.facts for a in Asset.objects.filter(brand=brand, pk__in=wanted)}


def media_of(content: Content, known: Mapping[int, MediaFacts]) -> list[MediaFacts]:
    return [known[asset] for asset in content.media if asset in known]


def column(
    sheet: RuleSheet, content: Content, known: Mapping[int, MediaFacts], followers: int | None = None, profiles: int = 1
) -> dict:
    """One column as the interface wants it."""
    media = media_of(content, known)
    findings = check(content, media, sheet, followers, profiles)
    rule = sheet.text
    return {
        "network": sheet.network,
        "profile": None,
        "length": text_length(content, sheet),
        "comment_length": weighed_length(content.first_comment, rule.unit, rule.link_weight),
        "limit": rule.limit,
        "unit": rule.unit.value,
        "fits": not stops(findings),
        "asks": [r.name for r in sheet.fields if applies(r, content)],
        "findings": [_finding(f, content, media, sheet) for f in findings],
        "sizes": [
            {"asset": m.asset, "width": m.width, "height": m.height} for m in as_sent_media(content, media, sheet)
        ],
        "proof": _proof(proof(content, media, sheet)),
    }


def _finding(f: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> dict:
    return {
        "level": f.level,
        "rule": f.rule,
        "field": f.field,
        "words": f.words,
        "limit": f.limit,
        "present": f.present,
        "mends": [{"mend": m.value, "words": WORDS[m]} for m in offered(f, content, media, sheet)],
    }


def _proof(seen: Proof) -> dict:
    return {
        "seen": seen.seen,
        "hidden": seen.hidden,
        "link": seen.link,
        "layout": seen.layout,
        "one_by_one": seen.one_by_one,
        "title": seen.title,
        "button": seen.button,
        "facts": [{"label": label, "value": value} for label, value in seen.facts],
        "card": store_card(seen.card),
        "comment": seen.comment,
        "rows": [[_piece(piece) for piece in row] for row in seen.rows],
    }


def _piece(p: Piece) -> dict:
    return {
        "asset": p.asset,
        "kind": p.kind,
        "width": p.width,
        "height": p.height,
        "share": p.share,
        "alt": p.alt,
        "seconds": p.seconds,
        "turn": p.turn,
        "crop": store_box(p.crop),
        "focus": {"x": p.focus[0], "y": p.focus[1]},
        "words": p.words,
        "words_at": p.words_at,
        "people": [store_person(person) for person in p.people],
        "cover": p.cover,
        "cover_at": p.cover_at,
    }


def findings_of(
    brand: int,
    network: str,
    content: Content,
    known: Mapping[int, MediaFacts],
    followers: int | None = None,
    profiles: int = 1,
) -> list[Finding]:
    """What the network's sheet, of those that ship or the brand's own, says of the content."""
    return check(content, media_of(content, known), sheet_for(brand, network), followers, profiles)
