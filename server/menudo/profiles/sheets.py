"""The rule sheets a brand can plan by: those that ship, its own, and the plain one for places without."""

from functools import lru_cache

from django.conf import settings

from menudo.profiles.models import OwnSheet
from menudo_core.networks.load import plain, read, shipped
from menudo_core.networks.sheet import RuleSheet

OWN = "own-"
_read = lru_cache(maxsize=256)(read)


def sheets_of(brand: int) -> dict[str, RuleSheet]:
    """Every sheet of a brand, by network: one statement."""
    own = {s.network: _read(s.toml) for s in OwnSheet.objects.filter(brand_id=brand).order_by("network")}
    return {**shipped(), plain().network: plain(), **own}


def can_connect(sheet: RuleSheet) -> bool:
    """Whether one can go to the network to connect profiles: it takes programs, and this installation knows where it is."""
    known = sheet.network == settings.OPEN_SITE or sheet.network in settings.NETWORKS
    return known and any(kind.direct for kind in sheet.kinds)


def sheet_for(brand: int, network: str) -> RuleSheet:
    """The sheet of one network; a statement only for a sheet of the brand's own. A sheet that is gone is the plain one."""
    if network.startswith(OWN):
        kept = OwnSheet.objects.filter(brand_id=brand, network=network).first()
        return _read(kept.toml) if kept else plain()
    return shipped().get(network) or plain()
