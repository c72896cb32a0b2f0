"""Findings and proofs for a Bench: one statement for the facts, then the core."""

from collections.abc import Iterable, Mapping

from menudo.library.models import Asset
from menudo.people.models import Brand
from menudo.profiles.sheets import sheet_for
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import applies, check, text_length
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, stops
from menudo_core.networks.proof import proof
from menudo_core.networks.sheet import RuleSheet


def facts(brand: Brand | int, contents: Iterable[Content]) -> dict[int, MediaFacts]:
    """The facts of every asset that the contents use, by id. Another brand's assets aren't found."""
    wanted = {asset for content in contents for asset in content.media}
    if not wanted:
        return {}
    return {a.pk: a.facts for a in Asset.objects.filter(brand=brand, pk__in=wanted)}


def column(sheet: RuleSheet, content: Content, known: Mapping[int, MediaFacts]) -> dict:
    """One column as the interface wants it."""
    media = [known[asset] for asset in content.media if asset in known]
    findings = check(content, media, sheet)
    seen = proof(content, media, sheet)
    return {
        "network": sheet.network,
        "length": text_length(content, sheet),
        "limit": sheet.text.limit,
        "unit": sheet.text.unit.value,
        "fits": not stops(findings),
        "asks": [rule.name for rule in sheet.fields if applies(rule, content)],
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
            "link": seen.link,
            "rows": [
                [{"asset": p.asset, "width": p.width, "height": p.height, "share": p.share, "alt": p.alt} for p in row]
                for row in seen.rows
            ],
        },
    }


def findings_of(brand: int, network: str, content: Content, known: Mapping[int, MediaFacts]) -> list[Finding]:
    """What the network's sheet, of those that ship or the brand's own, says of the content."""
    return check(content, [known[asset] for asset in content.media if asset in known], sheet_for(brand, network))
