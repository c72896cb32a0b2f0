"""Findings and proofs for nine networks, beside `regex` splitting the same text into clusters."""

import random
import statistics
import time

import regex
from tools.stack import Stack

from bench.result import Result

_WORDS = [
    "moss",
    "wall",
    "🌿",
    "glasshouse",
    "Thursday",
    "día",
    "星空",
    "नमस्ते",
    "👩\u200d🌾",
    "#moss",
    "https://example.org/moss",
    "lenses",
    "volunteers",
    "café",
]
_CLUSTER = regex.compile(r"\X")
ROUNDS = 300


def measure(stack: Stack) -> Result:
    from menudo.posts.checking import column_out
    from menudo_core.media.facts import MediaFacts, MediaKind
    from menudo_core.networks.content import Content
    from menudo_core.networks.load import shipped_sheets

    dice = random.Random(3)
    media = {n: MediaFacts(n, MediaKind.PICTURE, "jpeg", 1200, 900 + n, 900_000, alt="Moss") for n in (1, 2, 3, 4)}
    networks = list(shipped_sheets().values())
    ours, reference, ratios = [], [], []
    for n in range(ROUNDS):
        # Another text each time: what is remembered of the last one must not help.
        text = f"{n} " + " ".join(dice.choice(_WORDS) for _ in range(140))
        content = Content(text, (1, 2, 3, 4))
        start = time.perf_counter()
        columns = [column_out(sheet, content, media) for sheet in networks]
        middle = time.perf_counter()
        for _ in networks:
            _CLUSTER.findall(text)
        end = time.perf_counter()
        assert len(columns) == len(networks)
        ours.append(middle - start)
        reference.append(end - middle)
        ratios.append((middle - start) / (end - middle))
    p95 = statistics.quantiles(ours, n=20)[-1] * 1000
    ratio = statistics.median(ratios)
    holds = p95 <= 50 and ratio <= 15
    ran = f"{len(networks)} networks, {len(text)} code points, 4 pictures; {ROUNDS} texts; the reference splits the text once a network; ours is p95"
    return Result(
        "check", p95, statistics.median(reference) * 1000, "milliseconds", ratio, "p95 <= 50, <= 15 x regex", holds, ran
    )
