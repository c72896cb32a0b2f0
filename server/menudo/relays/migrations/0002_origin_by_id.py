import re

import django.contrib.postgres.fields
from django.db import migrations, models

_URI = re.compile(r"(?:[a-z][a-z0-9+.-]*://|urn:|tag:)\S", re.IGNORECASE)


def name_by_id(apps, schema_editor):
    """What appeared at a feed was named by its address until now: by its id, where it has one, from here on, so that nothing
    that was carried comes as new."""
    Article = apps.get_model("feeds", "Article")
    Appeared = apps.get_model("relays", "Appeared")
    Had = apps.get_model("relays", "Had")
    for appeared in Appeared.objects.filter(source__startswith="f", origin__startswith="link:").iterator():
        feed = int(appeared.source[1:])
        link = appeared.data.get("link", "")
        article = Article.objects.filter(feed=feed, link=link, known_by__startswith="id:").order_by("pk").first()
        address, appeared.addresses = appeared.origin, [appeared.origin]
        if article is not None:
            known = article.known_by
            name = (known if _URI.match(known[3:]) else f"feed:{feed}:{known}")[:700]
            taken = Appeared.objects.filter(brand=appeared.brand_id, source=appeared.source, origin=name).exists()
            if not taken:
                appeared.origin = name
        appeared.save(update_fields=["origin", "addresses"])
        for had in Had.objects.filter(origin=address, leg__appeared=appeared):
            Had.objects.filter(pk=had.pk).update(source=appeared.source)
            if appeared.origin != address:
                row = Had(profile_id=had.profile_id, origin=appeared.origin, source=appeared.source, leg_id=had.leg_id)
                Had.objects.bulk_create([row], ignore_conflicts=True)


class Migration(migrations.Migration):
    dependencies = [("relays", "0001_initial"), ("feeds", "0002_former_links")]

    operations = [
        migrations.AddField(
            model_name="appeared",
            name="addresses",
            field=django.contrib.postgres.fields.ArrayField(
                base_field=models.CharField(max_length=700), db_default=[], default=list, size=None
            ),
        ),
        migrations.AddField(
            model_name="had",
            name="source",
            field=models.CharField(blank=True, db_default="", max_length=24),
        ),
        migrations.RunPython(name_by_id, migrations.RunPython.noop),
    ]
