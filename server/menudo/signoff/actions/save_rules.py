"""Keep a brand's rules of sign-off."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.labels.models import Label
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand, Membership
from menudo.posts.change.locks import shut_gate
from menudo.posts.change.recheck_signoff import recheck_signoff
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo.signoff.models import SignRule
from menudo.signoff.schemas import RulesIn
from menudo.signoff.signers import Signers
from menudo_core.signoff.fingerprint import post_kinds
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState

_OPEN = [s for s in DeliveryState if s not in (DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF)]


def save_rules(context: BrandContext, data: RulesIn) -> list[SignRule]:
    """The whole list, as it is from now on, and whether sign-off is needed at all. What is open is looked at again: it
    may be held now, or go. Raises InvalidError, with each fault at its rule."""
    context.require(Capability.MANAGE_PEOPLE)
    faults = _rule_faults(context, data)
    if faults:
        raise InvalidError(faults=faults)
    with transaction.atomic():
        shut_gate([context.brand.pk])
        brand = Brand.objects.select_for_update(no_key=True).get(pk=context.brand.pk)
        brand.needs_signoff, brand.signoff_on_move = data.needed, data.signoff_on_move
        brand.earlier_signoff_counts = data.earlier_signoff_counts
        brand.save(update_fields=["needs_signoff", "signoff_on_move", "earlier_signoff_counts"])
        SignRule.objects.filter(brand=brand).delete()
        rows = SignRule.objects.bulk_create(
            [
                SignRule(
                    brand=brand,
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
        )
        posts = Delivery.objects.filter(brand=brand, state__in=_OPEN, post__deleted_at__isnull=True)
        recheck_signoff(context, posts.values_list("post_id", flat=True))
        record_event(
            brand.pk,
            context.actor,
            "rules",
            "brand",
            brand.pk,
            say("rules.changed", count=len(rows)) if data.needed else say("rules.ended"),
        )
        publish_change(brand.pk, "brand", brand.pk)
        publish_change(brand.pk, "post", 0)
    return rows


def simulate_rules(context: BrandContext, data: RulesIn) -> tuple[int, int]:
    """What keeping the rules would do to what is planned: how many deliveries would be held from now on, and how many go
    that are held now. Nothing is kept: they are kept, looked at and taken back. Raises InvalidError as keeping does."""
    with transaction.atomic():
        before = _held_deliveries(context)
        save_rules(context, data)
        after = _held_deliveries(context)
        transaction.set_rollback(True)
    return len(after - before), len(before - after)


def _held_deliveries(context: BrandContext) -> set[int]:
    held = Delivery.objects.filter(brand=context.brand, state=DeliveryState.HELD, held_for=Hold.SIGNOFF)
    return set(held.values_list("pk", flat=True))


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
