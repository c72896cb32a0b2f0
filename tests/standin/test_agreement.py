"""Two codes, one set of sheets: what the core passes the stand-in takes, and what the core stops it refuses."""

import hashlib
import io
import json
from collections import Counter
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

import httpx2
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import MediaPresentation, Person
from menudo_core.networks.check import check_content, outgoing_media
from menudo_core.networks.check_fields import applicable_fields
from menudo_core.networks.content import STORY, Content
from menudo_core.networks.findings import Level
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.sheet import RuleSheet
from menudo_core.sending.quota import PublishedItem, quota_wait
from menudo_standin.app import SHEETS
from menudo_standin.judge import RefusedError, judge_comment, judge_post, load_sheets
from menudo_standin.pace import pace_refusal
from tests.standins import running

RAW = load_sheets(SHEETS)
FOLLOWERS = (0, 9_999, 10_000)

word = st.sampled_from(
    [
        "moss",
        "wall",
        "🌿",
        "👩\u200d🌾",
        "#moss",
        "#día",
        "#24",
        "https://example.org/a?b=c#d",
        "请看https://example.org/很。好",
        "（https://bücher.example:8080/x_(y)）",
        "https://...",
        "https://a.example,https://b.example/c’s.",
        "día",
        "星空",
        "नमस्ते",
        "\n",
    ]
)
text = st.one_of(
    st.lists(word, max_size=8).map(" ".join),
    st.tuples(
        st.sampled_from(["x", "🌿", "é"]),
        st.sampled_from([1, 299, 300, 301, 499, 501, 1499, 1501, 2000, 2001, 3000, 3001, 5001]),
    ).map(lambda t: t[0] * t[1]),
    st.integers(0, 34).map(lambda n: "tags " + " ".join(f"#t{i}a" for i in range(n))),
)
kinds = st.sampled_from(
    [
        (MediaKind.PICTURE, "jpeg", ""),
        (MediaKind.PICTURE, "png", ""),
        (MediaKind.PICTURE, "webp", ""),
        (MediaKind.ANIMATION, "gif", ""),
        (MediaKind.VIDEO, "mp4", "h264"),
        (MediaKind.VIDEO, "mp4", "hevc"),
    ]
)
_SIDES = [
    (1200, 900),
    (900, 1600),
    (360, 640),
    (640, 360),
    (100, 100),
    (399, 300),
    (400, 300),
    (1080, 1350),
    (6001, 4000),
    (1000, 420),
    (300, 300),
]
sides = st.sampled_from(_SIDES)


@st.composite
def media(draw: st.DrawFn) -> MediaFacts:
    kind, fmt, codec = draw(kinds)
    width, height = draw(sides)
    seconds = (
        None if kind is MediaKind.PICTURE else draw(st.sampled_from([0.5, 9.0, 15.0, 15.1, 60.0, 60.1, 91.0, 700.0]))
    )
    size = draw(st.sampled_from([90_000, 5_000_000, 5_000_001, 9_000_000, 70_000_000]))
    alt = draw(st.sampled_from(["Moss", "x" * 400, "x" * 401, ""]))
    return MediaFacts(draw(st.integers(1, 10**6)), kind, fmt, width, height, size, seconds, alt, codec)


def value(rule) -> st.SearchStrategy[str]:
    moments = ["2026-12-01T08:00", "2026-12-01T09:00", "2026-02-30T08:00", "tomorrow"]
    by_type = {
        "date": st.sampled_from(moments),
        "address": st.sampled_from(["https://example.org/x", "example.org", "ftp://example.org"]),
        "countries": st.sampled_from(["ES", "ES, PT-11", "XX", "es;fr"]),
        "ages": st.sampled_from(["18-35", "18+", "12+", "35-18", "all"]),
        "choice": st.sampled_from([*rule.choices, "other"]),
    }
    lengths = st.integers(0, 3).map(lambda n: "é" * (rule.limit + n - 1) if rule.limit else "x")
    return st.one_of(st.just(""), by_type.get(rule.type, st.one_of(st.just("Moss"), lengths)))


@dataclass
class Tried:
    """What came of a run: how many both passed and both stopped, so that neither side is empty."""

    counts: Counter = field(default_factory=Counter)


def good(sheet: RuleSheet, asset: int) -> MediaFacts:
    """A medium that the network takes."""
    kind, rule = next(iter(sheet.media.kinds.items()))
    fits = [
        (w, h)
        for w, h in _SIDES
        if (rule.min_ratio or 0) <= w / h <= (rule.max_ratio or 99) and w >= (rule.min_width or 0)
    ]
    seconds, codec = (None, "") if kind is MediaKind.PICTURE else (9.0, "h264")
    return MediaFacts(asset, kind, rule.formats[0], *fits[0], 90_000, seconds, "Moss", codec)


@st.composite
def versions(draw: st.DrawFn, sheet: RuleSheet) -> tuple[Content, list[MediaFacts], int]:
    wild = draw(st.booleans())
    # A version that fits, with one part of it drawn at random; or all of it.
    part = draw(st.sampled_from(["text", "media", "link", "comment", "fields", "people", "form", "none"]))
    at_random = lambda name: wild or part == name  # noqa: E731
    found = draw(st.lists(media(), max_size=6, unique_by=lambda m: m.asset)) if at_random("media") else [good(sheet, 1)]
    fields = {r.name: "Moss" for r in sheet.fields if r.required and r.type == "text"}
    fields |= {r.name: r.choices[0] for r in sheet.fields if r.required and r.choices}
    if at_random("fields"):
        drawn = {rule.name: draw(value(rule)) for rule in sheet.fields}
        fields |= (
            drawn if wild else dict(draw(st.lists(st.sampled_from(sorted(drawn.items())), max_size=2))) if drawn else {}
        )
    people = draw(st.sampled_from([1, 20, 21, 31])) if at_random("people") else 0
    shown = {
        m.asset: MediaPresentation(people=tuple(Person(f"p{n}", 0.5, 0.5) for n in range(people)))
        for m in found[:1]
        if people
    }
    links = st.sampled_from(["", "https://example.org/x"])
    content = Content(
        draw(text) if at_random("text") else "moss",
        tuple(m.asset for m in found),
        draw(links) if at_random("link") else "https://example.org/x" if "link" in sheet.required else "",
        draw(st.sampled_from(["", "#moss first", "x" * 5001])) if at_random("comment") else "",
        fields,
        draw(st.sampled_from(["post", "post", STORY])) if at_random("form") else "post",
        shown,
    )
    return content, found, draw(st.sampled_from(FOLLOWERS))


def refused_by_the_network(content: Content, found: list[MediaFacts], sheet: RuleSheet, followers: int) -> str:
    """Its reason, as the adapter would send the version; empty when it is taken."""
    rows = []
    for m in outgoing_media(content, found, sheet):
        row = {
            "kind": m.kind.value,
            "format": m.format,
            "codec": m.codec,
            "width": m.width,
            "height": m.height,
            "size": m.size,
        }
        showing = content.shown.get(m.asset)
        people = [{"who": p.who} for p in (showing.people or ())] if showing and sheet.media.people is not None else []
        rows.append(
            {**row, "seconds": m.seconds, "alt": m.alt, "people": people if content.form != STORY else [], "words": ""}
        )
    story = content.form == STORY
    fields = {} if story else {r.name: content.fields[r.name].strip() for r in applicable_fields(sheet, content)}
    sent = {**fields, **({"link": content.link} if content.link else {})}
    try:
        judge_post(RAW[sheet.network], "" if story else content.text, rows, sent, content.form, followers)
        if content.first_comment.strip() and not story:
            judge_comment(RAW[sheet.network], content.first_comment, content.text)
    except RefusedError as refused:
        return str(refused)
    return ""


@pytest.mark.parametrize("network", sorted(shipped_sheets()))
def test_core_and_network_agree_on_random_versions(network):
    sheet, tried = shipped_sheets()[network], Tried()

    @settings(max_examples=300, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
    @given(versions(sheet))
    def agree(version):
        content, found, followers = version
        stops = [f.message for f in check_content(content, found, sheet, followers) if f.level is Level.STOPS]
        reason = refused_by_the_network(content, found, sheet, followers)
        assert bool(stops) == bool(reason), f"the core says {stops or 'fits'}; {sheet.name} says {reason or 'taken'}"
        tried.counts["stopped" if stops else "passed"] += 1

    agree()
    assert tried.counts["stopped"] > 30 and tried.counts["passed"] > 10, tried.counts


@pytest.mark.parametrize("network", sorted(shipped_sheets()))
@given(
    past=st.lists(st.tuples(st.integers(1, 9 * 86_400), st.integers(0, 10)), max_size=130),
    files=st.integers(0, 12),
)
@settings(max_examples=60)
def test_core_and_network_agree_on_when_the_next_may_come(network, past, files):
    """Until when the core waits is when the network takes it, by code of its own: to the second."""
    sheet, at = shipped_sheets()[network], datetime(2026, 11, 25, 12, tzinfo=UTC)
    sent = [PublishedItem(at - timedelta(seconds=ago), n) for ago, n in past]
    wait = quota_wait(sheet.pace, sheet.life_days, sheet.name, sent, at, files)
    now = at.timestamp()
    soon = pace_refusal(RAW[network], [(now - ago, n) for ago, n in past], files, now)
    assert (wait and (wait.at - at).total_seconds()) == (soon and soon[1]), (wait, soon)


def test_a_network_that_keeps_its_pace_asks_to_wait_and_a_key_it_knows_is_no_new_post(tmp_path):
    with running(tmp_path, "http://127.0.0.1:8600/connect/back", pace=True) as network:
        network.fresh()
        token = network.grant("fernhollow")["access_token"]

        def post(key: str) -> httpx2.Response:
            properties = {"content": [key], "mp-destination": ["fernhollow"]}
            headers = {"Authorization": f"Bearer {token}", "Idempotency-Key": f'"{key}"'}
            body = {"type": ["h-entry"], "properties": properties}
            return httpx2.post(f"{network.url}/brisk/micropub", json=body, headers=headers, trust_env=False)

        assert post("one").status_code == 201
        early = post("two")
        assert early.status_code == 429 and 1 <= int(early.headers["Retry-After"]) <= 5
        assert "5 seconds" in early.json()["detail"]
        assert post("one").status_code == 201
        assert len(network.posts()) == 1


def test_a_picture_as_it_is_drawn_is_what_the_network_sees(tmp_path):
    """The facts the core reckons with are those the stand-in finds in the bytes that are sent."""
    from menudo_core.media.presentation import Box, presented_facts
    from menudo_standin.seeing import inspect_media

    image = Image.new("RGB", (1601, 899), "#2f6b4a")
    out = io.BytesIO()
    image.save(out, "JPEG")
    path = tmp_path / hashlib.sha256(out.getvalue()).hexdigest()
    path.write_bytes(out.getvalue())
    seen = inspect_media(path)
    facts = MediaFacts(1, MediaKind.PICTURE, "jpeg", seen.width, seen.height, len(out.getvalue()))
    assert (seen.format, seen.kind, facts.width, facts.height) == ("jpeg", "picture", 1601, 899)
    assert presented_facts(facts, MediaPresentation(crop=Box(0, 0, 0.5, 1)), None).width == 800
    assert json.dumps(seen.__dict__)
