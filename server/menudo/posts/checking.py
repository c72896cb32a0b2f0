"""Findings and proofs for a Bench: one statement for the facts, then the core."""

from collections.abc import Iterable, Mapping

from menudo.library.models import Asset
from menudo.people.models import Brand
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import check, text_length
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, stops
from menudo_core.networks.load import shipped
from menudo_core.networks.proof import proof


def facts(brand: Brand | int, contents: Iterable[Content]) -> dict[int, MediaFacts]:
    """The facts of every asset that the contents use, by id. Another brand's assets aren't found."""
    wanted = {asset for content in contents for asset in content.media}
    if not wanted:
        return {}
    return {a.pk: a.facts for a in Asset.objects.filter(brand=brand, pk__in=wanted)}


def column(network: str, content: Content, known: Mapping[int, MediaFacts]) -> dict:
    """One column as the interface wants it."""
    sheet = shipped()[network]
    media = [known[asset] for asset in content.media if asset in known]
    findings = check(content, media, sheet)
    seen = proof(content, media, sheet)
    return {
        "network": network,
        "length": text_length(content, sheet),
        "limit": sheet.text.limit,
        "unit": sheet.text.unit.value,
        "fits": not stops(findings),
        "findings": [
            {
                "level": f.level,
                "rule": f.rule,
                "field": f.field,
                "words": f.words,
                "limit": f.limit,
                "present": f.present,
            }
            for f in findings
        ],
        "proof": {
            "seen": seen.seen,
            "hidden": seen.hidden,
            "rows": [
                [{"asset": p.asset, "width": p.width, "height": p.height, "share": p.share, "alt": p.alt} for p in row]
                for row in seen.rows
            ],
        },
    }


def findings_of(network: str, content: Content, known: Mapping[int, MediaFacts]) -> list[Finding]:
    """What the network's sheet says of the content."""
    return check(content, [known[asset] for asset in content.media if asset in known], shipped()[network])
