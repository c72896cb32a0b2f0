"""Keep a brand's rules of sign-off."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.history.actions.record import record
from menudo.labels.models import Label
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Brand, Membership
from menudo.posts.change.locks import shut_gate
from menudo.posts.change.recheck import recheck_signoff
from menudo.posts.models import Delivery, SignRule
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo.signoff.schemas import RulesIn
from menudo.signoff.signers import Signers
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.says import kinds
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.clean import unusable

_OPEN = [s for s in DeliveryState if s not in (DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF)]


def keep_rules(place: Here, data: RulesIn) -> list[SignRule]:
    """The whole list, as it is from now on, and whether sign-off is needed at all. What is open is looked at again: it
    may be held now, or go. Raises Invalid, with each fault at its rule."""
    place.needs(May.MANAGE_PEOPLE)
    faults = _faults(place, data)
    if faults:
        raise Invalid(faults=faults)
    with transaction.atomic():
        shut_gate([place.brand.pk])
        brand = Brand.objects.select_for_update(no_key=True).get(pk=place.brand.pk)
        brand.needs_signoff, brand.moving_asks = data.needed, data.moving_asks
        brand.earlier_stands = data.earlier_stands
        brand.save(update_fields=["needs_signoff", "moving_asks", "earlier_stands"])
        SignRule.objects.filter(brand=brand).delete()
        rows = SignRule.objects.bulk_create(
            [
                SignRule(
                    brand=brand, name=r.name.strip(), who=r.who, how=r.how, profiles=r.profiles, labels=r.labels,
                    kinds=r.kinds, authors=r.authors, before_hours=r.before_hours,
                )
                for r in data.rules
            ]
        )  # fmt: skip
        posts = Delivery.objects.filter(brand=brand, state__in=_OPEN, post__binned__isnull=True)
        recheck_signoff(place, posts.values_list("post_id", flat=True))
        words = f"changed the rules of sign-off: {len(rows)} {'rule' if len(rows) == 1 else 'rules'}"
        record(brand.pk, place.actor, "rules", "brand", brand.pk, words if data.needed else "ended sign-off")
        tell(brand.pk, "brand", brand.pk)
        tell(brand.pk, "post", 0)
    return rows


def try_rules(place: Here, data: RulesIn) -> tuple[int, int]:
    """What keeping the rules would do to what is planned: how many deliveries would be held from now on, and how many go
    that are held now. Nothing is kept: they are kept, looked at and taken back. Raises Invalid as keeping does."""
    with transaction.atomic():
        before = _waiting(place)
        keep_rules(place, data)
        after = _waiting(place)
        transaction.set_rollback(True)
    return len(after - before), len(before - after)


def _waiting(place: Here) -> set[int]:
    held = Delivery.objects.filter(brand=place.brand, state=DeliveryState.HELD, held_for=Hold.SIGNOFF)
    return set(held.values_list("pk", flat=True))


def _faults(place: Here, data: RulesIn) -> list[Fault]:
    signers = Signers.of(place.brand).names
    profiles = set(Profile.objects.filter(brand=place.brand).values_list("pk", flat=True))
    labels = set(Label.objects.filter(brand=place.brand).values_list("pk", flat=True))
    known_kinds = kinds(sheets_of(place.brand.pk).values())
    people = set(Membership.objects.filter(brand=place.brand).values_list("user_id", flat=True))
    faults = []
    for n, rule in enumerate(data.rules):
        if not rule.name.strip() or unusable(rule.name):
            faults.append(Fault(f"/rules/{n}/name", unusable(rule.name) or "Give the rule a name.", "missing"))
        for part, said, known, words in (
            ("who", rule.who, signers, "may not sign off here any more."),
            ("profiles", rule.profiles, profiles, "isn't one of this brand's profiles."),
            ("labels", rule.labels, labels, "isn't one of this brand's labels."),
            ("kinds", rule.kinds, known_kinds, "is no kind of post."),
            ("authors", rule.authors, people, "isn't one of this brand's people."),
        ):
            faults += _unknown(f"/rules/{n}/{part}", said, known, words)
        if len(set(rule.who)) < len(rule.who):
            faults.append(Fault(f"/rules/{n}/who", "Name each of them once.", "twice"))
        if not rule.who and rule.how != "any":
            faults.append(Fault(f"/rules/{n}/who", "Name who must agree.", "missing"))
    return faults


def _unknown(pointer: str, said: Sequence[object], known: object, words: str) -> list[Fault]:
    return [
        Fault(f"{pointer}/{i}", f"“{one}” {words}", "foreign")
        for i, one in enumerate(said)
        if one not in known  # type: ignore[operator]
    ]
