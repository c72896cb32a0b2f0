"""Rules of sign-off and the answers, whose tables were posts' before."""

import django.contrib.postgres.fields
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0010_standard_names"),
        ("posts", "0017_models_move_to_their_rooms"),
        ("signoff", "0003_standard_names"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="SignRule",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("name", models.CharField(max_length=80)),
                        ("signers", django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=20), default=list, size=None)),
                        ("mode", models.CharField(choices=[("any", "any"), ("all", "all"), ("in_order", "in_order")], default="any", max_length=8)),
                        ("profiles", django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                        ("labels", django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                        ("kinds", django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=20), default=list, size=None)),
                        ("authors", django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                        ("before_hours", models.PositiveSmallIntegerField(null=True)),
                        ("brand", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="sign_rules", to="people.brand")),
                    ],
                    options={"ordering": ["pk"]},
                ),
                migrations.CreateModel(
                    name="SignOff",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("profile_id", models.BigIntegerField()),
                        ("signer", models.CharField(max_length=20)),
                        ("name", models.CharField(max_length=120)),
                        ("verdict", models.CharField(choices=[("agreed", "agreed"), ("change", "change")], max_length=8)),
                        ("fingerprint", models.CharField(max_length=32)),
                        ("content", models.JSONField(help_text="the wording that was answered")),
                        ("due_at", models.DateTimeField(null=True)),
                        ("answered_at", models.DateTimeField()),
                        ("delivery", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="signoffs", to="posts.delivery")),
                    ],
                    options={"ordering": ["pk"]},
                ),
            ]
        )
    ]
