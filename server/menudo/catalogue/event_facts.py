"""What an event of a catalogue says, for its message and its banner."""

from dataclasses import dataclass

from menudo.catalogue.models import CatalogueItem
from menudo_core.catalogue.events import Event, EventKind
from menudo_core.catalogue.formatting import EVENT_TITLES, format_day, format_price


@dataclass(frozen=True, slots=True)
class EventFacts:
    """As they were when it happened. `before`: the price before; all are texts as they are shown, empty where there is none."""

    event: str = ""
    title: str = ""
    price: str = ""
    before: str = ""
    open_day: str = ""
    about: str = ""
    link: str = ""


def event_facts(item: CatalogueItem, event: Event) -> EventFacts:
    return EventFacts(
        event=event.name if event.happened is EventKind.OWN else EVENT_TITLES[event.happened],
        title=item.title,
        price=format_price(item.price, item.currency),
        before=format_price(event.before, item.currency),
        open_day=format_day(item.open_day),
        about=item.about,
        link=item.link,
    )
