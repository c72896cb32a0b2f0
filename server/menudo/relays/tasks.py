"""Background jobs: each a thin call of an action. What waits on others' machines has a job of its own."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import OUTWARD, enqueue, enqueue_outward
from menudo.notices.failures import failure_boundary
from menudo.notices.periodic import EACH_MINUTE, register_periodic
from menudo.relays.actions.delete_old_items import delete_old_items
from menudo.relays.actions.poll_sources import due_remote_profiles, poll_sources
from menudo.relays.actions.poll_sources import poll_remote_profile as look_now
from menudo.relays.actions.run_relay import relays_with_items, run_relay_safely


def run_due_relays() -> None:
    """What appeared at the sources of relays is gathered; each relay that has something to carry does so in its own job."""
    for profile, address in due_remote_profiles():
        enqueue_outward("look_outside", f"outside:{profile}", address, profile=profile)
    poll_sources()
    for relay in relays_with_items():
        enqueue("carry_relay", f"relay:{relay}", queue=OUTWARD, relay=relay)


@app.task(name="look_outside", queue=OUTWARD, pass_context=False)
def poll_remote_profile(profile: int) -> None:
    """Ask a profile's network what stands there that wasn't made here."""
    with failure_boundary("look_outside", f"profile {profile}"):
        if look_now(profile):
            enqueue("round_of_relays")


@app.task(name="carry_relay", queue=OUTWARD, pass_context=False)
def run_relay(relay: int) -> None:
    """Carry at one relay what waits; pictures may have to be fetched for it."""
    run_relay_safely(relay)


register_periodic("round_of_relays", EACH_MINUTE, run_due_relays)
register_periodic("forget_appeared", "47 3 * * *", lambda: delete_old_items(clock.now()))
