"""Load a rule sheet of the brand's own."""

import re

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.models import CustomRuleSheet
from menudo.profiles.sheets import CUSTOM_NETWORK
from menudo_core.networks.load import InvalidSheetError, parse_sheet
from menudo_core.networks.sheet import RuleSheet

_NETWORK = re.compile(r'^(\s*network\s*=\s*)["\'][^"\']*["\']', re.MULTILINE)


def load_sheet(context: BrandContext, toml: str) -> RuleSheet:
    """Keep a rule sheet; loading one for the same network again replaces it. Raises InvalidError with every fault and its line.

    Its network gets a prefix of ours, so that it can't stand in for one that ships.
    """
    context.require(Capability.MANAGE_PROFILES)
    toml = toml.removeprefix("\ufeff")
    sheet = _parse_toml(toml)
    network = sheet.network if sheet.network.startswith(CUSTOM_NETWORK) else f"{CUSTOM_NETWORK}{sheet.network}"
    if len(network) > 32:
        raise InvalidError.at("/toml/line/1", say("rule_sheet.long_name"))
    toml = _NETWORK.sub(lambda found: f'{found.group(1)}"{network}"', toml, count=1)
    parsed = _parse_toml(toml)
    with transaction.atomic():
        kept, new = CustomRuleSheet.objects.update_or_create(
            brand=context.brand, network=network, defaults={"toml": toml}
        )
        record_event(
            context.brand.pk,
            context.actor,
            "load",
            "sheet",
            kept.pk,
            say("rule_sheet.loaded" if new else "rule_sheet.replaced", network=parsed.name),
        )
        publish_change(context.brand.pk, "profile", 0)
    return parsed


def _parse_toml(toml: str) -> RuleSheet:
    try:
        return parse_sheet(toml)
    except InvalidSheetError as bad:
        raise InvalidError(faults=[Fault(f"/toml/line/{e.line}", e.message, "sheet") for e in bad.errors]) from bad
