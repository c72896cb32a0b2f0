"""Where the sign-off of posts stands: the facts in a few statements, and the core's word."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post
from menudo.posts.rendering import PostRenderer
from menudo.signoff.models import SignOff, SignRule
from menudo_core.networks.content import Content
from menudo_core.signoff.agreement import (
    Answer,
    Revision,
    SignoffState,
    SignoffStatus,
    Verdict,
    agreements,
    signoff_status,
)
from menudo_core.signoff.fingerprint import fingerprint, post_kind
from menudo_core.signoff.rules import Rule, SigningMode, SignoffSubject, rules_for
from menudo_core.signoff.states import DeliveryState, post_state
from menudo_core.text.placeholders import fill_placeholders

FINAL_STATES = {DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF}


@dataclass(frozen=True, slots=True)
class DeliverySignoff:
    """One delivery's sign-off: its post's wordings, what it says now, which rules ask, the answers there are,
    where it stands, and which of the answers agree to what it says now."""

    delivery: Delivery
    renderer: PostRenderer
    content: Content
    fingerprint: str
    rules: tuple[Rule, ...]
    answers: list[SignOff]
    status: SignoffStatus
    counts: list[bool]


def signoff_rules(brand: Brand) -> list[Rule]:
    """The brand's rules; none while it doesn't sign off."""
    return [load_rule(row) for row in SignRule.objects.filter(brand=brand)] if brand.needs_signoff else []


def load_rule(row: SignRule) -> Rule:
    return Rule(
        signers=tuple(row.signers),
        mode=SigningMode(row.mode),
        profiles=frozenset(row.profiles),
        labels=frozenset(row.labels),
        kinds=frozenset(row.kinds),
        authors=frozenset(row.authors),
        before=timedelta(hours=row.before_hours) if row.before_hours is not None else None,
    )


def signoffs_by_post(brand: Brand, posts: Iterable[Post]) -> dict[int, list[DeliverySignoff]]:
    """Of every delivery of the posts, by post: a few statements, however many there are."""
    wanted = {post.pk: post for post in posts}
    rows = Delivery.objects.filter(post__in=wanted).prefetch_related("profile").order_by("pk")
    return signoffs_of(brand, wanted, rows, PostRenderer.for_posts(brand, wanted.values()))


def signoffs_of(
    brand: Brand,
    posts: Mapping[int, Post],
    deliveries: Iterable[Delivery],
    renderers: Mapping[int, PostRenderer],
    rules: list[Rule] | None = None,
) -> dict[int, list[DeliverySignoff]]:
    """The same of deliveries in hand, in their order; their profiles are read with them. `rules` None: the brand's own."""
    rules = signoff_rules(brand) if rules is None else rules
    answers: dict[int, list[SignOff]] = {}
    if brand.needs_signoff:
        for answer in SignOff.objects.filter(delivery__post__in=posts):
            answers.setdefault(answer.delivery_id, []).append(answer)
    found: dict[int, list[DeliverySignoff]] = {pk: [] for pk in posts}
    for delivery in deliveries:
        post, renderer = posts[delivery.post_id], renderers[delivery.post_id]
        found[post.pk].append(_signoff_of(brand, post, delivery, renderer, rules, answers.get(delivery.pk, [])))
    return found


def refresh_signoff(
    brand: Brand,
    posts: Mapping[int, Post],
    deliveries: Sequence[Delivery],
    renderers: Callable[[], Mapping[int, PostRenderer]],
) -> tuple[dict[int, list[DeliverySignoff]], set[int]]:
    """Have the rows in memory say where sign-off stands, of posts and of all their deliveries: each post's signings (none
    where the brand doesn't sign off), and the ids of the deliveries that stand otherwise than before. `renderers` is asked
    only where somebody signs."""
    found = signoffs_of(brand, posts, deliveries, renderers()) if brand.needs_signoff else {}
    signs = {one.delivery.pk: one.status.state for signings in found.values() for one in signings}
    changed = set()
    for delivery in deliveries:
        sign = signs.get(delivery.pk, SignoffState.NONE)
        if delivery.signoff_state != sign:
            delivery.signoff_state = sign
            changed.add(delivery.pk)
    of_post: dict[int, list[SignoffState]] = {}
    for delivery in deliveries:
        # What is out, or off for good, isn't anybody's to sign any more.
        if delivery.state not in FINAL_STATES:
            of_post.setdefault(delivery.post_id, []).append(SignoffState(delivery.signoff_state))
    for post_id, post in posts.items():
        post.state = post_state(post.requested_at is not None, of_post.get(post_id, []))
    return found, changed


def signoff_state(delivery: Delivery, renderer: PostRenderer) -> SignoffState:
    """Of one delivery, by the rules and answers as they are now, of the wording in hand. Its post, profile and brand are
    read with it."""
    brand, post = delivery.brand, delivery.post
    if not brand.needs_signoff:
        return SignoffState.NONE
    answers = list(SignOff.objects.filter(delivery=delivery))
    return _signoff_of(brand, post, delivery, renderer, signoff_rules(brand), answers).status.state


def signed_content(renderer: PostRenderer, delivery: Delivery) -> Content:
    """What is agreed to: the version as it is written, with the post's title in it. What the day and the brand fill in
    (dates, names, link tags) isn't part of it."""
    raw = renderer.version(delivery.profile.network, delivery.profile_id)
    known = {"title": renderer.content.title}
    return replace(
        raw,
        text=fill_placeholders(raw.text, known),
        first_comment=fill_placeholders(raw.first_comment, known),
        link=fill_placeholders(raw.link, known),
        fields={key: fill_placeholders(value, known) for key, value in raw.fields.items()},
    )


def _signoff_of(
    brand: Brand, post: Post, delivery: Delivery, renderer: PostRenderer, rules: list[Rule], answers: list[SignOff]
) -> DeliverySignoff:
    content = signed_content(renderer, delivery)
    says = fingerprint(content)
    matter = SignoffSubject(delivery.profile_id, post_kind(content), post.author_id, set(renderer.content.labels))
    asked = rules_for(rules, brand.needs_signoff, matter)
    present = Revision(says, delivery.due_at, delivery.profile_id, post.requested_at)
    given = [load_answer(a) for a in answers]
    where = signoff_status(asked, given, present, brand.signoff_on_move, brand.earlier_signoff_counts)
    counting = set(agreements(given, present, brand.signoff_on_move, brand.earlier_signoff_counts))
    counts = [answer in counting for answer in given]
    return DeliverySignoff(delivery, renderer, content, says, asked, answers, where, counts)


def load_answer(row: SignOff) -> Answer:
    return Answer(row.signer, Verdict(row.verdict), row.fingerprint, row.due_at, row.answered_at, row.profile_id)
