"""Where the sign-off of posts stands: the facts in seven statements, and the core's word."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import timedelta

from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post, SignOff, SignRule
from menudo.posts.saying import Sayings
from menudo_core.networks.content import Content
from menudo_core.signoff.agreement import Answer, Present, Sign, Standing, Verdict, agreements, standing
from menudo_core.signoff.rules import How, Matter, Rule, asking
from menudo_core.signoff.says import fingerprint, kind_of
from menudo_core.text.placeholders import fill


@dataclass(frozen=True, slots=True)
class Signing:
    """One delivery's sign-off: its post's wordings, what it says now, which rules ask, the answers there are,
    where it stands, and which of the answers agree to what it says now."""

    delivery: Delivery
    sayings: Sayings
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
    """Of every delivery of the posts, by post: seven statements, however many there are."""
    wanted = {post.pk: post for post in posts}
    rules = rules_of(brand)
    sayings = Sayings.of_all(brand, wanted.values())
    labels: dict[int, set[int]] = {}
    for id, label in Post.labels.through.objects.filter(post__in=wanted).values_list("post_id", "label_id"):
        labels.setdefault(id, set()).add(label)
    answers: dict[int, list[SignOff]] = {}
    if brand.needs_signoff:
        for answer in SignOff.objects.filter(delivery__post__in=wanted):
            answers.setdefault(answer.delivery_id, []).append(answer)
    found: dict[int, list[Signing]] = {pk: [] for pk in wanted}
    for delivery in Delivery.objects.filter(post__in=wanted).prefetch_related("profile").order_by("pk"):
        post = wanted[delivery.post_id]
        matter_labels = labels.get(post.pk, set())
        found[post.pk].append(
            _one(brand, post, delivery, sayings[post.pk], rules, matter_labels, answers.get(delivery.pk, []))
        )
    return found


def sign_of(delivery: Delivery, sayings: Sayings) -> Sign:
    """Of one delivery, by the rules and answers as they are now, of the wording in hand. Its post, profile and brand are
    read with it."""
    brand, post = delivery.brand, delivery.post
    if not brand.needs_signoff:
        return Sign.NONE
    labels = set(post.labels.values_list("pk", flat=True))
    answers = list(SignOff.objects.filter(delivery=delivery))
    return _one(brand, post, delivery, sayings, rules_of(brand), labels, answers).standing.sign


def wording(sayings: Sayings, delivery: Delivery, title: str) -> Content:
    """What is agreed to: the version as it is written, with the post's title in it. What the day and the brand fill in
    (dates, names, link tags) isn't part of it."""
    raw = sayings.raw(delivery.profile.network, delivery.profile_id)
    known = {"title": title}
    return replace(
        raw, text=fill(raw.text, known), first_comment=fill(raw.first_comment, known), link=fill(raw.link, known),
        fields={key: fill(value, known) for key, value in raw.fields.items()},
    )  # fmt: skip


def _one(
    brand: Brand, post: Post, delivery: Delivery, sayings: Sayings, rules: list[Rule], labels: set[int],
    answers: list[SignOff],
) -> Signing:  # fmt: skip
    content = wording(sayings, delivery, post.title)
    says = fingerprint(content)
    matter = Matter(delivery.profile_id, kind_of(content), post.author_id, labels)
    asked = asking(rules, brand.needs_signoff, matter)
    present = Present(says, delivery.due_at, delivery.profile_id, post.up_at)
    given = [answer_of(a) for a in answers]
    where = standing(asked, given, present, brand.moving_asks, brand.earlier_stands)
    counting = set(agreements(given, present, brand.moving_asks, brand.earlier_stands))
    counts = [answer in counting for answer in given]
    return Signing(delivery, sayings, content, says, asked, answers, where, counts)


def answer_of(row: SignOff) -> Answer:
    return Answer(row.signer, Verdict(row.verdict), row.says, row.due_at, row.at, row.profile_id)
