from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("calendar", "0002_tell_time_by_one_clock")]

    operations = [
        migrations.RenameModel("KeptView", "SavedView"),
        migrations.RenameModel("OwnDate", "CustomDate"),
    ]
