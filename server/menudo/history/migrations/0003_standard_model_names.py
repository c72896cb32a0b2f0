from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("history", "0002_tell_time_by_one_clock")]

    operations = [
        migrations.RenameModel("Entry", "HistoryEvent"),
    ]
