"""The calendar's cards: 2,000 deliveries of 200,000, page after page, beside psycopg fetching the same rows as dictionaries."""

import json
from datetime import UTC, datetime
from typing import Any

import psycopg
from psycopg.rows import dict_row
from tools.stack import Stack

from bench.result import Result, measure_pair

_FILL = """
INSERT INTO people_brand (slug, name, zone, ink, needs_signoff) VALUES ('garden', 'Garden', 'Europe/Madrid', 'epazote', false);
INSERT INTO profiles_profile (display_name, url, site, facts, brand_id, network, remote_id, handle, name, kind, zone, state, waking_from, waking_until)
    SELECT '', '', '', '{}', b.id, 'brisk', n, '@p' || n, 'Profile ' || n, 'account', '', 'connected', '07:00', '23:00' FROM people_brand b, generate_series(1, 50) n;
INSERT INTO posts_post (brand_id, title, master, state, revision)
    SELECT b.id, '', jsonb_build_object('text', 'Moss ' || n, 'media', '[]'::jsonb), 'signed_off', 1 FROM people_brand b, generate_series(1, 200000) n;
INSERT INTO posts_delivery (post_id, profile_id, brand_id, state, due_at, zone, key, step, tries, lease_holder, held_for, reason, reason_code,
    remote_url, headline, picture_count, revision)
    SELECT p.id, (SELECT min(id) FROM profiles_profile) + p.id % 50, p.brand_id, CASE WHEN p.id % 9 = 0 THEN 'published' ELSE 'planned' END,
           timestamptz '2026-01-01' + (p.id % 200000) * interval '605 seconds', 'Europe/Madrid', gen_random_uuid(), '', 0, '', '', '', '', '',
           'Forty kinds of moss, number ' || p.id, 1, 1 FROM posts_post p;
ANALYZE;
"""
_ROWS = """
SELECT d.id, post_id, profile_id, d.state, due_at, headline, thumb_id, picture_count, reason, remote_url, d.revision FROM posts_delivery d
JOIN posts_post p ON p.id = post_id WHERE d.brand_id = %s AND due_at >= %s AND due_at < %s AND deleted_at IS NULL AND d.state <> 'unplanned' ORDER BY due_at, d.id
"""


def measure(stack: Stack) -> Result:
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    from menudo.calendar.cards import CardsQuery, cards_page
    from menudo.calendar.schemas import dump_window
    from menudo.calendar.window import NO_FILTER
    from menudo.people.context import BrandContext
    from menudo.people.models import Brand, User
    from menudo_core.timing.walltimes import day_bounds

    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        db.execute(_FILL)
        context = BrandContext(User(), Brand.objects.get(), frozenset())
        now = datetime(2027, 3, 1, 12, tzinfo=UTC)
        first = now.date()
        start, end = day_bounds(datetime(first.year, first.month, first.day), context.zone, 14)
        with db.cursor(row_factory=dict_row) as cursor:

            def reference() -> list[dict[str, Any]]:
                return cursor.execute(_ROWS, [context.brand.pk, start, end]).fetchall()

            def ours() -> list[str]:
                pages, after = [], ""
                while True:
                    page = cards_page(context, CardsQuery(first, 14, first, NO_FILTER, after))
                    pages.append(dump_window(page))
                    if page["next"] is None:
                        return pages
                    after = page["next"]

            rows, pages = len(reference()), ours()
            assert sum(len(json.loads(page)["tickets"]) for page in pages) == rows
            with CaptureQueriesContext(connection) as asked:
                ours()
            a, b, ratio = measure_pair(ours, reference, 15)
    ran = f"{rows} deliveries of 200,000 in 14 days, as JSON text, in {len(pages)} pages and {len(asked)} statements; 15 pairs"
    return Result("window", a * 1000, b * 1000, "milliseconds", ratio, "<= 2 x psycopg", ratio <= 2, ran)
