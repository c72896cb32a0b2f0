from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0002_keep_what_was_read")]

    operations = [
        # What points at another goes first: Django's way back needs it so.
        migrations.RenameModel("Happening", "CatalogueEvent"),
        migrations.RenameModel("Thing", "CatalogueItem"),
    ]
