"""The last word on what goes out: nothing that is in the bin, whoever writes it."""

from django.db import migrations

# Before this, what was taken off the calendar could be binned, and planned again by undoing the first.
FREE = """
UPDATE posts_delivery SET state = 'unplanned', due_at = NULL, wall = NULL, held_for = '', lease_until = NULL, lease_by = ''
WHERE state IN ('planned', 'held', 'sending', 'waiting_for_hand')
    AND EXISTS (SELECT 1 FROM posts_post WHERE posts_post.id = posts_delivery.post_id AND binned IS NOT NULL);
"""
TRIGGERS = """
CREATE FUNCTION menudo_delivery_in_bin() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF EXISTS (SELECT 1 FROM posts_post WHERE id = NEW.post_id AND binned IS NOT NULL) THEN
        RAISE EXCEPTION 'delivery % is of a post in the bin and can''t be %', NEW.id, NEW.state
            USING ERRCODE = 'check_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER menudo_delivery_in_bin BEFORE INSERT OR UPDATE OF state, post_id ON posts_delivery
    FOR EACH ROW WHEN (NEW.state IN ('planned', 'held', 'sending', 'waiting_for_hand'))
    EXECUTE FUNCTION menudo_delivery_in_bin();

CREATE FUNCTION menudo_post_to_bin() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF EXISTS (
        SELECT 1 FROM posts_delivery
        WHERE post_id = NEW.id AND state IN ('planned', 'held', 'sending', 'waiting_for_hand')
    ) THEN
        RAISE EXCEPTION 'post % has deliveries on the calendar and can''t go to the bin', NEW.id
            USING ERRCODE = 'check_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER menudo_post_to_bin BEFORE UPDATE OF binned ON posts_post
    FOR EACH ROW WHEN (NEW.binned IS NOT NULL AND OLD.binned IS NULL)
    EXECUTE FUNCTION menudo_post_to_bin();
"""
BACK = """
DROP TRIGGER menudo_delivery_in_bin ON posts_delivery; DROP FUNCTION menudo_delivery_in_bin();
DROP TRIGGER menudo_post_to_bin ON posts_post; DROP FUNCTION menudo_post_to_bin();
"""


class Migration(migrations.Migration):
    dependencies = [("posts", "0011_tell_time_by_one_clock")]

    operations = [
        migrations.RunSQL(FREE, migrations.RunSQL.noop),
        migrations.RunSQL(TRIGGERS, BACK),
    ]
