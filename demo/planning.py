"""What the demo's calendar has beside its posts: labels, campaigns, dates worth a post, and what past posts earned."""

import uuid
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo.base import clock
from menudo.calendar.models import Almanac, CustomDate
from menudo.insight.models import Reading
from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.people.models import Brand, User
from menudo.posts.models import Campaign, Delivery, Post
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.timing.walltimes import resolve_wall_time

# By brand: labels with their ink, and the words in a post that ask for them.
LABELS = {
    "garden": {
        "Talks": ("plum", ("talk", "lecture", "evening")),
        "Nursery": ("moss", ("nursery", "seed", "plants", "sale")),
        "Glasshouses": ("teal", ("glasshouse", "orchid", "palm", "fern")),
        "Behind the scenes": ("ochre", ("moss", "lichen", "bark", "pond", "keeper")),
    },
    "bakery": {
        "Daily bread": ("ochre", ("loaf", "bread", "dough", "rye")),
        "Offers": ("pimenton", ("offer", "off", "free")),
        "Seasonal": ("epazote", ("winter", "pumpkin", "chestnut", "advent")),
    },
}
# Name, days from today on which it starts and ends, ink, hashtags, words that gather posts.
CAMPAIGNS: dict[str, list[tuple[str, int, int, str, list[str], tuple[str, ...]]]] = {
    "garden": [
        ("Moss week", -1, 6, "moss", ["mossweek"], ("moss", "lichen")),
        ("Winter lights", 9, 30, "plum", ["winterlights"], ("night", "evening", "lantern")),
    ],
    "bakery": [("Advent", 3, 28, "pimenton", ["hogazaadvent"], ("advent", "chestnut", "winter"))],
}
OWN_DATES = {
    "garden": [("The garden's founding day", "12-03"), ("Great glasshouse reopens", "{day+11}")],
    "bakery": [("Mill Lane's birthday", "{day+5}")],
}
COUNTRIES = {"garden": ["ES"], "bakery": ["ES"], "observatory": ["ES"]}
_PAST = (
    "The bench under the oldest lime",
    "Frost on the seed heads",
    "Who left prints by the pond?",
    "The palm house at opening time",
    "A leaf the size of an umbrella",
    "Labels, written by hand since 1911",
    "Rain on the fern glass",
    "The compost is steaming",
)


def add_calendar(brand: Brand) -> None:
    """Everything of it for one brand; its posts are there."""
    today = clock.now().astimezone(ZoneInfo(brand.zone)).date()
    posts = list(Post.objects.filter(brand=brand))
    for name, (ink, words) in LABELS.get(brand.slug, {}).items():
        # The library may have it already.
        label, _ = Label.objects.update_or_create(brand=brand, name__iexact=name, defaults={"name": name, "ink": ink})
        label.posts.set([p for p in posts if _contains(p, words)])
    tags = LinkTags.objects.filter(brand=brand).first()
    for name, starts, ends, ink, hashtags, words in CAMPAIGNS.get(brand.slug, []):
        campaign = Campaign.objects.create(
            brand=brand,
            name=name,
            starts_on=today + timedelta(days=starts),
            ends_on=today + timedelta(days=ends),
            ink=ink,
            tags=hashtags,
            link_tags=tags,
        )
        Post.objects.filter(pk__in=[p.pk for p in posts if _contains(p, words)]).update(campaign=campaign)
    Almanac.objects.create(brand=brand, countries=COUNTRIES[brand.slug])
    for name, rule in OWN_DATES.get(brand.slug, []):
        if rule.startswith("{day+"):
            rule = str(today + timedelta(days=int(rule[5:-1])))
        CustomDate.objects.create(brand=brand, name=name, rule=rule)
    if brand.slug == "garden":
        _add_past_posts(brand)


def _contains(post: Post, words: tuple[str, ...]) -> bool:
    text = f"{post.title} {post.master.get('text', '')}".lower()
    return any(word in text for word in words)


def _add_past_posts(brand: Brand) -> None:
    """Ten weeks of the photo profile's posts with what they earned: evenings did better, Thursdays best."""
    profile = Profile.objects.get(brand=brand, network="vitrine", state=Profile.State.CONNECTED)
    author = User.objects.get(email="teo@example.org")
    zone = ZoneInfo(brand.zone)
    today = clock.now().astimezone(zone).date()
    shown = list(Asset.objects.filter(brand=brand, kind="picture", width__gte=800).order_by("pk")[:6])
    for n in range(50):
        day = today - timedelta(days=70 - n)
        if n % 7 in (2, 5):
            continue
        at = time(19 if n % 3 else 12)
        wall_time = datetime.combine(day, at)
        due = resolve_wall_time(wall_time, zone).instant
        words, asset = _PAST[n % len(_PAST)], shown[n % len(shown)]
        master = {"text": words, "media": [asset.pk]}
        post = Post.objects.create(brand=brand, author=author, master=master, state=PostState.SIGNED, updated_at=due)
        delivery = Delivery.objects.create(
            post=post,
            profile=profile,
            brand=brand,
            key=uuid.uuid4(),
            state=DeliveryState.PUBLISHED,
            due_at=due,
            wall_time=wall_time.replace(tzinfo=UTC),
            zone=zone.key,
            published_at=due,
            headline=words,
            sent_content=master,
            thumb_id=asset.pk,
            picture_count=1,
        )
        earned = 40 + (n * 7) % 11 + (45 if at.hour == 19 else 0) + (30 if day.weekday() == 3 else 0)
        Reading.objects.create(
            delivery=delivery,
            brand=brand,
            profile=profile,
            published_at=due,
            read_at=clock.now(),
            reach=earned * 18,
            reactions=earned,
            clicks=earned // 6,
        )
