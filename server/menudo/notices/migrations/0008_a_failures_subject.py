from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("notices", "0007_standard_names")]

    operations = [
        migrations.RemoveConstraint("jobfailure", "one_mishap_of_a_step_and_thing"),
        migrations.RenameField("jobfailure", "thing", "subject"),
        migrations.AddConstraint(
            "jobfailure", models.UniqueConstraint(fields=["step", "subject"], name="one_failure_of_a_step_and_subject")
        ),
    ]
