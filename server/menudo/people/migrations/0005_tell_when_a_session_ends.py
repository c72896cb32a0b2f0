"""The live streams of a session end with it, whoever ends it: signing out, ending it from another one, or its time."""

from django.db import migrations

TRIGGER = """
CREATE FUNCTION menudo_session_ended() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM pg_notify('menudo', json_build_object('session', OLD.session_key)::text);
    RETURN NULL;
END $$;
CREATE TRIGGER menudo_session_ended AFTER DELETE ON django_session
    FOR EACH ROW EXECUTE FUNCTION menudo_session_ended();
"""
BACK = "DROP TRIGGER menudo_session_ended ON django_session; DROP FUNCTION menudo_session_ended();"


class Migration(migrations.Migration):
    dependencies = [("people", "0004_tell_time_by_one_clock"), ("sessions", "0001_initial")]

    operations = [migrations.RunSQL(TRIGGER, BACK)]
