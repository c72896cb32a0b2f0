"""Findings and proofs for a Bench: one statement for the facts, then the core."""

from collections.abc import Iterable, Mapping

from menudo.library.models import Asset
from menudo.people.models import Brand
from menudo.posts import schemas_check
from menudo.posts.schemas_content import BoxIO, CardIO, PersonIO, PointIO
from menudo.posts.serializers import store_box, store_card, store_person
from menudo.profiles.sheets import sheet_for
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import check_content, field_applies, outgoing_media, text_length
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, blocks
from menudo_core.networks.fixes import FIX_LABELS, available_fixes
from menudo_core.networks.proof import Piece, Proof, build_proof
from menudo_core.networks.sheet import RuleSheet
from menudo_core.text.links import weighted_length


def media_facts(brand: Brand | int, contents: Iterable[Content]) -> dict[int, MediaFacts]:
    """The facts of every asset that the contents use, by id. Another brand's assets aren't found."""
    wanted = {asset for content in contents for asset in content.media}
    if not wanted:
        return {}
    return {a.pk: a.facts for a in Asset.objects.filter(brand=brand, pk__in=wanted)}


def content_media(content: Content, known: Mapping[int, MediaFacts]) -> list[MediaFacts]:
    return [known[asset] for asset in content.media if asset in known]


def column_out(
    sheet: RuleSheet,
    content: Content,
    known: Mapping[int, MediaFacts],
    followers: int | None = None,
    profiles: int = 1,
    profile: int | None = None,
) -> schemas_check.ColumnOut:
    """One column as the interface wants it. `profile`: the one that was split off, if it is its own."""
    media = content_media(content, known)
    findings = check_content(content, media, sheet, followers, profiles)
    rule = sheet.text
    return schemas_check.ColumnOut(
        network=sheet.network,
        profile=profile,
        length=text_length(content, sheet),
        comment_length=weighted_length(content.first_comment, rule.unit, rule.link_weight),
        limit=rule.limit,
        unit=rule.unit.value,
        fits=not blocks(findings),
        asks=[r.name for r in sheet.fields if field_applies(r, content)],
        findings=[_finding_out(f, content, media, sheet) for f in findings],
        sizes=[
            schemas_check.SizeOut(asset=m.asset, width=m.width, height=m.height)
            for m in outgoing_media(content, media, sheet)
        ],
        proof=_proof_out(build_proof(content, media, sheet)),
    )


def _finding_out(f: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> schemas_check.FindingOut:
    return schemas_check.FindingOut(
        level=f.level.value,
        rule=f.rule,
        field=f.field,
        message=f.message,
        limit=f.limit,
        actual=f.actual,
        fixes=[
            schemas_check.FixOut(fix=m.value, label=FIX_LABELS[m]) for m in available_fixes(f, content, media, sheet)
        ],
    )


def _proof_out(seen: Proof) -> schemas_check.ProofOut:
    return schemas_check.ProofOut(
        visible_text=seen.visible_text,
        folded_text=seen.folded_text,
        link=seen.link,
        layout=seen.layout,
        one_by_one=seen.one_by_one,
        title=seen.title,
        button=seen.button,
        facts=[schemas_check.FieldValueOut(label=label, value=value) for label, value in seen.facts],
        card=CardIO.model_validate(store_card(seen.card)) if seen.card else None,
        comment=seen.comment,
        rows=[[_piece_out(piece) for piece in row] for row in seen.rows],
    )


def _piece_out(p: Piece) -> schemas_check.PieceOut:
    return schemas_check.PieceOut(
        asset=p.asset,
        kind=p.kind,
        width=p.width,
        height=p.height,
        share=p.share,
        alt=p.alt,
        seconds=p.seconds,
        turn=p.turn,
        crop=BoxIO.model_validate(store_box(p.crop)),
        focus=PointIO(x=p.focus[0], y=p.focus[1]),
        words=p.words,
        words_at=p.words_at,
        people=[PersonIO.model_validate(store_person(person)) for person in p.people],
        cover=p.cover,
        cover_at=p.cover_at,
    )


def findings_for(
    brand: int,
    network: str,
    content: Content,
    known: Mapping[int, MediaFacts],
    followers: int | None = None,
    profiles: int = 1,
) -> list[Finding]:
    """What the network's sheet, of those that ship or the brand's own, says of the content."""
    return check_content(content, content_media(content, known), sheet_for(brand, network), followers, profiles)
