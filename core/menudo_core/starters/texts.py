"""What a starter says, by rules and in English: openings with blanks that only a person can fill in."""

from collections.abc import Sequence

from menudo_core.choices import Choices
from menudo_core.text.hashtags import strip_sign

_DAY = (
    "{name} is on {day}. What we do for it: ___",
    "{day} is {name}. Here is what it means to us: ___",
    "Ahead of {name} on {day}: ___",
)
_OWN_DAY = ("{name}, {day}. ___", "On {day} it is {name}. Come and ___")
_TOPIC = (
    "A question that we are asked often about {topic}: ___ And what we answer: ___",
    "Three things about {topic} that hardly anyone knows: ___",
    "What is going on with {topic} this week: ___",
    "Behind the scenes: {topic}. ___",
    "One picture, one sentence: {topic}. ___",
)
_THING = (
    "{title} is still here, for {price}. What we like about it: ___",
    "Have you met {title}? ___",
    "If you have been waiting for {title}: ___",
)
_THING_PLAIN = ("{title} is still here. What we like about it: ___", "Have you met {title}? ___")
_ARTICLE = ("Worth reading: {title}. What we take from it: ___", "{title}. We would add: ___")


def day_text(name: str, day: str, is_custom: bool, seed: int) -> str:
    """A date of the almanac; `is_custom`: the brand's own. `day` is said as people say it."""
    return Choices(seed).pick(_OWN_DAY if is_custom else _DAY).format(name=name, day=day)


def topic_text(topic: str, seed: int) -> str:
    return Choices(seed).pick(_TOPIC).format(topic=topic)


def item_text(title: str, price: str, seed: int) -> str:
    """A thing of a catalogue that is still to be had."""
    return Choices(seed).pick(_THING if price else _THING_PLAIN).format(title=title, price=price)


def article_text(title: str, seed: int) -> str:
    return Choices(seed).pick(_ARTICLE).format(title=title.rstrip("."))


def with_tags(text: str, tags: Sequence[str]) -> str:
    """The standing hashtags of the brand under it."""
    signs = " ".join(f"#{strip_sign(tag)}" for tag in tags)
    return f"{text}\n\n{signs}" if signs else text
