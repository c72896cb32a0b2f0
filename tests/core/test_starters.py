"""Which starters are proposed. Seeds and answers are invented."""

from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from menudo_core.starters import texts
from menudo_core.starters.choose import Answer, Kind, Reason, Seed, choose_seeds
from menudo_core.text.placeholders import count_blanks


def seeds(kind: Kind, count: int, pull: float = 0.5) -> list[Seed]:
    return [Seed(kind, f"{kind}:{n}", f"{kind} {n} words apart", pull) for n in range(count)]


def test_the_supply_is_mixed_and_no_topic_comes_twice():
    every = [one for kind in Kind for one in seeds(kind, 5, 0.9 if kind is Kind.ALMANAC else 0.5)]
    chosen = choose_seeds(every, [], [], 6)
    kinds = [one.kind for one in chosen]
    assert len(chosen) == 6 and kinds.count(Kind.ALMANAC) == 3 and len(set(kinds)) > 1
    assert choose_seeds(seeds(Kind.TOPIC, 9), [], [], 6) == seeds(Kind.TOPIC, 6)
    twins = [Seed(Kind.TOPIC, "a", "Moss"), Seed(Kind.ARTICLE, "b", "moss")]
    assert len(choose_seeds(twins, [], [], 6)) == 1
    assert choose_seeds(twins, [], [Seed(Kind.TOPIC, "c", "MOSS")], 6) == []


def test_what_people_make_of_them_changes_what_comes():
    both = [*seeds(Kind.ARTICLE, 3), *seeds(Kind.TOPIC, 3)]
    assert choose_seeds(both, [], [], 1)[0].kind is Kind.ARTICLE
    less = [Answer(Kind.ARTICLE, "x", Reason.LESS)]
    assert choose_seeds(both, less, [], 1)[0].kind is Kind.TOPIC
    kept = [*less, *[Answer(Kind.ARTICLE, "x")] * 8]
    assert choose_seeds(both, kept, [], 1)[0].kind is Kind.ARTICLE
    moss = [Seed(Kind.TOPIC, "1", "moss"), Seed(Kind.TOPIC, "2", "ferns")]
    assert [s.topic for s in choose_seeds(moss, [Answer(Kind.TOPIC, "Moss", Reason.NOT_US)], [], 6)] == ["ferns"]
    assert [s.topic for s in choose_seeds(moss, [Answer(Kind.TOPIC, "Moss", Reason.SAID)], [], 6)] == ["ferns", "moss"]
    # What was said of it already comes for half of what it would, which is more than a third.
    lean = [Seed(Kind.TOPIC, "1", "moss", 1.0), Seed(Kind.TOPIC, "2", "ferns", 0.3)]
    said = [Answer(Kind.TOPIC, "Moss", Reason.SAID)]
    assert [s.topic for s in choose_seeds(lean, said, [], 6)] == ["ferns", "moss"]
    assert [s.topic for s in choose_seeds([lean[0], replace(lean[1], weight=0.2)], said, [], 6)] == ["moss", "ferns"]
    # A wording that wasn't liked says nothing of its kind.
    assert choose_seeds(both, [Answer(Kind.ARTICLE, "x", Reason.WORDING)] * 9, [], 1)[0].kind is Kind.ARTICLE


KINDS = st.sampled_from(list(Kind))
SEEDS = st.lists(
    st.builds(Seed, KINDS, st.text("abc", max_size=4), st.text("moss fern", max_size=9), st.floats(0, 1)), max_size=30
)
ANSWERS = st.lists(
    st.builds(Answer, KINDS, st.text("moss fern", max_size=9), st.none() | st.sampled_from(list(Reason)))
)


@given(SEEDS, ANSWERS, st.integers(0, 8))
def test_never_more_than_wanted_never_the_same_and_always_the_same_for_the_same(found, answers, most):
    chosen = choose_seeds(found, answers, [], most)
    assert len(chosen) <= most and len({one.topic for one in chosen}) == len(chosen)
    assert chosen == choose_seeds(found, answers, [], most) and all(one in found for one in chosen)


def test_every_opening_leaves_a_blank_that_only_a_person_fills():
    for seed in range(12):
        openings = [
            texts.day_text("Moss Day", "Friday 4 December", seed % 2 == 0, seed),
            texts.topic_text("moss", seed),
            texts.item_text("Aster", "€ 9", seed),
            texts.item_text("Aster", "", seed),
            texts.article_text("On moss.", seed),
        ]
        assert all(count_blanks(text) >= 1 and "{" not in text for text in openings)
    assert texts.with_tags("Moss", ["#a", "b"]) == "Moss\n\n#a #b" and texts.with_tags("Moss", []) == "Moss"


def test_a_thing_without_a_price_is_offered_without_one():
    said = {price: {texts.item_text("The loaf", price, seed) for seed in range(60)} for price in ("€ 4", "")}
    assert any("for € 4" in text for text in said["€ 4"]) and len(said["€ 4"]) == 3
    assert not any(" for " in text for text in said[""]) and len(said[""]) == 2
