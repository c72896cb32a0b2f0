"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.delivery.actions.end_connection import end_expired_connections
from menudo.delivery.actions.pause import end_expired_pauses
from menudo.delivery.actions.send import send_due as send_now
from menudo.delivery.actions.send_comment import send_comment, sweep_comments
from menudo.delivery.actions.send_expiry_warnings import send_expiry_warnings
from menudo.delivery.actions.sweep import enqueue_ahead, miss_overdue, sweep_overdue
from menudo.library.actions.bin_assets import empty_bin as empty_media
from menudo.notices.periodic import EACH_MINUTE, register_periodic
from menudo.posts.actions.bin_post import empty_bin as empty_posts
from menudo.posts.change.recompute_holds import RECHECK, recheck_holds


@app.task(name="send", queue="send")
def send_delivery(delivery: int) -> None:
    """A delivery is due: send all that is."""
    send_now(delivery)


@app.task(name="comment", queue="send")
def send_first_comment(delivery: int) -> None:
    """Put the first comment under a published post, if it waits still."""
    send_comment(delivery)


# What goes out soon, or should have gone out, and has no job, what a dead worker left, what was held too long, what ended. Each is a task of
# its own: what breaks one ends no other. A worker that starts takes them all at once.
STEPS = {
    "enqueue_ahead": enqueue_ahead,
    "sweep": sweep_overdue,
    "miss": miss_overdue,
    "end_connections": end_expired_connections,
    "warn_of_endings": send_expiry_warnings,
    "end_pauses": end_expired_pauses,
    RECHECK: recheck_holds,
    "sweep_comments": sweep_comments,
}
for _name, _step in STEPS.items():
    register_periodic(_name, EACH_MINUTE, _step)
register_periodic("empty_bin_of_posts", "41 3 * * *", empty_posts)
register_periodic("empty_bin_of_media", "43 3 * * *", empty_media)


@app.periodic(cron="17 * * * *")
@app.task(name="tidy", queue="sweep", queueing_lock="tidy")
async def delete_finished_jobs(timestamp: int) -> None:
    """Each hour: forget what the engine keeps of jobs long done, and of those whose worker died."""
    await app.job_manager.delete_old_jobs(nb_hours=24, include_failed=True)
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=300):
        if job.id is not None:
            await app.job_manager.finish_job_by_id_async(job.id, status="failed", delete_job=True)  # type: ignore[arg-type]
