"""Requests as the API's own description makes them, each led on by what others answered (schemathesis, stateful): no answer is a server
error, and each is as it is described."""

import contextlib
import itertools
import json
import sys
from collections import Counter
from http import HTTPStatus
from http.cookiejar import DefaultCookiePolicy
from typing import Any

import httpx2
import requests
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st
from hypothesis.errors import Flaky
from schemathesis import checks
from schemathesis.core.failures import FailureGroup
from tools.demo import load
from tools.setup import ROOT
from tools.stack import Stack

from bench.result import Result
from bench.wide import sign_in

# Of each operation some alone; of the walks as many steps at most; and all requests.
ALONE, STEPS, CASES = 12, 20, 10_000
# Who asks works there.
_BRAND = "garden"
_CHECKS = [
    checks.not_a_server_error,
    checks.response_schema_conformance,
    checks.content_type_conformance,
    checks.status_code_conformance,
]

schemathesis.openapi.format("time-local", st.times().map(str))


class Asked:
    """What was asked and what came of it. `served`: operations that did at least once what they were asked."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.session = requests.Session()
        self.session.trust_env = False
        # Whoever is signed in stays so, whatever an answer says of cookies.
        self.session.cookies.set_policy(DefaultCookiePolicy(allowed_domains=[]))
        self.how = {"session": self.session, "timeout": 60, "allow_redirects": False}
        self.sign_in()
        self.statuses: Counter[int] = Counter()
        self.operations: set[str] = set()
        self.served: set[str] = set()
        self.faults: dict[tuple[str, str], str] = {}

    def sign_in(self) -> None:
        with httpx2.Client(base_url=self.url, timeout=60, trust_env=False) as client:
            sign_in(client)
            kept = dict(client.cookies)
        self.session.headers["Cookie"] = "; ".join(f"{name}={value}" for name, value in kept.items())
        self.session.headers["X-CSRFToken"] = kept["csrftoken"]

    def judge(self, case: Any, answer: Any) -> None:
        name = f"{case.method} {case.path}"
        self.operations.add(name)
        self.statuses[answer.status_code] += 1
        if answer.status_code < HTTPStatus.BAD_REQUEST:
            self.served.add(name)
        if answer.status_code == HTTPStatus.UNAUTHORIZED:
            # What was asked ended one's own session.
            self.sign_in()
        try:
            case.validate_response(answer, checks=_CHECKS)
        except FailureGroup as found:
            for one in found.exceptions:
                asked = answer.request
                said = f"{one.title}: {asked.method} {asked.path_url} {asked.body!r:.300} → {answer.status_code} {answer.text[:300]}"
                self.faults.setdefault((name, one.title), said)


def measure(stack: Stack) -> Result:
    stack.start_standin()
    load(stack, fresh=True)
    stack.start_web()
    asked = walk(stack.url, CASES)
    for fault in asked.faults.values():
        print(fault, file=sys.stderr)
    total = sum(asked.statuses.values())
    groups = Counter(f"{status // 100}xx" for status in asked.statuses.elements())
    return Result(
        "api",
        len(asked.faults),
        0,
        "faults",
        len(asked.faults),
        "none in 10,000 requests",
        not asked.faults and total >= CASES,
        f"{total} requests, {ALONE} of each operation alone, the others in walks of up to {STEPS}, to {len(asked.operations)} operations, "
        f"{len(asked.served)} of which did what they were asked: {', '.join(f'{count} {group}' for group, count in sorted(groups.items()))}",
    )


def walk(url: str, cases: int) -> Asked:
    """As many requests, or somewhat more, to a server with the demo's world, as one of its people."""
    asked = Asked(url)
    schema = schemathesis.openapi.from_dict(_described())
    schema.config.update(base_url=url)
    rules = settings(
        max_examples=20,
        stateful_step_count=STEPS,
        deadline=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
        database=None,
    )
    operation: Any
    for operation in schema.get_all_operations():
        _ask_alone(asked, operation.ok(), settings(rules, max_examples=ALONE))
    print(
        f"api: {sum(asked.statuses.values())} requests alone, {len(asked.faults)} faults", file=sys.stderr, flush=True
    )
    machine: Any = schema.as_state_machine()

    class Walk(machine):  # type: ignore[misc]
        def get_call_kwargs(self, case: Any) -> dict[str, Any]:
            return asked.how

        def validate_response(self, response: Any, case: Any, **more: Any) -> None:
            asked.judge(case, response)

    for number in itertools.count():
        if sum(asked.statuses.values()) >= cases:
            break
        # What is asked changes what is there, so the same steps don't lead the same way twice, which Hypothesis minds.
        with contextlib.suppress(Flaky):
            seed(number)(Walk).run(settings=rules)
        print(f"api: {sum(asked.statuses.values())} requests, {len(asked.faults)} faults", file=sys.stderr, flush=True)
    return asked


def _ask_alone(asked: Asked, operation: Any, how: settings) -> None:
    @seed(0)
    @how
    @given(case=operation.as_strategy())
    def ask(case: Any) -> None:
        asked.judge(case, case.call(**asked.how))

    ask()


def _described() -> dict[str, Any]:
    """The API's description, of one brand: its lists are where walks begin, and their ids lead on."""
    described: dict[str, Any] = json.loads((ROOT / "server/openapi.json").read_text().replace("{brand}", _BRAND))
    del described["components"]["securitySchemes"]
    for operations in described["paths"].values():
        for operation in operations.values():
            operation.pop("security", None)
            parameters = operation.get("parameters", [])
            operation["parameters"] = [one for one in parameters if not one.get("$ref", "").endswith("/brand")]
    return described
