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
INSERT INTO posts_delivery (post_id, profile_id, brand_id, key, state, zone, held_for, step, tries, lease_holder, reason,
    reason_code, remote_url, headline, picture_count, revision)
SELECT post, profile, %s, gen_random_uuid(), 'unplanned', '', '', '', 0, '', '', '', '', '', 0, 1
FROM unnest(%s::bigint[], %s::bigint[]) WITH ORDINALITY AS given (post, profile, position) ORDER BY position
RETURNING id
"""
_LABELS = Post.labels.through


def insert_posts(brand: Brand, new: Sequence[NewPost]) -> list[Post]:
    """The posts' own rows, in their order; what goes with them is written by write_contents and insert_deliveries."""
    rows = [Post(brand=brand, author=one.author) for one in new]
    for row, one in zip(rows, new, strict=True):
        _fill_post(row, one.content)
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
        return [delivery_id for (delivery_id,) in cursor.fetchall()]


def write_contents(
    posts: Mapping[int, Post], before: Mapping[int, PostContent], after: Mapping[int, PostContent]
) -> None:
    """Title, master, versions, labels and campaign of the posts become those of `after`; `before` is what they are."""
    changed = {post_id: content for post_id, content in after.items() if content != before[post_id]}
    for post_id, content in changed.items():
        _fill_post(posts[post_id], content)
    write_fields([posts[post_id] for post_id in changed], ["title", "master", "campaign"])
    _write_versions({post_id: (before[post_id], content) for post_id, content in changed.items()})
    _write_labels({post_id: (before[post_id], content) for post_id, content in changed.items()})


def _fill_post(post: Post, content: PostContent) -> None:
    post.title, post.master = content.title, store_master(content.master)
    if post.campaign_id != content.campaign_id:
        post.campaign_id = content.campaign_id


def _write_versions(changed: Mapping[int, tuple[PostContent, PostContent]]) -> None:
    gone, written = [], []
    for version_id, (before, after) in changed.items():
        gone += [(version_id, *key) for key in before.versions if key not in after.versions]
        written += [
            Version(post_id=version_id, network=network, profile_id=profile, overrides=store_overrides(overrides))
            for (network, profile), overrides in after.versions.items()
            if before.versions.get((network, profile)) != overrides
        ]
    if not gone and not written:
        return
    there = {
        (version.post_id, version.network, version.profile_id): version
        for version in Version.objects.filter(
            post__in={version_id for version_id, *_ in gone} | {v.post_id for v in written}
        )
    }
    Version.objects.filter(pk__in=[there[key].pk for key in gone]).delete()
    for version in written:
        known = there.get((version.post_id, version.network, version.profile_id))
        version.pk = known.pk if known else None
    write_fields([v for v in written if v.pk is not None], ["overrides"])
    Version.objects.bulk_create(v for v in written if v.pk is None)


def _write_labels(changed: Mapping[int, tuple[PostContent, PostContent]]) -> None:
    added = [(post_id, label) for post_id, (before, after) in changed.items() for label in after.labels - before.labels]
    gone: dict[int, list[int]] = {}
    for post_id, (before, after) in changed.items():
        for label in before.labels - after.labels:
            gone.setdefault(label, []).append(post_id)
    for label, posts in gone.items():
        _LABELS.objects.filter(label_id=label, post__in=posts).delete()
    _LABELS.objects.bulk_create(
        (_LABELS(post_id=post_id, label_id=label) for post_id, label in sorted(added)), ignore_conflicts=True
    )
