"""What is said at a post, as pages need it."""

from menudo.base import clock
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.posts.models import Post, Watch
from menudo.talk import schemas
from menudo.talk.models import Remark, Task


def post_talk(context: BrandContext, post: Post) -> schemas.TalkOut:
    """Remarks, open tasks, watchers and the brand's people: four statements."""
    now, me = clock.now(), context.user.pk
    tasks = Task.objects.filter(post=post, done_at=None).select_related("user", "assigned_by")
    watches = list(Watch.objects.filter(post=post).select_related("user").order_by("user__name"))
    members = Membership.objects.filter(brand=context.brand).select_related("user").order_by("user__name")
    return schemas.TalkOut(
        remarks=[remark_out(r, me) for r in Remark.objects.filter(post=post)],
        tasks=[
            schemas.TaskOut(
                id=t.pk,
                user=t.user_id,
                name=t.user.name,
                assigned_by=t.assigned_by.name if t.assigned_by else "",
                summary=t.summary,
                due_at=t.due_at,
                late=t.due_at is not None and t.due_at < now,
                mine=t.user_id == me,
            )
            for t in tasks
        ],
        watching=any(w.user_id == me for w in watches),
        watchers=[w.user.name for w in watches],
        people=[schemas.PersonOut(id=m.user_id, name=m.user.name) for m in members],
    )


def remark_out(r: Remark, me: int | None) -> schemas.RemarkOut:
    """One remark, for the person `me` (None: a client by link)."""
    return schemas.RemarkOut(
        id=r.pk,
        name=r.name,
        text=r.text,
        network=r.network,
        profile=r.profile_id,
        field=r.field,
        created_at=r.created_at,
        edited_at=r.edited_at is not None,
        resolved_at=r.resolved_at,
        resolved_by=r.resolved_by,
        shared=r.shared,
        mine=me is not None and r.user_id == me,
    )
