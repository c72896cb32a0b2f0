"""Write what posts say: a statement for each table, however many there are."""

from collections.abc import Collection, Mapping, Sequence

from django.db import connection

from menudo.base.rows import write_fields
from menudo.people.models import Brand
from menudo.posts.change.decision import NewPost
from menudo.posts.models import Post, Version
from menudo.posts.serializers import store_master, store_overrides
from menudo_core.networks.content import PostContent

_INSERT_DELIVERIES = """
INSERT INTO posts_delivery (post_id, profile_id, brand_id, key, state, zone, held_for, step, tries, lease_by, reason,
    reason_code, remote_url, headline, pictures, revision)
SELECT post, profile, %s, gen_random_uuid(), 'unplanned', '', '', '', 0, '', '', '', '', '', 0, 1
FROM unnest(%s::bigint[], %s::bigint[]) WITH ORDINALITY AS given (post, profile, place) ORDER BY place
RETURNING id
"""
_LABELS = Post.labels.through


def insert_posts(brand: Brand, new: Sequence[NewPost]) -> list[Post]:
    """The posts' own rows, in their order; what goes with them is written by write_contents and insert_deliveries."""
    rows = [Post(brand=brand, author=one.author) for one in new]
    for row, one in zip(rows, new, strict=True):
        _fill(row, one.content)
        one.status.write(row)
    return Post.objects.bulk_create(rows)


def insert_deliveries(brand: int, pairs: Collection[tuple[int, int]]) -> list[int]:
    """A delivery for each (post, profile), in their order: their ids. One statement: Django's bulk_create takes a second
    for thousands, of which each is the same but for its post and profile."""
    if not pairs:
        return []
    posts, profiles = zip(*pairs, strict=True)
    with connection.cursor() as cursor:
        cursor.execute(_INSERT_DELIVERIES, [brand, list(posts), list(profiles)])
        return [id for (id,) in cursor.fetchall()]


def write_contents(
    posts: Mapping[int, Post], before: Mapping[int, PostContent], after: Mapping[int, PostContent]
) -> None:
    """Title, master, versions, labels and campaign of the posts become those of `after`; `before` is what they are."""
    changed = {id: content for id, content in after.items() if content != before[id]}
    for id, content in changed.items():
        _fill(posts[id], content)
    write_fields([posts[id] for id in changed], ["title", "master", "campaign"])
    _write_versions({id: (before[id], content) for id, content in changed.items()})
    _write_labels({id: (before[id], content) for id, content in changed.items()})


def _fill(post: Post, content: PostContent) -> None:
    post.title, post.master = content.title, store_master(content.master)
    if post.campaign_id != content.campaign_id:
        post.campaign_id = content.campaign_id


def _write_versions(changed: Mapping[int, tuple[PostContent, PostContent]]) -> None:
    gone, written = [], []
    for id, (before, after) in changed.items():
        gone += [(id, *key) for key in before.versions if key not in after.versions]
        written += [
            Version(post_id=id, network=network, profile_id=profile, own=store_overrides(own))
            for (network, profile), own in after.versions.items()
            if before.versions.get((network, profile)) != own
        ]
    if not gone and not written:
        return
    there = {
        (version.post_id, version.network, version.profile_id): version
        for version in Version.objects.filter(post__in={id for id, *_ in gone} | {v.post_id for v in written})
    }
    Version.objects.filter(pk__in=[there[key].pk for key in gone]).delete()
    for version in written:
        known = there.get((version.post_id, version.network, version.profile_id))
        version.pk = known.pk if known else None
    write_fields([v for v in written if v.pk is not None], ["own"])
    Version.objects.bulk_create(v for v in written if v.pk is None)


def _write_labels(changed: Mapping[int, tuple[PostContent, PostContent]]) -> None:
    added = [(id, label) for id, (before, after) in changed.items() for label in after.labels - before.labels]
    gone: dict[int, list[int]] = {}
    for id, (before, after) in changed.items():
        for label in before.labels - after.labels:
            gone.setdefault(label, []).append(id)
    for label, posts in gone.items():
        _LABELS.objects.filter(label_id=label, post__in=posts).delete()
    _LABELS.objects.bulk_create(
        (_LABELS(post_id=id, label_id=label) for id, label in sorted(added)), ignore_conflicts=True
    )
