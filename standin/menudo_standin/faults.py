"""Trouble on demand: how a network, or one profile of it, is to misbehave just now."""

import threading
import time
from dataclasses import asdict, dataclass, field
from typing import Any

KINDS = {
    "slow": "answers after a while",
    "down": "answers 503 to everything",
    "refusing": "refuses every post, with a reason",
    "rate_limiting": "asks to wait (429, Retry-After)",
    "answer_lost": "does what it is asked, then breaks the connection off without an answer",
    "hold_before": "holds every request before acting, until released",
    "hold_after": "holds every answer after acting, until released",
    "forgetful": "can't say what became of a key",
}


@dataclass(frozen=True)
class Fault:
    """`profile` empty: the whole network. `at`: media, create, or empty for both. `seconds`: how slow, or how long to wait."""

    network: str
    kind: str
    profile: str = ""
    at: str = ""
    seconds: float = 5.0
    words: str = "This post breaks the house rules."


@dataclass
class Faults:
    """The faults in force, and the requests that are being held."""

    _all: list[Fault] = field(default_factory=list)
    _held: list[dict[str, str]] = field(default_factory=list)
    _changed: threading.Condition = field(default_factory=threading.Condition)

    def set(self, fault: Fault) -> None:
        with self._changed:
            self._all = [
                f for f in self._all if (f.network, f.profile, f.kind) != (fault.network, fault.profile, fault.kind)
            ]
            self._all.append(fault)
            self._changed.notify_all()

    def clear(self, network: str = "", profile: str = "") -> None:
        """End the faults of a network (all networks when empty), or of one profile of it."""
        with self._changed:
            self._all = [
                f for f in self._all if (network and f.network != network) or (profile and f.profile != profile)
            ]
            self._changed.notify_all()

    def active(self) -> list[dict[str, Any]]:
        return [asdict(f) for f in self._all]

    def waiting(self) -> list[dict[str, str]]:
        with self._changed:
            return [dict(h) for h in self._held]

    def find(self, network: str, kind: str, profile: str, at: str) -> Fault | None:
        for fault in reversed(self._all):
            if (
                fault.network == network
                and fault.kind == kind
                and fault.profile in ("", profile)
                and fault.at in ("", at)
            ):
                return fault
        return None

    def wait(self, network: str, kind: str, profile: str, at: str) -> None:
        """Stay here while the fault of this kind is in force; at most two minutes."""
        if self.find(network, kind, profile, at) is None:
            return
        held = {"network": network, "kind": kind, "profile": profile, "at": at}
        until = time.monotonic() + 120
        with self._changed:
            self._held.append(held)
            while self.find(network, kind, profile, at) is not None and time.monotonic() < until:
                self._changed.wait(1)
            self._held.remove(held)

    def slow_down(self, network: str, profile: str, at: str) -> None:
        """Be slow when told to; ends early when the fault is cleared."""
        fault = self.find(network, "slow", profile, at)
        if fault is None:
            return
        until = time.monotonic() + fault.seconds
        with self._changed:
            while self.find(network, "slow", profile, at) is not None and (left := until - time.monotonic()) > 0:
                self._changed.wait(min(left, 1))
