"""The rule sheets a brand can plan by: those that ship, its own, and the plain one for places without."""

from functools import lru_cache

from django.conf import settings

from menudo.profiles.models import CustomRuleSheet
from menudo_core.networks.load import parse_sheet, permissive_sheet, shipped_sheets
from menudo_core.networks.sheet import RuleSheet

CUSTOM_NETWORK = "own-"
_parsed = lru_cache(maxsize=256)(parse_sheet)


def sheets_of(brand: int) -> dict[str, RuleSheet]:
    """Every sheet of a brand, by network: one statement."""
    custom = {s.network: _parsed(s.toml) for s in CustomRuleSheet.objects.filter(brand_id=brand).order_by("network")}
    return {**shipped_sheets(), permissive_sheet().network: permissive_sheet(), **custom}


def can_connect(sheet: RuleSheet) -> bool:
    """Whether one can go to the network to connect profiles: it takes programs, and this installation knows where it is."""
    known = sheet.network == settings.OPEN_SITE or sheet.network in settings.NETWORKS
    return known and any(kind.direct for kind in sheet.kinds)


def sheet_for(brand: int, network: str) -> RuleSheet:
    """The sheet of one network; a statement only for a sheet of the brand's own. A sheet that is gone is the plain one."""
    if network.startswith(CUSTOM_NETWORK):
        kept = CustomRuleSheet.objects.filter(brand_id=brand, network=network).first()
        return _parsed(kept.toml) if kept else permissive_sheet()
    return shipped_sheets().get(network) or permissive_sheet()
