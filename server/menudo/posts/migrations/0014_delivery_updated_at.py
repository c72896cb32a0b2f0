import django.db.models.functions.datetime
from django.db import migrations, models

import menudo.base.clock

# Whoever changes a delivery counts its revision up, one or thousands in a statement: here its time is written, once for all.
STAMP = """
CREATE FUNCTION delivery_is_updated() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.updated_at := clock_timestamp();
    RETURN NEW;
END $$;
CREATE TRIGGER delivery_is_updated BEFORE UPDATE ON posts_delivery
    FOR EACH ROW WHEN (NEW.revision IS DISTINCT FROM OLD.revision) EXECUTE FUNCTION delivery_is_updated();
"""
BACK = """
DROP TRIGGER delivery_is_updated ON posts_delivery;
DROP FUNCTION delivery_is_updated();
"""


class Migration(migrations.Migration):
    dependencies = [("posts", "0013_handed_over_step")]

    operations = [
        migrations.AddField(
            model_name="delivery",
            name="updated_at",
            field=models.DateTimeField(
                db_default=django.db.models.functions.datetime.Now(),
                default=menudo.base.clock.now,
                help_text="when its revision changed last; a trigger writes it",
            ),
        ),
        migrations.RunSQL(STAMP, BACK),
    ]
