"""The models that live in signoff and delivery now are none of posts' any more. Their tables stay as they are."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("posts", "0017_models_move_to_their_rooms"),
        ("signoff", "0004_rules_and_answers"),
        ("delivery", "0001_initial"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel("SignRule"),
                migrations.DeleteModel("SignOff"),
                migrations.DeleteModel("FirstComment"),
            ]
        )
    ]
