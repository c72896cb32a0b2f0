from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("relays", "0002_origin_by_id")]

    operations = [
        # What points at another goes first: Django's way back needs it so.
        migrations.RenameModel("Had", "SeenItem"),
        migrations.RenameModel("Leg", "Firing"),
        migrations.RenameModel("Outside", "RemoteItem"),
        migrations.RenameModel("Appeared", "SourceItem"),
    ]
