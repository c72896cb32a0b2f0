"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.delivery.actions.comment import put_comment, sweep_comments
from menudo.delivery.actions.end_connection import end_those_over
from menudo.delivery.actions.pause import tell_pauses_over
from menudo.delivery.actions.send import send as send_now
from menudo.delivery.actions.sweep import look_again, miss, sweep
from menudo.delivery.actions.warn import warn
from menudo.library.actions.bin import empty as empty_media
from menudo.notices.periodic import EACH_MINUTE, periodic
from menudo.posts.actions.bin import empty as empty_posts


@app.task(name="send", queue="send")
def send(delivery: int) -> None:
    """A delivery is due: send all that is."""
    send_now(delivery)


@app.task(name="comment", queue="send")
def comment(delivery: int) -> None:
    """Put the first comment under a published post, if it waits still."""
    put_comment(delivery)


# What should have gone out and has no job, what a dead worker left, what was held too long, what ended. Each is a task of
# its own: what breaks one ends no other. A worker that starts takes them all at once.
STEPS = {
    "sweep": sweep, "miss": miss, "end_connections": end_those_over, "warn_of_endings": warn,
    "end_pauses": tell_pauses_over, "look_again": look_again, "sweep_comments": sweep_comments,
}  # fmt: skip
for _name, _step in STEPS.items():
    periodic(_name, EACH_MINUTE, _step)
periodic("empty_bin_of_posts", "41 3 * * *", empty_posts)
periodic("empty_bin_of_media", "43 3 * * *", empty_media)


@app.periodic(cron="17 * * * *")
@app.task(name="tidy", queue="sweep", queueing_lock="tidy")
async def tidy(timestamp: int) -> None:
    """Each hour: forget what the engine keeps of jobs long done, and of those whose worker died."""
    await app.job_manager.delete_old_jobs(nb_hours=24, include_failed=True)
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=300):
        if job.id is not None:
            await app.job_manager.finish_job_by_id_async(job.id, status="failed", delete_job=True)  # type: ignore[arg-type]
