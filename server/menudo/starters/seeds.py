"""What starters could begin from: the almanac, the shelf, catalogues, posts that did well, the brand sheet's topics."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from menudo.brandsheet.reads import said_of
from menudo.calendar.bands import days_worth
from menudo.catalogue.models import Thing
from menudo.feeds.reads import on_shelf
from menudo.people.models import Brand
from menudo.posts.wordings import voice_of, writer
from menudo.rotas.reads import did_well
from menudo_core.catalogue.events import Standing
from menudo_core.catalogue.said import price_words
from menudo_core.starters import say
from menudo_core.starters.choose import Kind, Seed
from menudo_core.text.lines import first_line
from menudo_core.wording.writer import CantWrite, Task, Wish

_AHEAD_DAYS, _EARLIEST_DAYS = 28, 3
_EACH = 12


@dataclass(frozen=True, slots=True)
class Grown:
    """A seed with what its starter would be: the post's master, why it is proposed, and until when it makes sense."""

    seed: Seed
    why: str
    master: dict[str, Any]
    good_until: date | None = None


def seeds(brand: Brand, now: datetime) -> list[Grown]:
    """All of them, a fixed number of statements."""
    said = said_of(brand)
    today = now.astimezone(ZoneInfo(brand.zone)).date()
    number = today.toordinal()
    tags = said.get("hashtags", [])[:3]
    return [
        *_days(brand, today, number, tags), *_articles(brand, number), *_things(brand, number, tags),
        *_successes(brand, now, number), *_topics(said.get("topics", []), today, number, tags),
    ]  # fmt: skip


def _days(brand: Brand, today: date, number: int, tags: list[str]) -> Iterator[Grown]:
    first, last = today + timedelta(days=_EARLIEST_DAYS), today + timedelta(days=_AHEAD_DAYS)
    for day in days_worth(brand, first, last)[:_EACH]:
        words = f"{day.day:%A} {day.day.day} {day.day:%B}"
        own = day.kind == "own"
        away = (day.day - today).days
        text = say.with_tags(say.for_day(day.name, words, own, number + away), tags)
        seed = Seed(
            Kind.ALMANAC, f"day:{day.name}:{day.day}"[:300], day.name, (1.2 if own else 1.0) - away / _AHEAD_DAYS
        )
        yield Grown(seed, f"{day.name} is in {away} days.", {"text": text}, day.day)


def _articles(brand: Brand, number: int) -> Iterator[Grown]:
    for n, article in enumerate(on_shelf(brand).filter(link_ok=True, fresh=True).defer("thumb")[:_EACH]):
        card = {"title": article.title[:300], "description": article.summary[:1000], "picture": None}
        master = {"text": say.for_article(article.title, number + n), "link": article.link, "card": card}
        seed = Seed(Kind.ARTICLE, f"article:{article.pk}", article.title[:300], 0.8 - n / 40)
        yield Grown(seed, f"It is fresh from {article.feed.title}.", master)


def _things(brand: Brand, number: int, tags: list[str]) -> Iterator[Grown]:
    rows = Thing.objects.filter(catalogue__brand=brand, standing=Standing.FREE).select_related("catalogue")
    for n, thing in enumerate(rows.order_by("seen", "pk")[:_EACH]):
        text = say.for_thing(thing.title, price_words(thing.price, thing.currency), number + n)
        master: dict[str, Any] = {"text": say.with_tags(text, tags)}
        if thing.link:
            master["link"] = thing.link
        if thing.asset_id:
            master["media"] = [thing.asset_id]
        seed = Seed(Kind.THING, f"thing:{thing.pk}:{number // 60}", thing.title[:300], 0.4)
        yield Grown(seed, f"It is still free in {thing.catalogue.name}.", master)


def _successes(brand: Brand, now: datetime, number: int) -> Iterator[Grown]:
    voice = voice_of(brand)
    for n, (post, well) in enumerate(did_well(brand, now, _EACH)):
        text = post.master.get("text", "")
        try:
            proposals = list(writer().propose(Wish(Task.VARY, text, voice=voice), number + n))
        except CantWrite:
            continue
        if not proposals:
            continue
        kept = {name: post.master[name] for name in ("media", "link") if post.master.get(name)}
        topic = first_line(text)[:300]
        why = f"An earlier post that earned {well.times_usual:.1f} times the usual, said another way."
        seed = Seed(Kind.SUCCESS, f"success:{post.pk}", topic, min(1.0, well.times_usual / 3))
        yield Grown(seed, why, {"text": proposals[0], **kept})


def _topics(topics: list[str], today: date, number: int, tags: list[str]) -> Iterator[Grown]:
    year, week, _ = today.isocalendar()
    for n, topic in enumerate(topics[:_EACH]):
        text = say.with_tags(say.for_topic(topic, number + n), tags)
        seed = Seed(Kind.TOPIC, f"topic:{topic}:{year}:{week // 2}"[:300], topic, 0.5)
        yield Grown(seed, "It is one of the brand sheet's topics.", {"text": text})
