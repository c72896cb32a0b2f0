"""Fill a cell of the board, change it, empty it."""

from collections.abc import Sequence
from typing import Any

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.revisions import require_unchanged
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.history.actions.record_event import record_event
from menudo.labels.models import Label
from menudo.library.models import LinkTags
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo.relays.models import Relay
from menudo.relays.schemas import RelayCellIn, RelaySettings, SourceIO
from menudo.relays.serializers import default_settings
from menudo_core.catalogue.events import EventKind
from menudo_core.feeds.messages import unknown_placeholders
from menudo_core.relays.messages import SourceKind, placeholders_for

_MOST = 2000


def save_relay(
    context: BrandContext,
    relay_id: int | None,
    data: RelaySettings,
    revision: int | None = None,
    source: SourceIO | None = None,
    target: int | None = None,
) -> Relay:
    """A cell filled (`relay_id` None, with its source and target; it begins switched off), or changed. Raises InvalidError with every
    fault at its field, StaleRevisionError, NotFoundError."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        if relay_id is not None:
            relay = relay_of(context, relay_id, lock=True)
            if revision is not None:
                require_unchanged(revision, relay.revision)
        else:
            relay = _new_relay(context, source, target)
        if faults := settings_faults(context, relay, data):
            raise InvalidError(faults=faults)
        _write_settings(relay, data)
        relay.run_as = relay.run_as or context.user
        relay.revision += 1 if relay_id is not None else 0
        try:
            with transaction.atomic():
                relay.save()
        except IntegrityError:
            raise InvalidError.at("/target", say("relay.there_already")) from None
        record_event(
            context.brand.pk,
            context.actor,
            "keep_relay",
            "relay",
            relay.pk,
            say("relay.kept", profile=relay.target.handle),
        )
        publish_change(context.brand.pk, "relay", relay.pk)
    return relay


def unsaved_relay(context: BrandContext, data: RelayCellIn) -> Relay:
    """A relay that is kept nowhere, to look at what it would do. Raises InvalidError."""
    relay = _new_relay(context, data.source, data.target)
    if faults := settings_faults(context, relay, data):
        raise InvalidError(faults=faults)
    _write_settings(relay, data)
    return relay


def save_relays(context: BrandContext, cells: Sequence[RelayCellIn]) -> list[Relay]:
    """Several cells at once, all or none; those filled already stay as they are. Raises InvalidError."""
    context.require(Capability.PUBLISH)
    made = []
    with transaction.atomic():
        for n, cell in enumerate(cells):
            try:
                with transaction.atomic():
                    made.append(save_relay(context, None, cell, source=cell.source, target=cell.target))
            except InvalidError as invalid:
                if {fault.code for fault in invalid.faults} != {"relay.there_already"}:
                    raise InvalidError(
                        faults=[Fault(f"/cells/{n}{f.pointer}", f.detail, f.kind) for f in invalid.faults]
                    ) from None
        if not made:
            raise InvalidError.at("/cells", say("relay.cells_filled"))
    return made


def delete_relay(context: BrandContext, relay_id: int) -> None:
    """Empty a cell: what it carried stays."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        relay = relay_of(context, relay_id, lock=True)
        record_event(
            context.brand.pk,
            context.actor,
            "empty_relay",
            "relay",
            relay.pk,
            say("relay.removed", profile=relay.target.handle),
        )
        relay.delete()
        publish_change(context.brand.pk, "relay", relay_id)


def _new_relay(context: BrandContext, source: SourceIO | None, target: int | None) -> Relay:
    if Relay.objects.filter(brand=context.brand).count() >= _MOST:
        raise InvalidError.at("/target", say("relay.many", most=_MOST))
    relay, faults = Relay(brand=context.brand), []
    found = Profile.objects.filter(brand=context.brand, pk=target or 0).first()
    if found is None:
        faults.append(Fault("/target", say("profile.foreign")))
    else:
        relay.target = found
    if source is None or not _set_source(context, relay, source):
        faults.append(Fault("/source/key", say("relay.source")))
    elif relay.profile_id is not None and relay.profile_id == target:
        faults.append(Fault("/target", say("relay.itself")))
    if faults:
        raise InvalidError(faults=faults)
    return relay


def _set_source(context: BrandContext, relay: Relay, source: SourceIO) -> bool:
    kind, source_id = source.key[0], int(source.key[1:])
    models: dict[str, tuple[str, Any]] = {
        "p": ("profile", Profile),
        "f": ("feed", Feed),
        "c": ("catalogue", Catalogue),
        "l": ("label", Label),
    }
    name, model = models[kind]
    found = model.objects.filter(brand=context.brand, pk=source_id).first()
    if found is None:
        return False
    setattr(relay, name, found)
    if kind != "c":
        return not source.event
    relay.event, relay.event_name = source.event, source.event_name
    custom_names = {rule["name"] for rule in found.rules}
    return (
        source.event_name in custom_names
        if source.event == EventKind.OWN
        else source.event in set(EventKind) and not source.event_name
    )


def settings_faults(context: BrandContext, relay: Relay, data: RelaySettings) -> list[Fault]:
    """What is wrong with settings for a relay, each at its field."""
    found, names = [], placeholders_for(SourceKind(relay.source[0]))
    for n, message in enumerate(data.messages):
        if words := storage_refusal(message.text):
            found.append(Fault(f"/messages/{n}/text", words))
        elif not message.text.strip():
            found.append(Fault(f"/messages/{n}/text", say("relay.empty_message")))
        elif odd := unknown_placeholders(message.text, names):
            found.append(Fault(f"/messages/{n}/text", say("placeholder.unknown", placeholder=odd[0])))
    if odd := unknown_placeholders(data.adaptation.link_to, names):
        found.append(Fault("/adaptation/link_to", say("placeholder.unknown", placeholder=odd[0])))
    known = {rule.name for rule in sheet_for(context.brand.pk, relay.target.network).fields}
    for name, text in data.adaptation.fields.items():
        if name not in known:
            found.append(Fault(f"/adaptation/fields/{name}", say("relay.field")))
        elif odd := unknown_placeholders(text, names):
            found.append(Fault(f"/adaptation/fields/{name}", say("placeholder.unknown", placeholder=odd[0])))
    hours = data.conditions.hours
    if hours and hours[0] == hours[1]:
        found.append(Fault("/conditions/hours", say("relay.no_hours")))
    if (data.hours_from is None) != (data.hours_until is None) or (
        data.hours_from is not None and data.hours_from == data.hours_until
    ):
        found.append(Fault("/hours_until", say("relay.half_hours")))
    if data.link_tags is not None and not LinkTags.objects.filter(brand=context.brand, pk=data.link_tags).exists():
        found.append(Fault("/link_tags", say("link_tags.foreign")))
    return found


def _write_settings(relay: Relay, data: RelaySettings) -> None:
    relay.conditions = data.conditions.model_dump(mode="json")
    messages = [m.model_dump() for m in data.messages or default_settings(relay.source, relay.event).messages]
    before = {m["text"]: m["id"] for m in relay.messages}
    new = max([0, *(m["id"] for m in relay.messages)])
    kept = []
    for message in messages:
        # A message keeps its count while its words stay.
        message_id = before.pop(message["text"], None)
        if message_id is None:
            new += 1
            message_id = new
        kept.append({"id": message_id, **message})
    relay.messages = kept
    relay.adaptation = data.adaptation.model_dump(mode="json")
    relay.link_tags_id = data.link_tags
    for name in ("timing", "delay_minutes", "confirmation", "hours_from", "hours_until", "daily_limit", "hourly_limit"):
        setattr(relay, name, getattr(data, name))


def relay_of(context: BrandContext, relay_id: int, lock: bool = False) -> Relay:
    """A relay of the brand. Raises NotFoundError."""
    relays = Relay.objects.select_for_update(of=("self",)) if lock else Relay.objects
    return first_or_404(relays.select_related("target", "brand", "run_as").filter(brand=context.brand, pk=relay_id))
