"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base.engine import OUTWARD
from menudo.insight.actions.read_results import enqueue_readings, read_profile_results
from menudo.notices.failures import failure_boundary
from menudo.notices.periodic import register_periodic


@app.task(name="read_results", queue=OUTWARD, pass_context=False)
def read_results(profile: int) -> None:
    """What one profile's posts have earned."""
    with failure_boundary("read_results", f"profile {profile}"):
        read_profile_results(profile)


register_periodic("read_all_results", "29 * * * *", enqueue_readings)
