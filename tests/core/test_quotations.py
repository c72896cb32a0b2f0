"""The collection of quotations: out of copyright, by twelve subjects, each with its author, work, year and source.

543 of them were compared word for word with the texts named in `SOURCES` when the collection was put together; those
marked as from memory were not."""

from collections import Counter

import pytest

from menudo_core.quotations.collection import (
    DIED_BEFORE,
    SOURCES,
    Source,
    Subject,
    all_quotations,
    find_quotations,
    quotation_text,
    quotations_by_id,
    topic_score,
)
from menudo_core.text.storable import unstorable_reason


def test_there_are_enough_by_twelve_subjects_and_all_are_out_of_copyright():
    every = all_quotations()
    assert len(every) >= 400 and len(Subject) == 12
    assert min(Counter(one.subject for one in every).values()) >= 30
    assert all(one.died < DIED_BEFORE and one.year < DIED_BEFORE for one in every)
    assert all(one.text and one.author and one.work and one.source in SOURCES for one in every)
    assert not any(unstorable_reason(one.text) or one.text != one.text.strip() for one in every)
    # None stands there twice, and most were compared with a text.
    assert len(quotations_by_id()) == len(every) == len({one.text.casefold() for one in every})
    assert sum(one.source is not Source.MEMORY for one in every) > 500


@pytest.mark.parametrize(
    ("words", "author", "work", "year"),
    [
        # Well known, and printed in any dictionary of quotations.
        ("shall i compare thee", "William Shakespeare", "Sonnets", 1609),
        ("call me ishmael", "Herman Melville", "Moby-Dick", 1851),
        ("planted a garden", "Francis Bacon", "Essays", 1625),
    ],
)
def test_well_known_ones_are_where_they_belong(words, author, work, year):
    (one,) = find_quotations(words)
    assert (one.author, one.work, one.year) == (author, work, year)


def test_a_topics_short_words_are_too_common_to_go_by():
    plain = find_quotations("garden")
    # Kept in rotas of whoever has used them.
    assert (plain[0].id, len(plain[0].id)) == ("48879fd920", 10)
    assert find_quotations("garden", topics=["the sea"]) == plain
    scores = [topic_score(one, frozenset({"moss", "planted"})) for one in find_quotations("planted a garden")]
    assert scores == [2], "a word of its own counts twice"


def test_looking_by_words_subject_and_what_the_brand_speaks_of():
    assert {one.author for one in find_quotations("melville")} == {"Herman Melville"}
    assert {one.subject for one in find_quotations(subject=Subject.SKY)} == {Subject.SKY}
    assert find_quotations("moon sleeps")[0].text.startswith("How sweet the moonlight")
    assert find_quotations("no such words stand anywhere") == []
    # Apostrophes are set as a printer does, and found however one types them.
    assert not any("'" in one.text + one.work for one in all_quotations())
    assert find_quotations("man's ingratitude") == find_quotations("man’s ingratitude") != []
    first = find_quotations(topics=["Night sky", "stars"])[:12]
    assert sum(one.subject is Subject.SKY for one in first) >= 8
    assert {one.subject for one in find_quotations(topics=["glasshouses", "garden"])[:8]} <= {
        Subject.NATURE,
        Subject.BEAUTY,
    }


def test_a_post_says_who_and_where_and_the_standing_hashtags():
    (one,) = find_quotations("call me ishmael")
    assert quotation_text(one, ["reading", "#sea"]) == "“Call me Ishmael.”\nHerman Melville, Moby-Dick\n\n#reading #sea"
