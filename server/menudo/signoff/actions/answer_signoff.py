"""Answer what was put up: agree, with a small change if one may, or send it back with a remark."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from menudo.base.problems import ConflictError, ForbiddenError, InvalidError, NotFoundError, StaleRevisionError
from menudo.base.sentences import Sentence, say
from menudo.base.storable import storage_refusal
from menudo.posts.actions.watch import notify_watchers, title_of
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import store_content, store_post_content
from menudo.posts.signoff_state import DeliverySignoff, signoffs_of
from menudo.signoff.models import SignOff
from menudo.signoff.signers import Signer
from menudo.talk.actions.change_remark import RemarkTarget, save_remark
from menudo_core.networks.content import Overrides, PostContent
from menudo_core.signoff.agreement import SignoffState, Verdict
from menudo_core.signoff.states import DeliveryState, PostState

_FINAL_STATES = {DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF, DeliveryState.SENDING}


@dataclass(frozen=True, slots=True)
class TextChange:
    """Another text for a network's version, or for that of a profile split off."""

    network: str
    profile: int | None
    text: str


def approve(
    signer: Signer, post: int, revision: int, only: Collection[int] | None = None, changes: Sequence[TextChange] = ()
) -> Post:
    """Agree to what the signer is asked, of the deliveries in `only` (None: all); its held deliveries go on, those too
    late are left to be missed. With `changes` the texts are changed first, and others who had agreed are asked again.

    Raises StaleRevisionError, ForbiddenError, ConflictError when nothing waits on them.
    """
    with change_posts(signer, posts=[post], by=signer.user) as change:
        row = change.post(post, revision, shows=not signer.by_link)
        if changes:
            _change_texts(signer, change, row, changes)
        mine = [
            s
            for s in _signoffs_for(signer, change, row, only)
            if s.status.state in (SignoffState.WAITS, SignoffState.BACK)
        ]
        if not mine:
            raise ConflictError(_nothing_asked_message(row))
        change.apply(Decision(answers=_build_answers(signer, change, mine, Verdict.AGREED)))
        agreed = "signoff.agreed_with_change" if changes else "signoff.agreed"
        sentence = say(agreed, post=title_of(row), profiles=_profiles_of(mine, change, row))
        change.record("agree", "post", row.pk, sentence)
        key = f"agreed:{row.pk}:{row.revision}"
        done = row.state == PostState.SIGNED
        message = say("post.agreed_last" if done else "post.agreed", name=signer.label, what=sentence)
        notify_watchers(signer.brand, row, "agreed", key, message, but=[signer.user])
    return row


def approve_all(signer: Signer, posts: Mapping[int, int]) -> tuple[int, list[tuple[int, str]]]:
    """Agree to each post in its revision. How many; which were left, and why. Each is a transaction of its own."""
    done, left = 0, []
    for post, revision in posts.items():
        try:
            approve(signer, post, revision)
            done += 1
        except (ConflictError, NotFoundError, ForbiddenError) as error:
            left.append((post, error.words))
        except StaleRevisionError:
            left.append((post, "Someone changed it meanwhile. Look at it again."))
    return done, left


def send_back(
    signer: Signer, post: int, revision: int, words: str, on: RemarkTarget, only: Collection[int] | None = None
) -> Post:
    """Ask for a change, and say which: on the post, a version or a field. Raises InvalidError without words, StaleRevisionError, ConflictError."""
    words = words.strip()
    if not words or storage_refusal(words):
        raise InvalidError.at("/words", storage_refusal(words) or say("signoff.change_wordless"))
    with change_posts(signer, posts=[post], by=signer.user) as change:
        row = change.post(post, revision, shows=not signer.by_link)
        if row.requested_at is None:
            raise ConflictError(say("signoff.not_up"))
        mine = [
            s
            for s in _signoffs_for(signer, change, row, only, asked=False)
            if on.network in ("", s.delivery.profile.network)
        ]
        if on.profile is not None:
            mine = [s for s in mine if s.delivery.profile_id == on.profile]
        if not mine:
            raise ConflictError(_nothing_asked_message(row))
        save_remark(signer.brand, row, None if signer.by_link else signer.user, signer.label, words, on)
        change.apply(Decision(answers=_build_answers(signer, change, mine, Verdict.CHANGE)))
        change.record("send_back", "post", row.pk, say("signoff.sent_back", post=title_of(row), words=words[:120]))
        key = f"back:{row.pk}:{row.revision}"
        message = say("post.sent_back", name=signer.label, post=title_of(row), words=words)
        notify_watchers(signer.brand, row, "back", key, message, but=[signer.user])
    return row


def is_asked(signer: Signer, one: DeliverySignoff) -> bool:
    """Whether the signer is asked of this delivery now."""
    return signer.key in one.status.asked or None in one.status.asked


def is_visible_to(signer: Signer, one: DeliverySignoff) -> bool:
    """Whether a delivery is in the signer's sight and under a rule that names them (or anyone)."""
    seen = signer.profiles is None or one.delivery.profile_id in signer.profiles
    return seen and any(not rule.signers or signer.key in rule.signers for rule in one.rules)


def _signoffs_for(
    signer: Signer, change: PostChange, post: Post, only: Collection[int] | None, asked: bool = True
) -> list[DeliverySignoff]:
    rows, renderers = change.deliveries_of(post), {post.pk: change.renderer(post)}
    found = [
        s
        for s in signoffs_of(signer.brand, {post.pk: post}, rows, renderers)[post.pk]
        if s.delivery.state not in _FINAL_STATES
        and is_visible_to(signer, s)
        and (only is None or s.delivery.pk in only)
    ]
    if not found and signer.by_link:
        raise NotFoundError()
    if not asked:
        return found
    # Who asked for a change may think better of it.
    return [
        s
        for s in found
        if is_asked(signer, s) or (s.status.state is SignoffState.BACK and _requested_change(signer, s))
    ]


def _requested_change(signer: Signer, one: DeliverySignoff) -> bool:
    own_answers = [a for a in one.answers if a.signer == signer.key]
    return bool(own_answers) and own_answers[-1].verdict == Verdict.CHANGE


def _nothing_asked_message(post: Post) -> Sentence:
    if post.state == PostState.SIGNED:
        return say("signoff.signed_already")
    if post.requested_at is None:
        return say("signoff.not_up")
    return say("signoff.waits_on_others")


def _build_answers(
    signer: Signer, change: PostChange, mine: Sequence[DeliverySignoff], verdict: Verdict
) -> list[SignOff]:
    return [
        SignOff(
            delivery=s.delivery,
            profile_id=s.delivery.profile_id,
            signer=signer.key,
            name=signer.label,
            verdict=verdict,
            fingerprint=s.fingerprint,
            content={**store_content(s.content), "link_tags": s.content.link_tags},
            due_at=s.delivery.due_at,
            answered_at=change.now,
        )
        for s in mine
    ]


def _change_texts(signer: Signer, change: PostChange, post: Post, changes: Sequence[TextChange]) -> None:
    if not signer.may_edit:
        raise ForbiddenError(say("signoff.not_wording"))
    before = change.content(post)
    versions = dict(before.versions)
    for number, one in enumerate(changes):
        if bad := storage_refusal(one.text):
            raise InvalidError.at(f"/changes/{number}/text", bad)
        profiles = _changed_profiles(signer, change, post, one)
        if not profiles:
            raise NotFoundError()
        for profile in profiles:
            key = (one.network, profile)
            # A profile that is split off by this keeps what its network's version has.
            version = versions.get(key) or before.versions.get((one.network, None)) or Overrides()
            versions[key] = replace(version, text=one.text)
    after: PostContent = replace(before, versions=versions)
    change.apply(Decision(contents={post.pk: after}))
    states = {"before": store_post_content(before), "after": store_post_content(after)}
    change.record(
        "write",
        "post",
        post.pk,
        say("post.changed_signing", post=title_of(post)),
        before=states["before"],
        after=states["after"],
    )


def _changed_profiles(signer: Signer, change: PostChange, post: Post, one: TextChange) -> Sequence[int | None]:
    """Whose versions a change writes: those of profiles, or the network's own (None), which is for all that have none of their own.

    A link changes no more than it shows: where others of the network say the same and aren't shown, what is shown is split off.
    """
    there = [d for d in change.deliveries_of(post) if d.profile.network == one.network]
    if not signer.by_link:
        return [one.profile] if one.profile in {None, *(d.profile_id for d in there)} and there else []
    shown = {s.delivery.profile_id for s in _signoffs_for(signer, change, post, None, asked=False)}
    if one.profile is not None:
        return [one.profile] if one.profile in shown & {d.profile_id for d in there} else []
    own = {profile for network, profile in change.content(post).versions if network == one.network}
    together = {d.profile_id for d in there if d.state not in _FINAL_STATES} - own
    if together <= shown:
        return [None] if together else []
    return sorted(together & shown)


def _profiles_of(mine: Sequence[DeliverySignoff], change: PostChange, post: Post) -> list[str]:
    """For which profiles; none named when it is for all."""
    if len(mine) == len(change.deliveries_of(post)):
        return []
    return [s.delivery.profile.handle for s in mine]
