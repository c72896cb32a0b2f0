"""The built-in writer: proposals that keep to limits, and lose no link."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from menudo_core.networks.content import Card
from menudo_core.text.clusters import Unit, clusters, measure
from menudo_core.text.hashtags import extract_hashtags, hashtags
from menudo_core.text.links import links, weighted_length
from menudo_core.wording.builtin import BuiltInWriter
from menudo_core.wording.compare import Change, compare_words
from menudo_core.wording.sentences import split_sentences
from menudo_core.wording.shorten import cut_at_word, links_beyond, shorten
from menudo_core.wording.tables import CLOSINGS, SALES
from menudo_core.wording.writer import CannotWriteError, TaskKind, Voice, WritingTask

TEXT = (
    "Forty kinds of moss live on the north wall. This week we're counting them, and you can help: Thursday at 15:00! "
    "Lots of folks come along. Really, it is very wet. See https://fernhollow.example/moss?x=1. #moss #bryophyta"
)
VOICE = Voice(
    "Fernhollow", "A botanic garden since 1871. It has four glasshouses.", ("moss", "glasshouses"), emoji=3, salesy=2
)
piece = st.sampled_from(
    [
        "moss",
        "wall.",
        "Thursday!",
        "🌿",
        "👩\u200d🌾",
        "क्षि",
        "é",
        "https://example.org/a?b=c",
        "#moss",
        "#día",
        "\n",
        "…",
        "one,",
        "。",
        "e\u0301",
    ]
)
texts = st.lists(piece, max_size=40).map(" ".join)


def size(text: str) -> int:
    return weighted_length(text, Unit.CLUSTERS, None)


@given(texts, st.integers(1, 120), st.sampled_from(list(Unit)))
def test_shortening_never_exceeds_the_limit_and_never_cuts_a_cluster(text, limit, unit):
    def counted(t: str) -> int:
        return weighted_length(t, unit, None)

    short = shorten(text, limit, counted)
    assert counted(short) <= limit
    if counted(text) <= limit:
        assert short == text
    whole = set(clusters(text)) | {"…", " ", "\n"}
    assert set(clusters(short)) <= whole


@given(texts, st.integers(40, 200))
def test_shortening_keeps_every_link_that_fits_and_cuts_none(text, limit):
    short = shorten(text, limit, size)
    assert set(links(short)) <= set(links(text)), "no link is cut in two"
    kept = list(dict.fromkeys(links(text)))
    # As long as the links leave room for words, they all stay.
    if kept and size(" ".join(kept)) + limit // 3 + 2 <= limit:
        assert set(links(short)) == set(kept)


@given(texts)
def test_sentences_joined_are_the_text_and_no_link_is_parted(text):
    parts = split_sentences(text)
    assert "".join(p.text for p in parts) == text
    assert [link for p in parts for link in p.links] == links(text)


def test_shortening_leaves_whole_sentences_out_first_and_keeps_link_and_tags():
    short = shorten(TEXT, 180, size)
    assert short.startswith("Forty kinds of moss live on the north wall.")
    assert "https://fernhollow.example/moss?x=1" in short and hashtags(short) == ["moss", "bryophyta"]
    assert "…" not in short and size(short) <= 180


@pytest.mark.parametrize("task", list(TaskKind))
def test_three_proposals_at_most_all_different_the_same_for_the_same_seed(task):
    wish = WritingTask(
        task,
        TEXT,
        link="https://x.example/a",
        card=Card("Moss week", "Forty mosses on one wall. Come and count."),
        voice=VOICE,
    )
    first, again = BuiltInWriter().propose(wish, 7), BuiltInWriter().propose(wish, 7)
    assert first == again and 1 <= len(first) <= 3
    assert len(set(first)) == len(first) and TEXT not in first
    if task is not TaskKind.FROM_LINK:
        assert all("https://fernhollow.example/moss?x=1" in p for p in first)
    if task not in (TaskKind.FROM_LINK, TaskKind.SHORTEN):
        assert all(set(hashtags(p)) >= {"moss", "bryophyta"} for p in first)


@settings(max_examples=60)
@given(texts.filter(str.strip), st.integers(30, 300), st.sampled_from(list(TaskKind)), st.integers(0, 99))
def test_no_proposal_exceeds_its_networks_limit(text, limit, task, seed):
    wish = WritingTask(task, text, limit, Unit.UTF16, 23, "https://x.example/a", Card("Moss", "A wall."), VOICE)
    try:
        found = BuiltInWriter().propose(wish, seed)
    except CannotWriteError:
        return
    assert all(wish.size(p) <= limit for p in found)


def test_formal_has_no_contractions_plain_has_short_words_and_both_leave_links_alone():
    formal = BuiltInWriter().propose(
        WritingTask(TaskKind.FORMAL, "We're open! Check out https://check-out.example/it's 🌿", voice=VOICE), 1
    )[0]
    assert formal == "We are open. See https://check-out.example/it's"
    plain = BuiltInWriter().propose(
        WritingTask(TaskKind.PLAIN, "We utilise numerous lenses; in order to assist.", voice=VOICE), 1
    )[0]
    assert plain == "We use many lenses. To help."


def test_the_writer_says_what_it_cannot_do():
    with pytest.raises(CannotWriteError, match="English only"):
        BuiltInWriter().propose(WritingTask(TaskKind.FORMAL, "Hola a todos", voice=Voice(language="es")), 1)
    with pytest.raises(CannotWriteError, match="no text yet"):
        BuiltInWriter().propose(WritingTask(TaskKind.VARY, "  "), 1)
    with pytest.raises(CannotWriteError, match="nothing of itself"):
        BuiltInWriter().propose(WritingTask(TaskKind.FROM_LINK, "", card=Card()), 1)


@given(texts, texts)
def test_differences_put_together_are_both_texts(before, after):
    found = compare_words(before, after)
    assert "".join(s.text for s in found if s.change is not Change.NEW) == before
    assert "".join(s.text for s in found if s.change is not Change.GONE) == after


@given(texts)
def test_a_text_keeps_its_words_when_its_tags_are_moved(text):
    left, tags = extract_hashtags(text)
    assert hashtags(left) == [] or measure(left, Unit.CLUSTERS) <= measure(text, Unit.CLUSTERS)
    assert {t.lstrip("#") for t in tags} == set(hashtags(text))


def test_a_link_that_cannot_fit_is_said_not_lost():
    long = f"https://fernhollow.example/{'moss' * 30}"
    with pytest.raises(CannotWriteError, match="no room for the link"):
        BuiltInWriter().propose(
            WritingTask(TaskKind.SHORTEN, f"All about moss, and where it grows best: {long}", 60), 1
        )


LINK = "https://a.example/x"


@pytest.mark.parametrize(
    ("text", "limit", "short"),
    [
        ("One. Two and three. Four five six.", 20, "One. Two and three."),
        ("One. Two and three. Four five six.", 18, "One."),
        ("One two three four five six", 14, "One two three…"),
        ("One two three four five six", 13, "One two…"),
        ("See https://a.example/x and https://b.example/y now", 30, "See and… https://a.example/x"),
        ("Moss grows on the wall all year. #moss #fern #wall", 30, "Moss grows… #moss #fern #wall"),
        ("One. https://a.example/abc Two.", 22, "https://a.example/abc"),
        ("One. Two and three. Four five six.", 19, "One. Two and three."),
        (f"Words here {LINK}aaaa {LINK}bbbb", 54, f"Words… {LINK}aaaa {LINK}bbbb"),
        (f"Words here {LINK}aaaa {LINK}bbbb", 47, f"{LINK}aaaa {LINK}bbbb"),
        (f"Words here {LINK}aaaa {LINK}bbbb", 46, f"Words here {LINK}aaaa"),
        ("Say #moss twice: #moss and then some more words here", 30, "Say twice: and then… #moss"),
        ("Moss on the walls #aa #bb", 17, "Moss on… #aa #bb"),
        ("abcd efgh", 6, "abcd…"),
        ("abcd efgh", 4, "abc…"),
        ("ab cdefghijklmnop", 10, "ab cdefgh…"),
        ("abcdefghij klm", 8, "abcdefg…"),
        ("ab", 1, ""),
    ],
)
def test_shortening_in_examples(text, limit, short):
    assert shorten(text, limit, size) == short
    assert links_beyond(text, limit, size) == [one for one in links(text) if one not in short]


@pytest.mark.parametrize(
    ("text", "limit", "cut"),
    [
        # A hashtag and a link are whole or not there, also at the very start.
        ("#abcdef moss", 4, ""),
        ("#abcdef moss", 8, "#abcdef…"),
        ("moss #abc def", 8, "moss…"),
        ("moss #abc def", 10, "moss #abc…"),
        ("One – two three", 7, "One…"),
        ("One, two three", 5, "One…"),
        ("a\nb\nc d", 5, "a\nb…"),
        ("ab", 1, ""),
        ("abc", 3, "abc"),
    ],
)
def test_a_cut_is_at_a_border(text, limit, cut):
    assert cut_at_word(text, limit, size) == cut


PLAIN_VOICE = Voice("Fernhollow", "A botanic garden. It has four glasshouses.", ("moss",), emoji=0, salesy=0)
SPANISH = Voice("F", "Un jardín. Otro.", ("musgo",), language="es", emoji=0)


def test_small_pictures_go_with_the_words_as_many_as_the_brand_sheet_asks_for():
    card = Card("Moss, gardens and seeds in winter", "Snow.")

    def added(emoji: int, **card_words: str) -> str:
        task = WritingTask(
            TaskKind.FROM_LINK, "", card=replace(card, **card_words), voice=replace(SPANISH, emoji=emoji)
        )
        return BuiltInWriter().propose(task, 1)[0].split("Snow. ")[-1]

    assert added(1) == "Moss, gardens and seeds in winter. Snow."
    assert [added(n) for n in (2, 3, 4, 9)] == ["🌿", "🌿 🌱", "🌿 🌱 ❄️", "🌿 🌱 ❄️"]
    assert added(2, title="Moss 🍞") == "Moss 🍞. Snow.", "one that has some gets no more"


def test_ten_thousand_links_at_the_end_stay_there():
    tail = " ".join([LINK] * 10_000)
    [more] = BuiltInWriter().propose(WritingTask(TaskKind.LENGTHEN, f"Musgo.\n{tail}", voice=SPANISH), 1)
    assert more == f"Musgo. Un jardín. {tail}"


@pytest.mark.parametrize(
    ("task", "proposals"),
    [
        # What speaks of the brand's topics stays longest; then less and less of it.
        (
            WritingTask(TaskKind.SHORTEN, "Uno dos tres cuatro. Musgo en el muro. Cinco seis siete.", voice=SPANISH),
            ["Uno dos tres cuatro.", "Musgo en el muro.", "Uno dos tres…"],
        ),
        (
            WritingTask(
                TaskKind.SHORTEN, "One two three four. Moss on the wall. Five six seven.", 40, voice=PLAIN_VOICE
            ),
            ["One two three four. Moss on the wall.", "One two three four."],
        ),
        (
            WritingTask(TaskKind.LENGTHEN, "Musgo en el muro. #musgo", voice=SPANISH),
            ["Musgo en el muro. Un jardín. #musgo"],
        ),
        (
            WritingTask(TaskKind.VARY, "Uno dos. Tres cuatro. Cinco seis. #uno", voice=SPANISH),
            ["Tres cuatro. Cinco seis. Uno dos. #uno", "Cinco seis. Uno dos. Tres cuatro. #uno"],
        ),
        (
            WritingTask(
                TaskKind.FROM_LINK, "", link=LINK, card=Card("Moss week.", "Forty kinds. On one wall."), voice=SPANISH
            ),
            [f"Moss week. Forty kinds. {LINK}", f"Forty kinds. {LINK}", f"Moss week: Forty kinds. On one wall. {LINK}"],
        ),
        (
            WritingTask(TaskKind.FROM_LINK, "", card=Card("", "Forty kinds"), voice=SPANISH),
            ["Forty kinds.", "Forty kinds"],
        ),
        (
            WritingTask(TaskKind.FROM_LINK, "", card=Card("", "Moss"), voice=replace(SPANISH, language="en")),
            ["Moss.", "Moss"],
        ),
        (
            WritingTask(TaskKind.FORMAL, "It's wet!!! Some moss 🌿 http://its.example/it's", voice=PLAIN_VOICE),
            ["It is wet. Some moss http://its.example/it's", "It's wet. Some moss http://its.example/it's"],
        ),
        (
            WritingTask(TaskKind.PLAIN, "We commence; then we utilise moss. Really, it's wet.", voice=PLAIN_VOICE),
            [
                "We start. Then we use moss. Really, it's wet.",
                "We start; then we use moss. It's wet.",
                "We start; then we use moss. Really, it's wet.",
            ],
        ),
    ],
)
def test_what_the_built_in_writer_proposes(task, proposals):
    assert [*BuiltInWriter().propose(task, 1)] == proposals


@pytest.mark.parametrize(("salesy", "sells"), [(1, ""), (2, SALES[1]), (3, SALES[2]), (4, SALES[3])])
def test_what_is_added_sells_as_much_as_the_brand_does(salesy, sells):
    voice = Voice("F", salesy=salesy, emoji=0)
    said = " ".join(BuiltInWriter().propose(WritingTask(TaskKind.LENGTHEN, "Moss on the wall.", voice=voice), 1))
    assert [line for line in SALES if line in said] == ([sells] if sells else [])
    linked = WritingTask(TaskKind.FROM_LINK, "", card=Card("Moss", "Forty kinds"), voice=voice)
    last = BuiltInWriter().propose(linked, 1)[-1]
    assert last == f"Moss. {SALES[min(salesy, 3)]}" if sells else last.removeprefix("Moss. ") in CLOSINGS
