"""What media are labelled with becomes the brand's labels, the same as its posts'. Names beyond a label's length are cut."""

from django.db import migrations, models

_MAX_LENGTH = 40


def link_labels(apps, schema_editor):
    Asset, Label = apps.get_model("library", "Asset"), apps.get_model("labels", "Label")
    known = {}
    for label in Label.objects.all():
        known[label.brand_id, label.name.casefold()] = label
    for asset in Asset.objects.exclude(label_names=[]).order_by("pk").iterator():
        found = []
        for written in asset.label_names:
            name = " ".join(str(written).split())[:_MAX_LENGTH].strip()
            if not name:
                continue
            key = asset.brand_id, name.casefold()
            if key not in known:
                known[key] = Label.objects.create(brand_id=asset.brand_id, name=name)
            found.append(known[key])
        asset.labels.set(found)


def write_names(apps, schema_editor):
    for asset in apps.get_model("library", "Asset").objects.prefetch_related("labels").iterator(500):
        asset.label_names = [label.name for label in asset.labels.all()]
        asset.save(update_fields=["label_names"])


class Migration(migrations.Migration):
    dependencies = [("library", "0004_standard_names"), ("labels", "0001_initial")]

    operations = [
        migrations.RenameField("asset", "labels", "label_names"),
        migrations.AddField("asset", "labels", models.ManyToManyField(related_name="assets", to="labels.label")),
        migrations.RunPython(link_labels, write_names),
        migrations.RemoveField("asset", "label_names"),
    ]
