"""Suggested hashtags: where they come from, and what each source is worth. The weights are guesses of ours."""

from menudo_core.insight.tags import TagPerformance
from menudo_core.wording.suggest import TagKnowledge, suggest_hashtags


def test_suggestions_say_why_and_offer_nothing_the_text_has():
    known = TagKnowledge(
        ["moss", "night sky"],
        ["fernhollow"],
        {"mosses": TagPerformance(4), "bread": TagPerformance(1)},
        {"glasshouse": 41, "closeup": 500},
    )
    found = {s.tag: s.why for s in suggest_hashtags("Mosses on the glasshouse wall #wall", known)}
    assert set(found) == {"moss", "fernhollow", "glasshouse"}
    assert any("topic" in why for why in found["moss"]) and any("4 published posts" in why for why in found["moss"])
    assert found["glasshouse"] == ("rising: 41 posts in the last days",)
    assert "wall" not in found


def test_suggestions_are_weighed_by_where_they_come_from():
    known = TagKnowledge(
        topics=("fern", "roses"),
        standing=("garden",),
        rising={"wall": 12, "sea": 9},
        campaign=("Spring", ("spring", "garden")),
    )
    found = {s.tag: s.weight for s in suggest_hashtags("Ferns on walls, lichen by lichen, moss by moss", known)}
    assert found == {"garden": 8, "spring": 5, "fern": 4, "wall": 2, "lichen": 1}, "a short word isn't one's own"
    assert [s.tag for s in suggest_hashtags("Ferns, lichen by lichen", known, 2)] == ["garden", "spring"]


def test_a_tags_past_counts_from_just_beyond_the_usual():
    past = {
        "worse": TagPerformance(2, 1.0, 0.85),
        "level": TagPerformance(2, 1.4, 0.86),
        "better": TagPerformance(2, 2.5, 1.16),
        "once": TagPerformance(1, 9.0, 1.5),
        "often": TagPerformance(30, 9.0, 9.0),
        "ferns": TagPerformance(1, 3.0, 0.0),
        "unknown": TagPerformance(2, 1.0, None),
    }
    found = {s.tag: s for s in suggest_hashtags("Ferns", TagKnowledge(past=past))}
    assert {tag: round(s.weight, 2) for tag, s in found.items()} == {
        "level": 0.42,
        "better": 1.02,
        "often": 3.5,
        "ferns": 0.1,
        "unknown": 0.7,
    }
    assert {tag: s.why[0] for tag, s in found.items()} == {
        "level": "used in 2 published posts, 1 reaction each",
        "better": "used in 2 published posts, 2 reactions each: 1.2 times what their profiles usually earn",
        "often": "used in 30 published posts, 9 reactions each: 9.0 times what their profiles usually earn",
        "ferns": "used in 1 published post, 3 reactions each: 0.0 times what their profiles usually earn",
        "unknown": "used in 2 published posts, 1 reaction each",
    }


def test_what_the_text_has_in_one_or_many_is_not_offered_and_plurals_are_one_matter():
    known = TagKnowledge(topics=("ant", "gas", "moss"), campaign=("Spring", ("spring", "mosses", "walks")))
    found = {s.tag: s.why for s in suggest_hashtags("Ants and ferny gas, ferny by ferny #spring #moss", known)}
    assert set(found) == {"walks", "ant", "gas", "ferny"}
    assert found["ant"] == ("a topic of the brand's that the text speaks of (ant)",)
