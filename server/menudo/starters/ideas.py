"""What starters could begin from: the almanac, the shelf, catalogues, posts that did well, the brand sheet's topics."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from menudo.brandsheet.queries import brand_sheet
from menudo.calendar.bands import almanac_days
from menudo.catalogue.models import CatalogueItem
from menudo.feeds.queries import shelved_articles
from menudo.people.models import Brand
from menudo.posts.serializers import load_content
from menudo.posts.writing import brand_voice, configured_writer
from menudo.rotas.queries import rota_top_posts
from menudo_core.catalogue.events import Availability
from menudo_core.catalogue.formatting import format_price
from menudo_core.networks.content import Card, Content
from menudo_core.starters import texts
from menudo_core.starters.choose import Kind, Seed
from menudo_core.text.lines import first_line
from menudo_core.wording.writer import CannotWriteError, TaskKind, WritingTask

_AHEAD_DAYS, _EARLIEST_DAYS = 28, 3
_EACH = 12


@dataclass(frozen=True, slots=True)
class StarterIdea:
    """A seed with what its starter would be: the post's master, why it is proposed, and until when it makes sense."""

    seed: Seed
    why: str
    content: Content
    expires_on: date | None = None


def starter_ideas(brand: Brand, now: datetime) -> list[StarterIdea]:
    """All of them, a fixed number of statements."""
    sheet = brand_sheet(brand)
    today = now.astimezone(ZoneInfo(brand.zone)).date()
    number = today.toordinal()
    tags = sheet.hashtags[:3]
    return [
        *_day_ideas(brand, today, number, tags),
        *_article_ideas(brand, number),
        *_item_ideas(brand, number, tags),
        *_top_post_ideas(brand, now, number),
        *_topic_ideas(sheet.topics, today, number, tags),
    ]


def _day_ideas(brand: Brand, today: date, number: int, tags: list[str]) -> Iterator[StarterIdea]:
    first, last = today + timedelta(days=_EARLIEST_DAYS), today + timedelta(days=_AHEAD_DAYS)
    for day in almanac_days(brand, first, last)[:_EACH]:
        words = f"{day.day:%A} {day.day.day} {day.day:%B}"
        is_custom = day.kind == "own"
        away = (day.day - today).days
        text = texts.with_tags(texts.day_text(day.name, words, is_custom, number + away), tags)
        seed = Seed(
            Kind.ALMANAC, f"day:{day.name}:{day.day}"[:300], day.name, (1.2 if is_custom else 1.0) - away / _AHEAD_DAYS
        )
        yield StarterIdea(seed, f"{day.name} is in {away} days.", Content(text), day.day)


def _article_ideas(brand: Brand, number: int) -> Iterator[StarterIdea]:
    for n, article in enumerate(shelved_articles(brand).filter(link_ok=True, is_new=True).defer("thumb")[:_EACH]):
        card = Card(article.title[:300], article.summary[:1000])
        content = Content(texts.article_text(article.title, number + n), link=article.link, card=card)
        seed = Seed(Kind.ARTICLE, f"article:{article.pk}", article.title[:300], 0.8 - n / 40)
        yield StarterIdea(seed, f"It is fresh from {article.feed.title}.", content)


def _item_ideas(brand: Brand, number: int, tags: list[str]) -> Iterator[StarterIdea]:
    rows = CatalogueItem.objects.filter(catalogue__brand=brand, availability=Availability.FREE).select_related(
        "catalogue"
    )
    for n, item in enumerate(rows.order_by("last_seen_at", "pk")[:_EACH]):
        text = texts.item_text(item.title, format_price(item.price, item.currency), number + n)
        media = (item.asset_id,) if item.asset_id else ()
        content = Content(texts.with_tags(text, tags), media, link=item.link)
        seed = Seed(Kind.THING, f"thing:{item.pk}:{number // 60}", item.title[:300], 0.4)
        yield StarterIdea(seed, f"It is still free in {item.catalogue.name}.", content)


def _top_post_ideas(brand: Brand, now: datetime, number: int) -> Iterator[StarterIdea]:
    voice = brand_voice(brand)
    for n, (post, well) in enumerate(rota_top_posts(brand, now, _EACH)):
        earlier = load_content(post.master)
        text = earlier.text
        try:
            proposals = list(configured_writer().propose(WritingTask(TaskKind.VARY, text, voice=voice), number + n))
        except CannotWriteError:
            continue
        if not proposals:
            continue
        topic = first_line(text)[:300]
        why = f"An earlier post that earned {well.times_usual:.1f} times the usual, said another way."
        seed = Seed(Kind.SUCCESS, f"success:{post.pk}", topic, min(1.0, well.times_usual / 3))
        yield StarterIdea(seed, why, Content(proposals[0], earlier.media, link=earlier.link))


def _topic_ideas(topics: list[str], today: date, number: int, tags: list[str]) -> Iterator[StarterIdea]:
    year, week, _ = today.isocalendar()
    for n, topic in enumerate(topics[:_EACH]):
        text = texts.with_tags(texts.topic_text(topic, number + n), tags)
        seed = Seed(Kind.TOPIC, f"topic:{topic}:{year}:{week // 2}"[:300], topic, 0.5)
        yield StarterIdea(seed, "It is one of the brand sheet's topics.", Content(text))
