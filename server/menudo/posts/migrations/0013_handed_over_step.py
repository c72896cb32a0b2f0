from django.db import migrations, models


def mark_handed(apps, schema_editor):
    apps.get_model("posts", "Delivery").objects.filter(state="waiting_for_hand").update(step="hand")


class Migration(migrations.Migration):
    dependencies = [("posts", "0012_nothing_in_the_bin_goes_out")]

    operations = [
        migrations.AlterField(
            model_name="delivery",
            name="step",
            field=models.CharField(
                blank=True,
                choices=[("", "None"), ("media", "Media"), ("create", "Create"), ("hand", "Hand")],
                default="",
                max_length=8,
            ),
        ),
        migrations.RunPython(mark_handed, migrations.RunPython.noop),
    ]
