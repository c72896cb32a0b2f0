"""Background jobs: each a thin call of an action. What waits on others' machines has a job of its own."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import OUTWARD, outward, soon
from menudo.notices.mishaps import boundary
from menudo.notices.periodic import EACH_MINUTE, periodic
from menudo.relays.actions.carry import carry_bounded, with_something_waiting
from menudo.relays.actions.forget import forget
from menudo.relays.gather import gather, outside_due
from menudo.relays.gather import look_outside as look_now


def round_of_relays() -> None:
    """What appeared at the sources of relays is gathered; each relay that has something to carry does so in its own job."""
    for profile, address in outside_due():
        outward("look_outside", f"outside:{profile}", address, profile=profile)
    gather()
    for relay in with_something_waiting():
        soon("carry_relay", f"relay:{relay}", queue=OUTWARD, relay=relay)


@app.task(name="look_outside", queue=OUTWARD, pass_context=False)
def look_outside(profile: int) -> None:
    """Ask a profile's network what stands there that wasn't made here."""
    with boundary("look_outside", f"profile {profile}"):
        if look_now(profile):
            soon("round_of_relays")


@app.task(name="carry_relay", queue=OUTWARD, pass_context=False)
def carry_relay(relay: int) -> None:
    """Carry at one relay what waits; pictures may have to be fetched for it."""
    carry_bounded(relay)


periodic("round_of_relays", EACH_MINUTE, round_of_relays)
periodic("forget_appeared", "47 3 * * *", lambda: forget(clock.now()))
