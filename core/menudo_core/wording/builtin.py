"""The writer that ships: no outside service, deterministic for a given seed. It proposes; a person decides."""

from collections.abc import Callable, Iterator, Sequence

import regex

from menudo_core.choices import Choices
from menudo_core.text.hashtags import hashtags
from menudo_core.text.links import link_spans, links
from menudo_core.wording import tables
from menudo_core.wording.sentences import sentences, words
from menudo_core.wording.shorten import shorten
from menudo_core.wording.writer import CantWrite, Task, Voice, Wish

_MOST = 3
_EMOJI = regex.compile(
    r"\s?(?:\p{Extended_Pictographic}[\p{Emoji_Modifier}\ufe0f]?(?:\u200d\p{Extended_Pictographic}\ufe0f?)*)"
)
_ENGLISH_ONLY = {Task.FORMAL, Task.PLAIN}


class BuiltIn:
    """Rules and lists, no more: good for a first version, and honest about it."""

    def propose(self, wish: Wish, seed: int) -> Sequence[str]:
        """Up to three proposals. Raises CantWrite."""
        english = wish.voice.language in ("", "en") or wish.voice.language.startswith("en-")
        if wish.task in _ENGLISH_ONLY and not english:
            raise CantWrite(
                "The built-in writer knows this for English only, and the brand sheet says another language."
            )
        if wish.task is not Task.FROM_LINK and not wish.text.strip():
            raise CantWrite("There is no text yet. Write a few words first.")
        choices = Choices(seed)
        out: list[str] = []
        lost: list[str] = []
        given = links(wish.text) if wish.task is not Task.FROM_LINK else []
        for proposal in _MAKERS[wish.task](wish, choices, english):
            text = self._kept_to(wish, proposal)
            if beyond := [link for link in (*given, *links(proposal)) if link not in links(text)]:
                lost = beyond
                continue
            if text and text != wish.text and text not in out:
                out.append(text)
            if len(out) == _MOST:
                break
        if not out and lost:
            raise CantWrite(f"There is no room for the link {lost[0][:60]}, whatever else goes. Use a shorter one.")
        if not out:
            raise CantWrite(_NOTHING.get(wish.task, "There is nothing to change."))
        return out

    @staticmethod
    def _kept_to(wish: Wish, text: str) -> str:
        text = text.strip()
        return text if wish.limit is None else shorten(text, wish.limit, wish.size)


_NOTHING = {
    Task.SHORTEN: "It is as short as it can be without losing what it says.",
    Task.PLAIN: "It is plain already.",
    Task.FORMAL: "It is formal already.",
    Task.FROM_LINK: "The page says nothing of itself to write from. Write a few words yourself.",
}


def _shorter(wish: Wish, choices: Choices, english: bool) -> Iterator[str]:
    size = wish.size(wish.text)
    limit = wish.limit if wish.limit is not None and wish.limit < size else max(20, size * 6 // 10)
    parts = sentences(wish.text)
    yield shorten(wish.text, limit, wish.size)
    if english:
        yield shorten(_dropped(wish.text, tables.FILLERS), limit, wish.size)
    # The sentences that say least of what the brand speaks about go first.
    topics = {w for topic in wish.voice.topics for w in words(topic)}
    by_weight = sorted(range(len(parts)), key=lambda n: (len(topics & set(words(parts[n].text))), -n))
    yield shorten(wish.text, limit, wish.size, by_weight)
    yield shorten(wish.text, limit * 7 // 10, wish.size)
    yield shorten(wish.text, limit // 2, wish.size)


def _longer(wish: Wish, choices: Choices, english: bool) -> Iterator[str]:
    text, tail = _apart(wish.text)
    about = sentences(wish.voice.about)[:1]
    more = [about[0].bare] if about else []
    if english:
        more += choices.some(tables.CLOSINGS, 2)
        if wish.voice.salesy >= 2:
            more.append(tables.SALES[min(wish.voice.salesy, len(tables.SALES)) - 1])
    if not more:
        raise CantWrite("Say in the brand sheet what the brand is about, and there is something to add.")
    for n in range(_MOST):
        added = [*more[n:], *more[:n]][: 1 + n]
        yield _together(" ".join([text, *added]), tail)


def _formal(wish: Wish, choices: Choices, english: bool) -> Iterator[str]:
    calm = regex.sub(r"!+", ".", _EMOJI.sub("", wish.text))
    whole = _swapped(calm, tables.CONTRACTIONS)
    yield _swapped(whole, tables.FORMAL)
    yield whole
    yield calm


def _plain(wish: Wish, choices: Choices, english: bool) -> Iterator[str]:
    simple = _swapped(wish.text, tables.PLAIN)
    yield regex.sub(r"\s*;\s+(\p{L})", lambda m: f". {m.group(1).upper()}", simple)
    yield _dropped(simple, tables.FILLERS)
    yield simple


def _varied(wish: Wish, choices: Choices, english: bool) -> Iterator[str]:
    text, tail = _apart(wish.text)
    parts = [s.bare for s in sentences(text)]
    if english:
        for opening in choices.some(tables.OPENINGS, len(tables.OPENINGS)):
            alike = _swapped(text, {word: choices.one(others) for word, others in tables.ALIKE.items()})
            start = opening.format(text=alike, brand=wish.voice.brand or "us")
            yield _together(_illustrated(start, wish.voice), tail)
    if len(parts) > 1:
        yield _together(" ".join([*parts[1:], parts[0]]), tail)
        yield _together(" ".join([parts[-1], *parts[:-1]]), tail)


def _from_link(wish: Wish, choices: Choices, english: bool) -> Iterator[str]:
    card = wish.card
    if card is None or not (card.title or card.description):
        raise CantWrite(_NOTHING[Task.FROM_LINK])
    first = sentences(card.description)
    gist = first[0].bare if first else ""
    tail = [wish.link] if wish.link else []
    title = card.title.rstrip(".")
    both = " ".join(part if part[-1] in ".!?…" else f"{part}." for part in (title, gist) if part)
    yield _together(_illustrated(both, wish.voice), tail)
    if gist:
        yield _together(gist, tail)
    if english:
        closing = tables.SALES[min(wish.voice.salesy, 3)] if wish.voice.salesy >= 2 else choices.one(tables.CLOSINGS)
        yield _together(f"{title}. {closing}", tail)
    yield _together(f"{title}: {card.description}" if card.description else title, tail)


_MAKERS = {
    Task.SHORTEN: _shorter,
    Task.LENGTHEN: _longer,
    Task.FORMAL: _formal,
    Task.PLAIN: _plain,
    Task.VARY: _varied,
    Task.FROM_LINK: _from_link,
}


def _apart(text: str) -> tuple[str, list[str]]:
    """The words of a text, and the links and hashtags that stand at its end."""
    tail: list[str] = []
    rest = text.rstrip()
    while rest:
        last = rest.split()[-1] if rest.split() else ""
        if links(last) != [last] and not (last.startswith("#") and hashtags(last) == [last[1:]]):
            break
        tail.insert(0, last)
        rest = rest[: len(rest) - len(last)].rstrip()
    return rest, tail


def _together(text: str, tail: list[str]) -> str:
    return f"{text.strip()} {' '.join(tail)}".strip()


def _swapped(text: str, table: dict[str, str]) -> str:
    """Each word or turn of the table for its like, with the same capital; never inside a link or a hashtag."""
    pattern = "|".join(regex.escape(k).replace("'", "['’]") for k in sorted(table, key=len, reverse=True))
    kept = rf"[#@]\S+|\b(?:{pattern})\b"

    def swap(found: regex.Match[str]) -> str:
        said = found.group()
        other = table.get(said.casefold().replace("’", "'"))
        if other is None:
            return said
        return other[0].upper() + other[1:] if said[0].isupper() else other

    return _changed(kept, swap, text)


def _changed(pattern: str, change: Callable[[regex.Match[str]], str], text: str) -> str:
    """What the pattern finds, changed; what touches a link stays as it is."""
    there = link_spans(text)

    def outside(found: regex.Match[str]) -> str:
        touches = any(start < found.end() and found.start() < end for start, end in there)
        return found.group() if touches else change(found)

    return str(regex.sub(pattern, outside, text, flags=regex.IGNORECASE))


def _dropped(text: str, turns: Sequence[str]) -> str:
    pattern = "|".join(regex.escape(t) for t in sorted(turns, key=len, reverse=True))
    less = _changed(rf",?[^\S\n]?(?<![#@/\w-])(?:{pattern})\b(?=[.!?…])", lambda _: "", text)
    less = _changed(rf"(?<![#@/\w-])(?:{pattern})\b,?[^\S\n]?", lambda _: "", less)
    return str(regex.sub(r"(?:^|(?<=[.!?]\s))\p{Ll}", lambda m: m.group().upper(), less))


def _illustrated(text: str, voice: Voice) -> str:
    """With as many small pictures as the brand sheet asks for, where the words give cause."""
    if voice.emoji < 2 or _EMOJI.search(text):
        return text
    said = [w.rstrip("s") for w in words(text)]
    fitting = list(dict.fromkeys(p for w in said if (p := tables.PICTURES.get(w))))
    return " ".join([text, *fitting[: voice.emoji - 1]])
