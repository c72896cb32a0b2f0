"""Rule sheets that contradict themselves, each fault at its own line; schema and loader of one mind; and a network nobody
thought of. The sheets here are invented."""

import copy
import json
import random
import tomllib
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from jsonschema import Draft202012Validator

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.networks.check import check_content
from menudo_core.networks.content import STORY, Content
from menudo_core.networks.contradictions import contradictions
from menudo_core.networks.findings import Level
from menudo_core.networks.fixes import Fix, apply_fix, available_fixes
from menudo_core.networks.lines import line_of
from menudo_core.networks.load import _FOLDER as HERE
from menudo_core.networks.load import InvalidSheetError, load_shipped, parse_sheet, sheet_schema
from menudo_core.networks.proof import build_proof
from menudo_core.networks.ratios import Preset, drawing_size, ratio_presets
from menudo_core.sending.quota import PublishedItem, ends_at, quota_wait
from menudo_core.text.clusters import Unit
from menudo_core.text.links import links, weighted_length
from menudo_core.timing.default_slots import default_slots

SEED = 20261127
FINE = """format = 1
network = "odd"
name = "Odd"
tile = { letters = "Od", shape = "arch" }

[text]
unit = "bytes"
limit = 200

[media.kinds.picture]
max_count = 4
formats = ["jpeg"]

[media.kinds.video]
max_count = 1
formats = ["mp4"]

[[kinds]]
kind = "page"
name = "page"
direct = true
"""
SHIPPED = [
    f.read_text("utf-8") for f in sorted((HERE / "sheets").iterdir(), key=lambda f: f.name) if f.name.endswith(".toml")
]


def faults(more: str, base: str = FINE) -> list[tuple[int, str]]:
    with pytest.raises(InvalidSheetError) as bad:
        parse_sheet(base + more)
    return [(e.line, e.message) for e in bad.value.errors]


AT = FINE.count("\n") + 1


@pytest.mark.parametrize(
    ("more", "line", "words"),
    [
        ("[story]\nmax_frames = 3\nmin_ratio = 0.6\nmax_ratio = 0.5\n", 2, "nothing is between"),
        ("[story]\nmax_frames = 3\nmin_ratio = nan\n", 2, "no limit"),
        ("[story]\nmax_frames = 3\nmax_seconds = inf\n", 2, "no limit"),
        (
            "[media.kinds.animation]\nmax_count = 1\nformats = ['gif']\nmin_width = 9\nmax_width = 8\n",
            3,
            "nothing is between",
        ),
        (
            "[media.kinds.animation]\nmax_count = 1\nformats = ['gif']\nmin_seconds = 9.5\nmax_seconds = 8\n",
            3,
            "nothing is between",
        ),
        (
            "[media.kinds.animation]\nmax_count = 1\nformats = ['gif']\nmin_width = 900\nmin_height = 900\nmax_pixels = 8000\n",
            5,
            "make more",
        ),
        (
            "[media.kinds.animation]\nmax_count = 1\nformats = ['gif']\nmin_width = 900\nmax_height = 300\nmax_ratio = 2\n",
            5,
            "no size",
        ),
        ("[media.kinds.animation]\nmax_count = 1\nformats = ['mp4']\n", 2, "No animation"),
        ("[media]\ntogether = [['picture']]\n", 1, "leaves video out"),
        ("[asks]\nrequired = ['text']\nforbidden = ['text']\n", 1, "required and forbidden"),
        (
            "[asks]\none_of = [\n  ['text', 'media'],\n  ['link', 'first_comment'],\n]\nforbidden = ['link', 'first_comment']\n",
            3,
            "all are forbidden",
        ),
        ("[asks]\nforbidden = ['media']\n", 1, "takes some"),
        ("[hashtags]\nmost = 3\ngood = 4\n", 2, "refused"),
        (
            "[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'text'\n[[fields]]\nname = 'a'\nlabel = 'B'\ntype = 'text'\n",
            5,
            "already",
        ),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'choice'\n", 0, "needs “choices”"),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'choice'\nchoices = [\n  'x',\n  'x',\n]\n", 6, "twice"),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'choice'\nlimit = 2\nchoices = ['ñandú']\n", 5, "longer"),
        (
            "[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'choice'\nlimit = 5\nchoices = ['roses', 'lichen']\n",
            5,
            "“lichen” is",
        ),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'text'\nwhen = { b = ['x'] }\n", 4, "no field “b”"),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'text'\nwhen = { a = ['x'] }\n", 4, "by itself"),
        (
            "[[fields]]\nname = 'k'\nlabel = 'K'\ntype = 'choice'\nchoices = ['x']\n[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'text'\nwhen = { k = ['y'] }\n",
            9,
            "none of the choices",
        ),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'date'\nafter = 'b'\n", 4, "no field “b”"),
        ("[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'date'\nafter = 'a'\n", 4, "later than the other"),
        (
            "[[fields]]\nname = 'b'\nlabel = 'B'\ntype = 'text'\n[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'date'\nafter = 'b'\n",
            8,
            "of type date",
        ),
        (
            "[[fields]]\nname = 'a'\nlabel = 'A'\ntype = 'choice'\nchoices = ['x']\nlink_unless = ['y']\n",
            5,
            "none of the field's choices",
        ),
        ("[[kinds]]\nkind = 'page'\nname = 'again'\ndirect = true\n", 1, "already"),
        ("[[kinds.conditions]]\nid = 'a'\nwords = 'A'\n[[kinds.conditions]]\nid = 'a'\nwords = 'B'\n", 4, "already"),
        ("[proof]\ntitle = 'a'\n", 1, "no field “a”"),
        ("[proof]\nbutton = 'a'\n", 1, "no field “a”"),
        ("[pace]\nposts_a_day = 3.0\n", 1, "whole number"),
        ("[story]\n", 0, "missing"),
        (
            "[[kinds.conditions]]\nid = 'a'\nwords = 'A'\nfact = 'role'\n",
            0,
            "“accepts” is missing beside “fact”. Add it.",
        ),
        ("[[fields]]\nname = \"a\\n\"\nlabel = 'A'\ntype = 'text'\n", 1, "can't stand"),
    ],
)
def test_each_contradiction_is_told_at_its_own_line(more, line, words):
    found = faults(more)
    assert [n for n, _ in found] == [AT + line] and words in found[0][1]


def test_several_faults_of_one_table_are_each_told_at_their_own_line():
    more = '[pace]\nposts_a_day = 0\nslow = 1\nmedia_a_day = "x"\nfast = 2\n[wire]\nedits = 1\n'
    assert [n - AT for n, _ in faults(more)] == [1, 2, 3, 4, 6]


def test_lines_are_right_beside_strings_of_several_lines_and_whatever_stands_in_them():
    base = FINE.replace(
        'name = "Odd"\n',
        'name = "Odd"\nabout = """\nlimit = 3\n[text]\n"quoted" # no comment\n[[fields]]\n"""\nuse = \'\'\'\nlong\'\'\'\n',
        1,
    )
    found = faults("[pace]\nslow = 1\n", base)
    assert [n for n, words in found if "slow" in words] == [base.count("\n") + 2]
    assert [n for n, words in found if "not one of" in words] == [base[: base.index("use")].count("\n") + 1]


def test_lines_of_random_sheets_are_those_at_which_their_values_are_written():
    """Each value of a sheet is made one of its own, and sought again in the text: 400 sheets with comments, strings of several
    lines, arrays over lines, inline tables."""
    rng = random.Random(SEED)
    for _ in range(400):
        lines, wanted = _random_toml(rng)
        toml = "\n".join(lines) + "\n"
        parsed = tomllib.loads(toml)
        for path, line in wanted.items():
            at: Any = parsed
            for part in path:
                at = at[int(part)] if isinstance(at, list) else at[part]
            assert line_of(toml, path) == line, (SEED, path, line, toml)


def _random_toml(rng: random.Random) -> tuple[list[str], dict[tuple[str, ...], int]]:
    lines: list[str] = []
    wanted: dict[tuple[str, ...], int] = {}
    counts: dict[str, int] = {}

    def value(path: tuple[str, ...], depth: int = 0) -> list[str]:
        wanted[path] = len(lines) + 1
        match rng.randrange(6 if depth == 0 else 2):
            case 0:
                return [rng.choice(["1", "2.5", "true", "2026-11-27 10:00:00", '"a = [1] # x"', "'its'", '"\\""'])]
            case 1:
                return [rng.choice(['"[table]"', "'k = 1'", "-1e3"])]
            case 2:
                return ['"""', "k9 = 1", "[[k9]] # no", '\\""" "', '"""']
            case 3:
                for n in range(3):
                    wanted[(*path, str(n))] = len(lines) + 2 + n
                return ["[ # first", '  "a",', "  'b]',  # more", '  "c"', "]"]
            case 4:
                wanted[(*path, "in")] = wanted[(*path, "ner")] = len(lines) + 1
                wanted[(*path, "ner", "deep")] = len(lines) + 1
                return ['{ in = [1, "}"], ner.deep = "x, y = 2" }']
            case _:
                wanted[(*path, "0")] = len(lines) + 1
                return ["[ [1, 2], ['x'] ]"]

    def put(path: tuple[str, ...], key: str) -> None:
        said = value(path)
        lines.extend([f"{key} = {said[0]}", *said[1:]])

    for n in range(rng.randint(0, 3)):
        put((f"k{n}",), f"k{n}")
    for t in range(rng.randint(0, 4)):
        if rng.random() < 0.5:
            lines.append(rng.choice(["", "# comment = 1", "# [no]"]))
        if rng.random() < 0.5:
            name, number = "many", counts.get("many", 0)
            counts["many"] = number + 1
            here: tuple[str, ...] = (name, str(number))
            lines.append("[[many]]")
        else:
            here = (f"t{t}", "sub")
            lines.append(f'[t{t} . "sub"] # table')
        wanted[here] = len(lines)
        for n in range(rng.randint(0, 3)):
            put((*here, f"k{n}"), rng.choice([f"k{n}", f'"k{n}"', f"k{n} "]))
        if rng.random() < 0.4:
            put((*here, "dot", "ted"), "dot.ted")
    return lines, wanted


def _mutated(rng: random.Random, raw: dict[str, Any]) -> dict[str, Any]:
    """One value of a sheet, anywhere, made something else."""
    raw = copy.deepcopy(raw)
    at: Any = raw
    while True:
        keys = list(at) if isinstance(at, dict) else list(range(len(at)))
        if not keys:
            return raw
        key = rng.choice(keys)
        inner = at[key]
        if isinstance(inner, (dict, list)) and inner and rng.random() < 0.85:
            at = inner
            continue
        match rng.randrange(4):
            case 0 if isinstance(at, dict):
                del at[key]
            case 1 if isinstance(at, dict):
                at["unheard"] = 1
            case 2 if isinstance(at, list):
                at.append(copy.deepcopy(inner))
            case _:
                at[key] = rng.choice([0, 1, -1, 10**9, 0.5, "", "x", "picture", "text", True, [], ["text"], {}, None])
        return raw


def _toml(value: Any) -> str:
    """A value as TOML, in one line."""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, dict):
        return "{ " + ", ".join(f"{json.dumps(k)} = {_toml(v)}" for k, v in value.items()) + " }"
    if isinstance(value, list):
        return "[" + ", ".join(map(_toml, value)) + "]"
    return json.dumps(value, ensure_ascii=False) if isinstance(value, str) else str(value)


def test_schema_and_loader_are_of_one_mind():
    """1,500 changed sheets: what the schema (by jsonschema, as it stands) refuses the loader refuses at the same places; what it
    takes the loader takes too, or names what contradicts itself, which no schema can say. Nothing breaks."""
    rng, validator, taken, refused, against = random.Random(SEED), Draft202012Validator(sheet_schema()), 0, 0, 0
    sheets = [tomllib.loads(text) for text in (*SHIPPED, FINE)]
    for _ in range(1500):
        raw = _mutated(rng, rng.choice(sheets))
        if "None" in repr(raw):
            continue
        by_schema = not validator.is_valid(raw)
        beside = contradictions(raw)
        toml = "\n".join(f"{key} = {_toml(value)}" for key, value in raw.items())
        try:
            parse_sheet(toml)
            assert not by_schema and not beside, (SEED, toml)
            taken += 1
        except InvalidSheetError as bad:
            assert by_schema or beside, (SEED, toml, bad.errors)
            assert all(1 <= e.line <= toml.count("\n") + 1 for e in bad.errors)
            refused, against = refused + by_schema, against + (not by_schema)
    assert min(taken, refused) > 100 and against >= 10, (taken, refused, against)


def test_what_ships_contradicts_nothing():
    assert all(not contradictions(tomllib.loads(text)) for text in SHIPPED) and len(load_shipped()) == len(SHIPPED)


ODD = """format = 1
network = "kelp"
name = "Kelp"
use = "video"
life_days = 2
tile = { letters = "Ke", shape = "hexagon" }

[text]
unit = "bytes"
limit = 90
link_weight = 7
fold_clusters = 5

[media]
max_count = 2

[media.kinds.video]
max_count = 1
formats = ["mp4"]
codecs = ["h264"]
min_ratio = 2.35
max_ratio = 2.45
min_seconds = 3.0
max_seconds = 8.5

[hashtags]
most = 1

[asks]
required = ["media", "link"]
forbidden = ["first_comment"]

[[fields]]
name = "mood"
label = "Mood"
type = "choice"
required = true
choices = ["calm", "wild"]

[[fields]]
name = "depth"
label = "Depth"
type = "text"
limit = 6
required = true
when = { mood = ["wild"] }

[story]
max_frames = 2
min_ratio = 0.95
max_ratio = 1.05

[[kinds]]
kind = "diver"
name = "diver"
direct = true

[pace]
seconds_between = 600
posts_a_day = 3
posts_kept = 2

[proof]
layout = "reel"
title = "depth"
"""
KELP = parse_sheet(ODD)
FILM = MediaFacts(1, MediaKind.VIDEO, "mp4", 2400, 1000, 900, 5.0, "Kelp", "h264")
NOW = datetime(2026, 11, 27, 12, tzinfo=UTC)


def _found(text: str, film: MediaFacts = FILM, **more: Any) -> set[tuple[str, str]]:
    content = Content(text, (1,), "https://example.org", "", **{"fields": {"mood": "calm"}, **more})
    return {(f.rule, f.field) for f in check_content(content, [film], KELP) if f.level is Level.STOPS}


def test_checks_follow_a_network_nobody_thought_of():
    link = "https://example.org/a-very-long-address-that-would-never-fit-in-ninety-bytes-by-its-own-length-at-all"
    assert _found("x" * 90) == set() and _found("x" * 91) == {("too_long", "text")}
    assert _found("é" * 45) == set() and _found("é" * 46) == {("too_long", "text")}
    assert _found(f"{'x' * 82} {link}") == set() and _found(f"{'x' * 83} {link}") == {("too_long", "text")}
    assert _found("x", replace(FILM, width=2000)) == {("shape", "media/0")}
    assert _found("x", replace(FILM, width=2340)) == set() and _found("x", replace(FILM, width=2330)) == {
        ("shape", "media/0")
    }
    assert _found("x", replace(FILM, seconds=9)) == {("too_long", "media/0")}
    assert _found("x", replace(FILM, codec="hevc")) == {("codec", "media/0")}
    assert _found("x", replace(FILM, kind=MediaKind.PICTURE, format="jpeg", seconds=None)) == {("kind", "media/0")}
    assert _found("x", fields={}) == {("required", "fields/mood")}
    assert _found("x", fields={"mood": "wild"}) == {("required", "fields/depth")}
    assert _found("x", fields={"mood": "wild", "depth": "ñandú"}) == {("too_long", "fields/depth")}
    too_long = check_content(
        Content("x", (1,), "https://example.org", fields={"mood": "wild", "depth": "ñandúes"}), [FILM], KELP
    )
    assert [f.message for f in too_long] == ["The depth may have 6 bytes on Kelp; this has 9."]
    assert {f.rule for f in check_content(Content("x"), [], KELP)} == {"required"}
    assert _found("#a #b") == {("hashtags", "text")}


def test_fixes_and_proofs_follow_it():
    text = "Kelp grows half a metre a day, día a día. " * 3 + "https://example.org/kelp #kelp"
    content = Content(text, (1,), "https://example.org", fields={"mood": "calm"})
    (finding,) = [f for f in check_content(content, [FILM], KELP) if f.rule == "too_long"]
    assert available_fixes(finding, content, [FILM], KELP) == (Fix.SHORTEN,)
    short = apply_fix(Fix.SHORTEN, finding, content, [FILM], KELP).text or ""
    assert weighted_length(short, Unit.BYTES, 7) <= 90 and links(short) == ["https://example.org/kelp"]
    seen = build_proof(replace(content, text="día a día"), [FILM], KELP)
    assert (seen.layout, seen.visible_text, seen.folded_text) == ("reel", "día a", " día")
    assert ratio_presets(KELP) == [Preset("1:1 story", 1.0, STORY)]
    story = Content("", (1,), form=STORY)
    (shape,) = check_content(story, [replace(FILM, width=900, height=1600)], KELP)
    assert (shape.rule, shape.limit) == ("shape", "1:1")
    (row,) = build_proof(story, [FILM], KELP).rows
    assert (row[0].width, row[0].height) == (1, 1)
    pictures = parse_sheet(ODD.replace("[media.kinds.video]", "[media.kinds.picture]").replace('"mp4"', '"jpeg"'))
    assert [(p.label, round(p.ratio, 2)) for p in ratio_presets(pictures)] == [("12:5", 2.4), ("1:1 story", 1.0)]
    assert drawing_size([pictures]) == (1080, 450)


def test_pace_cap_and_life_follow_it():
    sent = [PublishedItem(NOW - timedelta(hours=n)) for n in (1, 30)]
    wait = quota_wait(KELP.pace, KELP.life_days, KELP.name, sent, NOW)
    assert wait is not None and (wait.code, wait.at) == ("cap", NOW + timedelta(hours=18))
    soon = quota_wait(KELP.pace, KELP.life_days, KELP.name, [PublishedItem(NOW - timedelta(minutes=4))], NOW)
    assert soon is not None and (soon.code, soon.at) == ("pace", NOW + timedelta(minutes=6))
    assert ends_at(KELP.life_days, NOW) == NOW + timedelta(days=2)
    assert default_slots(KELP.use)


def test_a_line_of_dots_is_told_at_its_line():
    with pytest.raises(InvalidSheetError) as told:
        parse_sheet("version = 1\n" + "a." * 10_000)
    assert [(fault.line, "too many dots" in fault.message) for fault in told.value.errors] == [(2, True)]


def test_a_sheet_nested_too_deep_is_told_as_any_other_fault():
    with pytest.raises(InvalidSheetError, match="nested too deep"):
        parse_sheet("a = " + "[" * 50_000)
