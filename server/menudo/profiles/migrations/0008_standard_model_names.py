from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("profiles", "0007_connection_of_each_link")]

    operations = [
        migrations.RenameModel("OwnSheet", "CustomRuleSheet"),
    ]
