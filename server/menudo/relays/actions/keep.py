"""Fill a cell of the board, change it, empty it."""

from collections.abc import Sequence
from typing import Any

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.revisions import unchanged
from menudo.base.rows import the_one
from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.history.actions.record import record
from menudo.labels.models import Label
from menudo.library.models import LinkTags
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo.relays.kept import usual
from menudo.relays.models import Relay
from menudo.relays.schemas import RelayCellIn, RelaySettings, SourceIO
from menudo_core.catalogue.events import Happened
from menudo_core.feeds.messages import unknown
from menudo_core.relays.says import SourceKind, names_for
from menudo_core.text.clean import unusable

_MOST = 2000


def keep(
    place: Here,
    id: int | None,
    data: RelaySettings,
    began: int | None = None,
    source: SourceIO | None = None,
    target: int | None = None,
) -> Relay:
    """A cell filled (`id` None, with its source and target; it begins switched off), or changed. Raises Invalid with every
    fault at its field, Stale, NotFound."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        if id is not None:
            relay = relay_of(place, id, lock=True)
            if began is not None:
                unchanged(began, relay.revision)
        else:
            relay = _cell(place, source, target)
        if faults := faults_of(place, relay, data):
            raise Invalid(faults=faults)
        _write(relay, data)
        relay.by = relay.by or place.user
        relay.revision += 1 if id is not None else 0
        try:
            with transaction.atomic():
                relay.save()
        except IntegrityError:
            raise Invalid.at("/target", "There is a relay from there to here already.", "twice") from None
        record(place.brand.pk, place.actor, "keep_relay", "relay", relay.pk, f"kept a relay to {relay.target.handle}")
        tell(place.brand.pk, "relay", relay.pk)
    return relay


def settings_only(place: Here, data: RelayCellIn) -> Relay:
    """A relay that is kept nowhere, to look at what it would do. Raises Invalid."""
    relay = _cell(place, data.source, data.target)
    if faults := faults_of(place, relay, data):
        raise Invalid(faults=faults)
    _write(relay, data)
    return relay


def keep_many(place: Here, cells: Sequence[RelayCellIn]) -> list[Relay]:
    """Several cells at once, all or none; those filled already stay as they are. Raises Invalid."""
    place.needs(May.PUBLISH)
    made = []
    with transaction.atomic():
        for n, cell in enumerate(cells):
            try:
                with transaction.atomic():
                    made.append(keep(place, None, cell, source=cell.source, target=cell.target))
            except Invalid as invalid:
                if {fault.code for fault in invalid.faults} != {"twice"}:
                    raise Invalid(
                        faults=[Fault(f"/cells/{n}{f.pointer}", f.words, f.code) for f in invalid.faults]
                    ) from None
        if not made:
            raise Invalid.at("/cells", "All of these cells are filled already.", "twice")
    return made


def empty(place: Here, id: int) -> None:
    """Empty a cell: what it carried stays."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        relay = relay_of(place, id, lock=True)
        record(
            place.brand.pk, place.actor, "empty_relay", "relay", relay.pk, f"took a relay to {relay.target.handle} away"
        )
        relay.delete()
        tell(place.brand.pk, "relay", id)


def _cell(place: Here, source: SourceIO | None, target: int | None) -> Relay:
    if Relay.objects.filter(brand=place.brand).count() >= _MOST:
        raise Invalid.at("/target", f"A brand has {_MOST} relays at most.", "many")
    relay, faults = Relay(brand=place.brand), []
    found = Profile.objects.filter(brand=place.brand, pk=target or 0).first()
    if found is None:
        faults.append(Fault("/target", "This profile isn't one of this brand's.", "foreign"))
    else:
        relay.target = found
    if source is None or not _sourced(place, relay, source):
        faults.append(Fault("/source/key", "There is no such source in this brand.", "foreign"))
    elif relay.profile_id is not None and relay.profile_id == target:
        faults.append(Fault("/target", "A relay leads to another profile than it comes from.", "itself"))
    if faults:
        raise Invalid(faults=faults)
    return relay


def _sourced(place: Here, relay: Relay, source: SourceIO) -> bool:
    kind, id = source.key[0], int(source.key[1:])
    models: dict[str, tuple[str, Any]] = {
        "p": ("profile", Profile), "f": ("feed", Feed), "c": ("catalogue", Catalogue), "l": ("label", Label),
    }  # fmt: skip
    name, model = models[kind]
    found = model.objects.filter(brand=place.brand, pk=id).first()
    if found is None:
        return False
    setattr(relay, name, found)
    if kind != "c":
        return not source.event
    relay.event, relay.event_name = source.event, source.event_name
    own = {rule["name"] for rule in found.rules}
    return (
        source.event_name in own
        if source.event == Happened.OWN
        else source.event in set(Happened) and not source.event_name
    )


def faults_of(place: Here, relay: Relay, data: RelaySettings) -> list[Fault]:
    """What is wrong with settings for a relay, each at its field."""
    found, names = [], names_for(SourceKind(relay.source[0]))
    for n, message in enumerate(data.messages):
        if words := unusable(message.text):
            found.append(Fault(f"/messages/{n}/text", words))
        elif not message.text.strip():
            found.append(Fault(f"/messages/{n}/text", "Write the message, or take it out.", "empty"))
        elif odd := unknown(message.text, names):
            found.append(Fault(f"/messages/{n}/text", f"There is no placeholder {odd[0]} here.", "placeholder"))
    if odd := unknown(data.shape.link_to, names):
        found.append(Fault("/shape/link_to", f"There is no placeholder {odd[0]} here.", "placeholder"))
    known = {rule.name for rule in sheet_for(place.brand.pk, relay.target.network).fields}
    for name, text in data.shape.fields.items():
        if name not in known:
            found.append(Fault(f"/shape/fields/{name}", "The network has no such field.", "foreign"))
        elif odd := unknown(text, names):
            found.append(Fault(f"/shape/fields/{name}", f"There is no placeholder {odd[0]} here.", "placeholder"))
    hours = data.conditions.hours
    if hours and hours[0] == hours[1]:
        found.append(Fault("/conditions/hours", "These are no hours at all: both are the same.", "hours"))
    if (data.goes_from is None) != (data.goes_until is None) or (
        data.goes_from is not None and data.goes_from == data.goes_until
    ):
        found.append(Fault("/goes_until", "Say from when and until when, or leave both out.", "hours"))
    if data.link_tags is not None and not LinkTags.objects.filter(brand=place.brand, pk=data.link_tags).exists():
        found.append(Fault("/link_tags", "These link tags aren't this brand's.", "foreign"))
    return found


def _write(relay: Relay, data: RelaySettings) -> None:
    relay.conditions = data.conditions.model_dump(mode="json")
    messages = [m.model_dump() for m in data.messages or usual(relay.source, relay.event).messages]
    before = {m["text"]: m["id"] for m in relay.messages}
    new = max([0, *(m["id"] for m in relay.messages)])
    kept = []
    for message in messages:
        # A message keeps its count while its words stay.
        id = before.pop(message["text"], None)
        if id is None:
            new += 1
            id = new
        kept.append({"id": id, **message})
    relay.messages = kept
    relay.shape = data.shape.model_dump(mode="json")
    relay.link_tags_id = data.link_tags
    for name in ("how", "minutes", "asks", "goes_from", "goes_until", "per_day", "ceiling"):
        setattr(relay, name, getattr(data, name))


def relay_of(place: Here, id: int, lock: bool = False) -> Relay:
    """A relay of the brand. Raises NotFound."""
    relays = Relay.objects.select_for_update(of=("self",)) if lock else Relay.objects
    return the_one(relays.select_related("target", "brand", "by").filter(brand=place.brand, pk=id))
