from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("rotas", "0002_turn_quotation")]

    operations = [
        migrations.RenameModel("Place", "Placement"),
    ]
