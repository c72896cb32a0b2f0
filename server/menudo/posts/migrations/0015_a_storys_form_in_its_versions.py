"""A story brought in by a plan kept its form with its master, where the Bench has none, and couldn't be opened there: its
networks' versions say it from now on."""

from django.db import migrations


def move_forms(apps, schema_editor):
    Post, Delivery, Version = (apps.get_model("posts", name) for name in ("Post", "Delivery", "Version"))
    for post in Post.objects.filter(master__has_key="form").iterator():
        form = post.master.pop("form")
        for network in set(Delivery.objects.filter(post=post).values_list("profile__network", flat=True)):
            Version.objects.get_or_create(post=post, network=network, profile=None)
        for version in Version.objects.filter(post=post):
            version.own = {"form": form, **version.own}
            version.save(update_fields=["own"])
        post.save(update_fields=["master"])


class Migration(migrations.Migration):
    dependencies = [("posts", "0014_delivery_updated_at")]
    operations = [migrations.RunPython(move_forms, migrations.RunPython.noop)]
