"""Sign-off's rules and answers move to signoff, first comments to delivery: here their tables get the names they have there."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("posts", "0016_standard_names")]

    operations = [
        migrations.AlterModelTable("SignRule", "signoff_signrule"),
        migrations.AlterModelTable("SignOff", "signoff_signoff"),
        migrations.AlterModelTable("FirstComment", "delivery_firstcomment"),
    ]
