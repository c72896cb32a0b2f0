"""How the networks answer: problems, and what the faults in force make of a request and of its answer."""

import json

from flask import Response, current_app, g

from menudo_standin.faults import Faults


def current_faults() -> Faults:
    found: Faults = current_app.config["FAULTS"]
    return found


def problem_response(status: int, detail: str, **headers: str) -> Response:
    """Problem details (RFC 9457), with Micropub's own `error` beside them."""
    error = {401: "unauthorized", 403: "forbidden", 400: "invalid_request"}.get(status, "error")
    body = json.dumps({"type": "about:blank", "status": status, "detail": detail, "error": error})
    return Response(body, status, {**headers, "Content-Type": "application/problem+json"})


def lost_response() -> Response:
    """An answer that never arrives whole: the connection ends in its middle."""
    return Response(b"", 200, {"Content-Length": "64", "Connection": "close"})


def misbehave(profile: str, at: str) -> Response | None:
    """What the faults in force make of a request before it is looked at."""
    all_faults = current_faults()
    all_faults.wait(g.network, "hold_before", profile, at)
    all_faults.slow_down(g.network, profile, at)
    if all_faults.find(g.network, "down", profile, at):
        return problem_response(503, "the network is down for repairs")
    if fault := all_faults.find(g.network, "rate_limiting", profile, at):
        return problem_response(
            429, "too many posts from this app", **{"Retry-After": str(max(1, round(fault.seconds)))}
        )
    if fault := all_faults.find(g.network, "refusing", profile, at):
        return problem_response(400, fault.words)
    return None


def spoil_response(profile: str, at: str) -> Response | None:
    """What the faults in force make of the answer to something that was done."""
    current_faults().wait(g.network, "hold_after", profile, at)
    return lost_response() if current_faults().find(g.network, "answer_lost", profile, at) else None
