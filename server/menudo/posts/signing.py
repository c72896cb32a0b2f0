"""Where the sign-off of posts stands: the facts in a few statements, and the core's word."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post, SignOff, SignRule
from menudo.posts.rendering import PostRenderer
from menudo_core.networks.content import Content
from menudo_core.signoff.agreement import Answer, Present, Sign, Standing, Verdict, agreements, standing
from menudo_core.signoff.rules import How, Matter, Rule, asking
from menudo_core.signoff.says import fingerprint, kind_of
from menudo_core.signoff.states import DeliveryState, post_state
from menudo_core.text.placeholders import fill

_OVER = {DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF}


@dataclass(frozen=True, slots=True)
class Signing:
    """One delivery's sign-off: its post's wordings, what it says now, which rules ask, the answers there are,
    where it stands, and which of the answers agree to what it says now."""

    delivery: Delivery
    renderer: PostRenderer
    content: Content
    says: str
    rules: tuple[Rule, ...]
    answers: list[SignOff]
    standing: Standing
    counts: list[bool]


def rules_of(brand: Brand) -> list[Rule]:
    """The brand's rules; none while it doesn't sign off."""
    return [rule_of(row) for row in SignRule.objects.filter(brand=brand)] if brand.needs_signoff else []


def rule_of(row: SignRule) -> Rule:
    return Rule(
        who=tuple(row.who), how=How(row.how), profiles=frozenset(row.profiles), labels=frozenset(row.labels),
        kinds=frozenset(row.kinds), authors=frozenset(row.authors),
        before=timedelta(hours=row.before_hours) if row.before_hours is not None else None,
    )  # fmt: skip


def signings(brand: Brand, posts: Iterable[Post]) -> dict[int, list[Signing]]:
    """Of every delivery of the posts, by post: a few statements, however many there are."""
    wanted = {post.pk: post for post in posts}
    rows = Delivery.objects.filter(post__in=wanted).prefetch_related("profile").order_by("pk")
    return signings_of(brand, wanted, rows, PostRenderer.of_all(brand, wanted.values()))


def signings_of(
    brand: Brand, posts: Mapping[int, Post], deliveries: Iterable[Delivery], renderers: Mapping[int, PostRenderer]
) -> dict[int, list[Signing]]:
    """The same of deliveries in hand, in their order; their profiles are read with them."""
    rules = rules_of(brand)
    answers: dict[int, list[SignOff]] = {}
    if brand.needs_signoff:
        for answer in SignOff.objects.filter(delivery__post__in=posts):
            answers.setdefault(answer.delivery_id, []).append(answer)
    found: dict[int, list[Signing]] = {pk: [] for pk in posts}
    for delivery in deliveries:
        post, renderer = posts[delivery.post_id], renderers[delivery.post_id]
        found[post.pk].append(_one(brand, post, delivery, renderer, rules, answers.get(delivery.pk, [])))
    return found


def refresh_signoff(
    brand: Brand, posts: Mapping[int, Post], deliveries: Sequence[Delivery],
    renderers: Callable[[], Mapping[int, PostRenderer]],
) -> tuple[dict[int, list[Signing]], set[int]]:  # fmt: skip
    """Have the rows in memory say where sign-off stands, of posts and of all their deliveries: each post's signings (none
    where the brand doesn't sign off), and the ids of the deliveries that stand otherwise than before. `renderers` is asked
    only where somebody signs."""
    found = signings_of(brand, posts, deliveries, renderers()) if brand.needs_signoff else {}
    signs = {one.delivery.pk: one.standing.sign for signings in found.values() for one in signings}
    changed = set()
    for delivery in deliveries:
        sign = signs.get(delivery.pk, Sign.NONE)
        if delivery.signing != sign:
            delivery.signing = sign
            changed.add(delivery.pk)
    of_post: dict[int, list[Sign]] = {}
    for delivery in deliveries:
        # What is out, or off for good, isn't anybody's to sign any more.
        if delivery.state not in _OVER:
            of_post.setdefault(delivery.post_id, []).append(Sign(delivery.signing))
    for id, post in posts.items():
        post.state = post_state(post.up_at is not None, of_post.get(id, []))
    return found, changed


def signoff_state(delivery: Delivery, renderer: PostRenderer) -> Sign:
    """Of one delivery, by the rules and answers as they are now, of the wording in hand. Its post, profile and brand are
    read with it."""
    brand, post = delivery.brand, delivery.post
    if not brand.needs_signoff:
        return Sign.NONE
    answers = list(SignOff.objects.filter(delivery=delivery))
    return _one(brand, post, delivery, renderer, rules_of(brand), answers).standing.sign


def signed_content(renderer: PostRenderer, delivery: Delivery) -> Content:
    """What is agreed to: the version as it is written, with the post's title in it. What the day and the brand fill in
    (dates, names, link tags) isn't part of it."""
    raw = renderer.version(delivery.profile.network, delivery.profile_id)
    known = {"title": renderer.content.title}
    return replace(
        raw, text=fill(raw.text, known), first_comment=fill(raw.first_comment, known), link=fill(raw.link, known),
        fields={key: fill(value, known) for key, value in raw.fields.items()},
    )  # fmt: skip


def _one(
    brand: Brand, post: Post, delivery: Delivery, renderer: PostRenderer, rules: list[Rule], answers: list[SignOff]
) -> Signing:  # fmt: skip
    content = signed_content(renderer, delivery)
    says = fingerprint(content)
    matter = Matter(delivery.profile_id, kind_of(content), post.author_id, set(renderer.content.labels))
    asked = asking(rules, brand.needs_signoff, matter)
    present = Present(says, delivery.due_at, delivery.profile_id, post.up_at)
    given = [answer_of(a) for a in answers]
    where = standing(asked, given, present, brand.moving_asks, brand.earlier_stands)
    counting = set(agreements(given, present, brand.moving_asks, brand.earlier_stands))
    counts = [answer in counting for answer in given]
    return Signing(delivery, renderer, content, says, asked, answers, where, counts)


def answer_of(row: SignOff) -> Answer:
    return Answer(row.signer, Verdict(row.verdict), row.says, row.due_at, row.at, row.profile_id)
