"""What is due later than soon has no job any more: it gets one when its time comes near."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("delivery", "0002_comments_in_trouble"),
        ("procrastinate", "0041_post_retry_failed_job"),
    ]

    operations = [
        migrations.RunSQL(
            "DELETE FROM procrastinate_jobs WHERE task_name = 'send' AND status = 'todo' AND scheduled_at > now() + interval '2 hours'",
            migrations.RunSQL.noop,
        ),
    ]
