"""The writer that ships: no outside service, deterministic for a given seed. It proposes; a person decides."""

from collections.abc import Callable, Iterator, Sequence

import regex

from menudo_core.choices import Choices
from menudo_core.text.hashtags import hashtags
from menudo_core.text.links import link_spans, links
from menudo_core.wording import tables
from menudo_core.wording.sentences import split_sentences, split_words
from menudo_core.wording.shorten import shorten
from menudo_core.wording.writer import CannotWriteError, TaskKind, Voice, WritingTask

_MOST = 3
_EMOJI = regex.compile(
    r"\s?(?:\p{Extended_Pictographic}[\p{Emoji_Modifier}\ufe0f]?(?:\u200d\p{Extended_Pictographic}\ufe0f?)*)"
)
_ENGLISH_ONLY = {TaskKind.FORMAL, TaskKind.PLAIN}


class BuiltInWriter:
    """Rules and lists, no more: good for a first version, and honest about it."""

    def propose(self, task: WritingTask, seed: int) -> Sequence[str]:
        """Up to three proposals. Raises CannotWriteError."""
        english = task.voice.language in ("", "en") or task.voice.language.startswith("en-")
        if task.kind in _ENGLISH_ONLY and not english:
            raise CannotWriteError(
                "The built-in writer knows this for English only, and the brand sheet says another language."
            )
        if task.kind is not TaskKind.FROM_LINK and not task.text.strip():
            raise CannotWriteError("There is no text yet. Write a few words first.")
        choices = Choices(seed)
        out: list[str] = []
        lost: list[str] = []
        given = links(task.text) if task.kind is not TaskKind.FROM_LINK else []
        for proposal in _MAKERS[task.kind](task, choices, english):
            text = self._fit_to_limit(task, proposal)
            kept = set(links(text))
            if beyond := [link for link in (*given, *links(proposal)) if link not in kept]:
                lost = beyond
                continue
            if text and text != task.text and text not in out:
                out.append(text)
            if len(out) == _MOST:
                break
        if not out and lost:
            raise CannotWriteError(
                f"There is no room for the link {lost[0][:60]}, whatever else goes. Use a shorter one."
            )
        if not out:
            raise CannotWriteError(_NOTHING.get(task.kind, "There is nothing to change."))
        return out

    @staticmethod
    def _fit_to_limit(wish: WritingTask, text: str) -> str:
        text = text.strip()
        return text if wish.limit is None else shorten(text, wish.limit, wish.size)


_NOTHING = {
    TaskKind.SHORTEN: "It is as short as it can be without losing what it says.",
    TaskKind.PLAIN: "It is plain already.",
    TaskKind.FORMAL: "It is formal already.",
    TaskKind.FROM_LINK: "The page says nothing of itself to write from. Write a few words yourself.",
}


def _shorten(wish: WritingTask, choices: Choices, english: bool) -> Iterator[str]:
    size = wish.size(wish.text)
    limit = wish.limit if wish.limit is not None and wish.limit < size else max(20, size * 6 // 10)
    parts = split_sentences(wish.text)
    yield shorten(wish.text, limit, wish.size)
    if english:
        yield shorten(_drop_phrases(wish.text, tables.FILLERS), limit, wish.size)
    # The sentences that say least of what the brand speaks about go first.
    topics = {w for topic in wish.voice.topics for w in split_words(topic)}
    by_weight = sorted(range(len(parts)), key=lambda n: (len(topics & set(split_words(parts[n].text))), -n))
    yield shorten(wish.text, limit, wish.size, by_weight)
    yield shorten(wish.text, limit * 7 // 10, wish.size)
    yield shorten(wish.text, limit // 2, wish.size)


def _lengthen(wish: WritingTask, choices: Choices, english: bool) -> Iterator[str]:
    text, tail = _split_tail(wish.text)
    about = split_sentences(wish.voice.about)[:1]
    more = [about[0].bare] if about else []
    if english:
        more += choices.sample(tables.CLOSINGS, 2)
        if wish.voice.salesy >= 2:
            more.append(tables.SALES[min(wish.voice.salesy, len(tables.SALES)) - 1])
    if not more:
        raise CannotWriteError("Say in the brand sheet what the brand is about, and there is something to add.")
    for n in range(_MOST):
        added = [*more[n:], *more[:n]][: 1 + n]
        yield _join_tail(" ".join([text, *added]), tail)


def _make_formal(wish: WritingTask, choices: Choices, english: bool) -> Iterator[str]:
    calm = regex.sub(r"!+", ".", _EMOJI.sub("", wish.text))
    whole = _swap_phrases(calm, tables.CONTRACTIONS)
    yield _swap_phrases(whole, tables.FORMAL)
    yield whole
    yield calm


def _make_plain(wish: WritingTask, choices: Choices, english: bool) -> Iterator[str]:
    simple = _swap_phrases(wish.text, tables.PLAIN)
    yield regex.sub(r"\s*;\s+(\p{L})", lambda m: f". {m.group(1).upper()}", simple)
    yield _drop_phrases(simple, tables.FILLERS)
    yield simple


def _vary(wish: WritingTask, choices: Choices, english: bool) -> Iterator[str]:
    text, tail = _split_tail(wish.text)
    parts = [s.bare for s in split_sentences(text)]
    if english:
        for opening in choices.sample(tables.OPENINGS, len(tables.OPENINGS)):
            alike = _swap_phrases(text, {word: choices.pick(others) for word, others in tables.ALIKE.items()})
            start = opening.format(text=alike, brand=wish.voice.brand or "us")
            yield _join_tail(_add_emoji(start, wish.voice), tail)
    if len(parts) > 1:
        yield _join_tail(" ".join([*parts[1:], parts[0]]), tail)
        yield _join_tail(" ".join([parts[-1], *parts[:-1]]), tail)


def _write_from_link(wish: WritingTask, choices: Choices, english: bool) -> Iterator[str]:
    card = wish.card
    if card is None or not (card.title or card.description):
        raise CannotWriteError(_NOTHING[TaskKind.FROM_LINK])
    first = split_sentences(card.description)
    gist = first[0].bare if first else ""
    tail = [wish.link] if wish.link else []
    title = card.title.rstrip(".")
    both = " ".join(part if part[-1] in ".!?…" else f"{part}." for part in (title, gist) if part)
    yield _join_tail(_add_emoji(both, wish.voice), tail)
    if gist:
        yield _join_tail(gist, tail)
    if english and title:
        closing = tables.SALES[min(wish.voice.salesy, 3)] if wish.voice.salesy >= 2 else choices.pick(tables.CLOSINGS)
        yield _join_tail(f"{title}. {closing}", tail)
    yield _join_tail(": ".join(part for part in (title, card.description) if part), tail)


_MAKERS = {
    TaskKind.SHORTEN: _shorten,
    TaskKind.LENGTHEN: _lengthen,
    TaskKind.FORMAL: _make_formal,
    TaskKind.PLAIN: _make_plain,
    TaskKind.VARY: _vary,
    TaskKind.FROM_LINK: _write_from_link,
}


def _split_tail(text: str) -> tuple[str, list[str]]:
    """The words of a text, and the links and hashtags that stand at its end."""
    tail: list[str] = []
    end = len(text)
    for last in reversed(text.split()):
        if links(last) != [last] and not (last.startswith("#") and hashtags(last) == [last[1:]]):
            break
        tail.append(last)
        end = text.rindex(last, 0, end)
    return text[:end].rstrip(), tail[::-1]


def _join_tail(text: str, tail: list[str]) -> str:
    return f"{text.strip()} {' '.join(tail)}".strip()


def _swap_phrases(text: str, table: dict[str, str]) -> str:
    """Each word or turn of the table for its like, with the same capital; never inside a link or a hashtag."""
    pattern = "|".join(regex.escape(k).replace("'", "['’]") for k in sorted(table, key=len, reverse=True))
    kept = rf"[#@]\S+|\b(?:{pattern})\b"

    def swap(found: regex.Match[str]) -> str:
        phrase = found.group()
        other = table.get(phrase.casefold().replace("’", "'"))
        if other is None:
            return phrase
        return other[0].upper() + other[1:] if phrase[0].isupper() else other

    return _change_matches(kept, swap, text)


def _change_matches(pattern: str, change: Callable[[regex.Match[str]], str], text: str) -> str:
    """What the pattern finds, changed; what touches a link stays as it is."""
    there = link_spans(text)

    def outside(found: regex.Match[str]) -> str:
        touches = any(start < found.end() and found.start() < end for start, end in there)
        return found.group() if touches else change(found)

    return str(regex.sub(pattern, outside, text, flags=regex.IGNORECASE))


def _drop_phrases(text: str, turns: Sequence[str]) -> str:
    pattern = "|".join(regex.escape(t) for t in sorted(turns, key=len, reverse=True))
    less = _change_matches(rf",?[^\S\n]?(?<![#@/\w-])(?:{pattern})\b(?=[.!?…])", lambda _: "", text)
    less = _change_matches(rf"(?<![#@/\w-])(?:{pattern})\b,?[^\S\n]?", lambda _: "", less)
    return str(regex.sub(r"(?:^|(?<=[.!?]\s))\p{Ll}", lambda m: m.group().upper(), less))


def _add_emoji(text: str, voice: Voice) -> str:
    """With as many small pictures as the brand sheet asks for, where the words give cause."""
    if voice.emoji < 2 or _EMOJI.search(text):
        return text
    known = (tables.PICTURES.get(w) or tables.PICTURES.get(w.removesuffix("s")) for w in split_words(text))
    fitting = list(dict.fromkeys(picture for picture in known if picture))
    return " ".join([text, *fitting[: voice.emoji - 1]])
