"""Brands that were called as an address of the installation's own could not be loaded again: they get another one."""

from django.db import migrations

# As base/addresses.py had it when this was written.
OURS = [
    "_allauth", "accounts", "api", "assets", "connect", "emoji", "feeds", "health", "live", "media", "static",
    "account", "all", "confirm-email", "installation", "invitation", "link", "mail-tray", "new-brand", "reset", "set-up",
    "sign", "waiting",
]


def rename(apps, schema_editor):
    Brand = apps.get_model("people", "Brand")
    for brand in Brand.objects.filter(slug__in=OURS):
        number = 2
        while Brand.objects.filter(slug=f"{brand.slug}-{number}").exists():
            number += 1
        brand.slug = f"{brand.slug}-{number}"
        brand.save(update_fields=["slug"])


class Migration(migrations.Migration):
    dependencies = [("people", "0006_manages_installation")]

    operations = [migrations.RunPython(rename, migrations.RunPython.noop)]
