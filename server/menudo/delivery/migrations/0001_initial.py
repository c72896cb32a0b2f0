"""First comments, whose table was posts' before."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = [("posts", "0017_models_move_to_their_rooms")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="FirstComment",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("text", models.TextField()),
                        ("state", models.CharField(choices=[("waiting", "Waiting"), ("sending", "Sending"), ("published", "Published"), ("in_trouble", "Trouble")], default="waiting", max_length=12)),
                        ("key", models.UUIDField(unique=True)),
                        ("begun", models.BooleanField(default=False)),
                        ("tries", models.PositiveIntegerField(default=0)),
                        ("not_before", models.DateTimeField(null=True)),
                        ("lease_until", models.DateTimeField(null=True)),
                        ("lease_holder", models.CharField(blank=True, max_length=80)),
                        ("reason", models.TextField(blank=True)),
                        ("reason_code", models.CharField(blank=True, max_length=20)),
                        ("remote_url", models.URLField(blank=True, max_length=500)),
                        ("delivery", models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name="comment", to="posts.delivery")),
                    ],
                    options={
                        "indexes": [models.Index(condition=models.Q(("state__in", ["waiting", "sending"])), fields=["state"], name="comment_waiting")],
                    },
                )
            ]
        )
    ]
