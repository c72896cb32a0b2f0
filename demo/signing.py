"""The garden's sign-off: a rule, what its director has agreed to and sent back, and the talk about it."""

from datetime import timedelta

from menudo.base import clock
from menudo.people.models import Brand, User
from menudo.posts.change.kernel import System
from menudo.posts.change.recheck_signoff import recheck_signoff
from menudo.posts.models import Post, Watch
from menudo.posts.serializers import store_content
from menudo.posts.signoff_state import DeliverySignoff, signoffs_by_post
from menudo.signoff.models import SignOff, SignRule
from menudo.talk.models import Remark, Task
from menudo_core.signoff.agreement import Verdict
from menudo_core.signoff.fingerprint import fingerprint
from menudo_core.signoff.states import PostState

_BACK = "Is it really forty? The label by the door says thirty-eight."


def add_signing() -> None:
    """After all posts are there: what was signed off has its answers, and every state follows from them."""
    for brand in Brand.objects.all():
        posts = list(Post.objects.filter(brand=brand).exclude(state=PostState.DRAFT).select_related("campaign"))
        for post in posts:
            post.brand = brand
            post.requested_at = clock.now() - timedelta(days=3)
        Post.objects.bulk_update(posts, ["requested_at"])
        if brand.needs_signoff:
            _sign_posts(brand, posts)
        recheck_signoff(System(brand), [post.pk for post in posts])


def _sign_posts(brand: Brand, posts: list[Post]) -> None:
    maud, teo, ines = (User.objects.get(email=f"{name}@example.org") for name in ("maud", "teo", "ines"))
    SignRule.objects.create(brand=brand, name="Everything past the director", signers=[f"u{maud.pk}"], before_hours=12)
    found = signoffs_by_post(brand, posts)
    signed = [post for post in posts if post.state == PostState.SIGNED]
    for post in posts:
        if post.state == PostState.UP:
            continue
        verdict = Verdict.CHANGE if post.state == PostState.BACK else Verdict.AGREED
        SignOff.objects.bulk_create([_signoff_row(s, maud, verdict) for s in found[post.pk]])
        if verdict is Verdict.CHANGE:
            _add_remark(post, maud, _BACK, hours=20)
    # One was changed since it was agreed to: it waits again, and shows what is different.
    changed = next(
        (p for p in posts if p.state == PostState.UP and any(s.delivery.state == "held" for s in found[p.pk])), None
    )
    if changed is not None:
        for s in found[changed.pk]:
            was = store_content(s.content)
            was["text"] = (
                s.content.text.replace("\n", " on Saturday\n", 1)
                if "\n" in s.content.text
                else f"{s.content.text} on Saturday"
            )
            answer = _signoff_row(s, maud, Verdict.AGREED)
            answer.fingerprint, answer.content = fingerprint(s.content)[::-1], was
            answer.save()
        _add_remark(
            changed, ines, "@Maud Ellery the day has changed, could you look again?", hours=2, mentions=[maud.pk]
        )
        _add_remark(
            changed,
            teo,
            "The picture is from Sunday, with the new door.",
            hours=1,
            shared=True,
            network=found[changed.pk][0].delivery.profile.network,
            field="media",
        )
        Task.objects.create(
            post=changed,
            user=teo,
            assigned_by=ines,
            summary="find one without the scaffolding",
            created_at=clock.now(),
            due_at=clock.now() + timedelta(days=1),
        )
        back = next((p for p in posts if p.state == PostState.BACK), changed)
        _add_remark(back, teo, "@Inés Varela I can’t find who counted them. Do you know?", hours=3, mentions=[ines.pk])
        Task.objects.create(
            post=back,
            user=ines,
            assigned_by=maud,
            summary="ask the gardeners for the number",
            created_at=clock.now(),
            due_at=clock.now() + timedelta(hours=9),
        )
    for post in signed[:3]:
        Watch.objects.create(post=post, user=ines)


def _signoff_row(s: DeliverySignoff, who: User, verdict: Verdict) -> SignOff:
    at = clock.now() - timedelta(hours=20)
    return SignOff(
        delivery=s.delivery,
        profile_id=s.delivery.profile_id,
        signer=f"u{who.pk}",
        name=who.name,
        verdict=verdict,
        fingerprint=s.fingerprint,
        content=store_content(s.content),
        due_at=s.delivery.due_at,
        answered_at=at,
    )


def _add_remark(
    post: Post,
    who: User,
    text: str,
    hours: int,
    mentions: tuple[int, ...] | list[int] = (),
    shared: bool = False,
    **on: str,
) -> None:
    Remark.objects.create(
        post=post,
        user=who,
        name=who.name,
        text=text,
        created_at=clock.now() - timedelta(hours=hours),
        mentions=list(mentions),
        shared=shared,
        **on,
    )
