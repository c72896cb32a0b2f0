"""Load a rule sheet of the brand's own."""

import re

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.models import OwnSheet
from menudo.profiles.sheets import OWN
from menudo_core.networks.load import BadSheet, read
from menudo_core.networks.sheet import RuleSheet

_NETWORK = re.compile(r'^(\s*network\s*=\s*)["\'][^"\']*["\']', re.MULTILINE)


def load_sheet(place: Here, toml: str) -> RuleSheet:
    """Keep a rule sheet; loading one for the same network again replaces it. Raises Invalid with every fault and its line.

    Its network gets a prefix of ours, so that it can't stand in for one that ships.
    """
    place.needs(May.MANAGE_PROFILES)
    toml = toml.removeprefix("\ufeff")
    sheet = _read(toml)
    network = sheet.network if sheet.network.startswith(OWN) else f"{OWN}{sheet.network}"
    if len(network) > 32:
        raise Invalid.at("/toml/line/1", "The sheet's network name is too long: at most 28 letters.", "sheet")
    toml = _NETWORK.sub(lambda found: f'{found.group(1)}"{network}"', toml, count=1)
    own = _read(toml)
    with transaction.atomic():
        kept, new = OwnSheet.objects.update_or_create(brand=place.brand, network=network, defaults={"toml": toml})
        record(
            place.brand.pk,
            place.actor,
            "load",
            "sheet",
            kept.pk,
            f"{'loaded' if new else 'replaced'} the rule sheet of {own.name}",
        )
        tell(place.brand.pk, "profile", 0)
    return own


def _read(toml: str) -> RuleSheet:
    try:
        return read(toml)
    except BadSheet as bad:
        raise Invalid(faults=[Fault(f"/toml/line/{e.line}", e.words, "sheet") for e in bad.errors]) from bad
