"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base.engine import OUTWARD
from menudo.insight.actions.read_results import put_readings, read_profile
from menudo.notices.mishaps import boundary
from menudo.notices.periodic import periodic


@app.task(name="read_results", queue=OUTWARD, pass_context=False)
def read_results(profile: int) -> None:
    """What one profile's posts have earned."""
    with boundary("read_results", f"profile {profile}"):
        read_profile(profile)


periodic("read_all_results", "29 * * * *", put_readings)
