"""What is said of what was done, what people are told and why something can't be: codes with parameters, their words in one place."""

import ast
from pathlib import Path
from string import Formatter

from menudo.base.refusals import SENTENCES as REFUSED
from menudo.base.sentences import render, say
from menudo.history.models import HistoryEvent
from menudo.history.sentences import SENTENCES as DONE
from menudo.history.serializers import load_sentence
from menudo.notices.models import Notice
from menudo.notices.sentences import SENTENCES as TOLD
from menudo.people.capabilities import Capability
from tests.server.conftest import World, post_in

SERVER = Path(__file__).parents[2] / "server" / "menudo"


def needs(template: str | tuple[str, str]) -> set[str]:
    """The parameters that a template asks for."""
    parts = [template] if isinstance(template, str) else [*template]
    named = {name for part in parts for _, name, _, _ in Formatter().parse(part) if name}
    return named if isinstance(template, str) else named | {"count"}


def said() -> list[tuple[str, str, set[str], bool]]:
    """Every sentence that is said in the code with its code written out: where, the code, its parameters, and whether all are named."""
    found = []
    for file in SERVER.rglob("*.py"):
        for call in ast.walk(ast.parse(file.read_text())):
            if isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id == "say":
                named = {keyword.arg for keyword in call.keywords if keyword.arg}
                for code in codes(call.args[0]):
                    found.append((f"{file.name}:{call.lineno}", code, named, len(named) == len(call.keywords)))
    return found


def codes(node: ast.expr) -> list[str]:
    if isinstance(node, ast.Constant):
        return [node.value]
    return [*codes(node.body), *codes(node.orelse)] if isinstance(node, ast.IfExp) else []


def test_what_is_said_has_its_words_and_all_that_they_need():
    found = said()
    assert len(found) > 350
    assert not TOLD.keys() & REFUSED.keys()
    for where, code, named, whole in found:
        template = {**TOLD, **REFUSED}[code]
        assert not whole or needs(template) <= named, where


def test_what_cannot_be_is_said_by_code_with_what_it_is_said_of(world: World):
    api = world.api()
    api("POST", "sets", {"name": "Winter", "profiles": [world.profile.pk]}, status=201)
    problem = api("POST", "sets", {"name": "winter", "profiles": [world.profile.pk]}, status=422)
    assert problem["errors"] == [
        {
            "pointer": "/name",
            "detail": "There is a set named “winter” already.",
            "code": "set.name_taken",
            "params": {"name": "winter"},
        }
    ]
    assert (problem["code"], problem["params"]) == ("set.name_taken", {"name": "winter"})
    assert problem["detail"] == problem["errors"][0]["detail"]


def test_codes_that_are_put_together_are_there():
    for family, ends in {
        "missed": ("send_now", "next_slots", "drafts"),
        "folder": ("made", "named"),
        "set": ("made", "changed"),
        "saying": ("made", "changed"),
        "zone": ("wall_kept", "instant_kept"),
        "task": ("asked", "asked_until", "assigned", "assigned_again", "assigned_until", "assigned_again_until"),
    }.items():
        for end in ends:
            assert f"{family}.{end}" in TOLD
    assert "task.asked_saying" in TOLD and "task.asked_until_saying" in TOLD
    for family, ends in {
        "may": tuple(Capability),
        "network": ("without_edits", "without_deletes"),
        "rule": ("signer_unknown", "profile_unknown", "label_unknown", "kind_unknown", "author_unknown"),
    }.items():
        for end in ends:
            assert f"{family}.{end}" in REFUSED


def test_what_may_not_be_done_is_said_in_words(world: World):
    problem = world.api("lucia")("POST", "sets", {"name": "Winter", "profiles": []}, status=403)
    assert problem["detail"] == "You may not write posts in Fernhollow. Ask its coordinator."
    assert problem["params"]["what"] == {"code": "may.write", "params": {}}


def test_words_are_made_of_times_titles_counts_and_other_sentences():
    moved = say("delivery.moved", profile="@moss", at="2026-03-01T09:05")
    told = say("post.moved_by", name="Ines", what=moved, post="Moss")
    assert render(TOLD, told) == "Ines moved @moss to Sun 1 Mar, 09:05: “Moss”"
    assert render(DONE, say("post.planned", count=1)) == "planned 1 delivery"
    assert render(DONE, say("post.planned", count=12)) == "planned 12 deliveries"
    assert render(DONE, say("post.copied", post="")) == "copied a post"
    handles = ["@a", "@b", "@c", "@d", "@e"]
    agreed = say("signoff.agreed", post="", profiles=handles)
    assert render(DONE, agreed) == "agreed to a post without words for @a, @b, @c and 2 more"
    # What people write is no template.
    assert render(DONE, say("campaign.kept", name="{count} {0.__class__}")) == "kept the campaign {count} {0.__class__}"


def test_the_history_and_notices_give_the_code_and_what_it_is_said_of(world):
    post = world.api()("POST", "posts", post_in("Moss", profiles=[world.profile.pk]), status=201)
    (event,) = world.api()("GET", "history")["events"]
    assert (event["code"], event["params"], event["summary"]) == ("draft.begun", {"post": "Moss"}, "began “Moss”")
    row = HistoryEvent.objects.get(pk=event["id"])
    assert render(DONE, load_sentence(row)) == row.summary
    world.garden.needs_signoff = True
    world.garden.save()
    world.api()("POST", "signoff-requests", {"posts": [{"id": post["id"], "revision": post["revision"]}]}, status=200)
    notice = Notice.objects.filter(user__email="maud@example.org").get()
    assert (notice.code, notice.params) == ("sign.waits", {"post": "Moss"})
    assert notice.summary == "“Moss” waits for you to sign off"


def test_what_was_done_before_there_were_codes_is_said_as_it_was_kept(world):
    HistoryEvent.objects.create(
        brand_id=world.garden.pk, actor_name="Ines", verb="write", kind="post", object_id=1, summary="changed “Moss”"
    )
    (event,) = world.api()("GET", "history")["events"]
    assert (event["summary"], event["code"], event["params"]) == ("changed “Moss”", "", {})
    assert load_sentence(HistoryEvent.objects.get()) is None
