from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("notices", "0005_mail_server")]

    operations = [
        migrations.RenameModel("Wishes", "NotificationPreferences"),
        migrations.RenameModel("Mishap", "JobFailure"),
    ]
