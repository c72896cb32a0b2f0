"""Rules of sign-off as somebody gives them: looked at, and as rows."""

from collections.abc import Sequence

from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.labels.models import Label
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo.signoff.models import SignRule
from menudo.signoff.schemas import RulesIn
from menudo.signoff.signers import Signers
from menudo_core.signoff.fingerprint import post_kinds


def build_rules(context: BrandContext, data: RulesIn) -> list[SignRule]:
    """The rules as rows that aren't kept yet. Raises InvalidError, with each fault at its rule."""
    if faults := _rule_faults(context, data):
        raise InvalidError(faults=faults)
    return [
        SignRule(
            brand=context.brand,
            name=r.name.strip(),
            signers=r.signers,
            mode=r.mode,
            profiles=r.profiles,
            labels=r.labels,
            kinds=r.kinds,
            authors=r.authors,
            before_hours=r.before_hours,
        )
        for r in data.rules
    ]


def _rule_faults(context: BrandContext, data: RulesIn) -> list[Fault]:
    signers = Signers.for_brand(context.brand).names
    profiles = set(Profile.objects.filter(brand=context.brand).values_list("pk", flat=True))
    labels = set(Label.objects.filter(brand=context.brand).values_list("pk", flat=True))
    known_kinds = post_kinds(sheets_of(context.brand.pk).values())
    people = set(Membership.objects.filter(brand=context.brand).values_list("user_id", flat=True))
    faults = []
    for n, rule in enumerate(data.rules):
        if not rule.name.strip() or storage_refusal(rule.name):
            faults.append(Fault(f"/rules/{n}/name", storage_refusal(rule.name) or say("signoff.rule_nameless")))
        for part, named, known, code in (
            ("signers", rule.signers, signers, "rule.signer_unknown"),
            ("profiles", rule.profiles, profiles, "rule.profile_unknown"),
            ("labels", rule.labels, labels, "rule.label_unknown"),
            ("kinds", rule.kinds, known_kinds, "rule.kind_unknown"),
            ("authors", rule.authors, people, "rule.author_unknown"),
        ):
            faults += _unknown_faults(f"/rules/{n}/{part}", named, known, code)
        if len(set(rule.signers)) < len(rule.signers):
            faults.append(Fault(f"/rules/{n}/signers", say("signoff.rule_twice")))
        if not rule.signers and rule.mode != "any":
            faults.append(Fault(f"/rules/{n}/signers", say("signoff.rule_nobody")))
    return faults


def _unknown_faults(pointer: str, named: Sequence[object], known: object, code: str) -> list[Fault]:
    return [
        Fault(f"{pointer}/{i}", say(code, what=str(one)))
        for i, one in enumerate(named)
        if one not in known  # type: ignore[operator]
    ]
