"""Everyone signs in with an address that is known to be theirs; what was added to an account and never confirmed is no more."""

from django.db import migrations


def known(apps, schema_editor):
    User = apps.get_model("people", "User")
    EmailAddress = apps.get_model("account", "EmailAddress")
    EmailAddress.objects.filter(verified=False).delete()
    there = set(EmailAddress.objects.filter(primary=True).values_list("user_id", flat=True))
    EmailAddress.objects.bulk_create(
        EmailAddress(user=user, email=user.email, primary=True, verified=True)
        for user in User.objects.exclude(pk__in=there)
    )


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0007_no_brand_at_our_own_addresses"),
        ("account", "0009_emailaddress_unique_primary_email"),
    ]

    operations = [migrations.RunPython(known, migrations.RunPython.noop)]
