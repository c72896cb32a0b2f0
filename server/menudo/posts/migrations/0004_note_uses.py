"""Say of the posts that are there already which media they use: the library goes by it."""

from django.db import migrations


def note_uses(apps, schema_editor):
    Post, Use = apps.get_model("posts", "Post"), apps.get_model("library", "Use")
    Asset = apps.get_model("library", "Asset")
    known = set(Asset.objects.values_list("pk", flat=True))
    rows = []
    for post in Post.objects.prefetch_related("versions").iterator(chunk_size=500):
        wordings = [post.master, *(version.own for version in post.versions.all())]
        used = {asset for raw in wordings for asset in raw.get("media") or ()} & known
        words = "\n".join(raw["text"] for raw in wordings if raw.get("text"))[:20_000]
        rows += [Use(asset_id=asset, post_id=post.pk, title=post.title, words=words) for asset in sorted(used)]
    Use.objects.bulk_create(rows, batch_size=1000, ignore_conflicts=True)


class Migration(migrations.Migration):
    dependencies = [("posts", "0003_bench_and_library"), ("library", "0002_bench_and_library")]

    operations = [migrations.RunPython(note_uses, migrations.RunPython.noop)]
