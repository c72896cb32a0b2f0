"""What was up for sign-off or signed off before answers were kept each for itself stays so."""

from dataclasses import replace

from django.db import migrations
from django.db.models import F

from menudo.posts.serializers import store_content, load_content, load_overrides
from menudo_core.networks.content import Overrides, apply_overrides
from menudo_core.signoff.fingerprint import fingerprint
from menudo_core.text.placeholders import fill_placeholders

OPEN = ["unplanned", "planned", "held", "sending", "missed", "in_trouble", "waiting_for_hand"]


def keep(apps, schema_editor):
    Post, Delivery, Version, SignOff = (apps.get_model("posts", name) for name in ("Post", "Delivery", "Version", "SignOff"))
    Post.objects.exclude(state="draft").update(up_at=F("changed"))
    signed = Delivery.objects.filter(brand__needs_signoff=True, state__in=OPEN).select_related("post", "profile")
    Delivery.objects.filter(brand__needs_signoff=True, state__in=OPEN).exclude(post__state="signed_off").update(signing="waits")
    for delivery in signed.filter(post__state="signed_off").iterator():
        versions = Version.objects.filter(post=delivery.post, network=delivery.profile.network)
        own = versions.filter(profile=delivery.profile_id).first() or versions.filter(profile=None).first()
        raw = apply_overrides(load_content(delivery.post.master), load_overrides(own.own) if own else Overrides())
        known = {"title": delivery.post.title}
        content = replace(
            raw, text=fill_placeholders(raw.text, known), first_comment=fill_placeholders(raw.first_comment, known), link=fill_placeholders(raw.link, known),
            fields={key: fill_placeholders(value, known) for key, value in raw.fields.items()},
        )
        says = fingerprint(content)
        SignOff.objects.create(
            delivery=delivery, profile_id=delivery.profile_id, signer="before", name="signed off before", verdict="agreed",
            says=says, said=store_content(content), due_at=delivery.due_at, at=delivery.post.changed,
        )
        Delivery.objects.filter(pk=delivery.pk).update(signing="agreed")


class Migration(migrations.Migration):
    dependencies = [("posts", "0006_sign_off"), ("people", "0003_sign_off")]
    operations = [migrations.RunPython(keep, migrations.RunPython.noop)]
