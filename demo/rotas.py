"""The demo's rota: made and filled, and not switched on yet, so that one can see what it would do."""

from datetime import time

from menudo.base import clock
from menudo.labels.models import Label
from menudo.people.models import Brand, User
from menudo.posts.change.decision import NewPost, PostStatus
from menudo.posts.change.kernel import System, change_posts
from menudo.profiles.models import Profile, Slot
from menudo.rotas.forecast import forecast, with_turns
from menudo.rotas.models import Placement, Rota, Turn, Wording
from menudo_core.networks.content import Content, PostContent

NAME, AT = "Round the garden", time(16, 30)
# Each turn's wordings.
TURNS = [
    [
        "The oldest lime was planted before there was a gate. Sit under it.",
        "Under the oldest lime there is always a free bench.",
    ],
    ["Labels here are written by hand, every one, since 1911."],
    ["The fern glass is warmest at four in the afternoon."],
    ["Nursery mornings: Tuesday and Friday, nine to one. Bring a box."],
    ["Moss needs no roots. Come and look at forty kinds.", "Forty kinds of moss, and none of them in a hurry."],
    ["The pond is fed by rain alone, and never ran dry yet."],
    ["Ask the keeper for the key to the seed room."],
]
NETWORKS = ("brisk", "plaza")


def add_rota(slug: str, email: str) -> None:
    """On the first profile of each of two networks, with slots every day; one slot is fixed by hand."""
    brand, by = Brand.objects.get(slug=slug), User.objects.get(email=email)
    profiles = [
        p
        for n in NETWORKS
        if (p := Profile.objects.filter(brand=brand, network=n, state="connected").order_by("pk").first())
    ]
    label = Label.objects.create(brand=brand, name=NAME, ink="moss")
    rota = Rota.objects.create(brand=brand, name=NAME, label=label, run_as=by, rest_days=6, gap_days=1)
    rota.profiles.set(profiles)
    for profile in profiles:
        Slot.objects.bulk_create([Slot(profile=profile, weekday=day, at=AT, label=label) for day in range(7)])
    for number, wordings in enumerate(TURNS):
        turn = Turn.objects.create(rota=rota, position=number)
        for context, text in enumerate(wordings):
            new = NewPost(PostContent(master=Content(text)), [p.pk for p in profiles], by, PostStatus(evergreen=True))
            with change_posts(System(brand)) as change:
                [post] = change.create([new])
            Wording.objects.create(turn=turn, post=post, position=context)
    _fix_second_slot(rota, profiles)


def _fix_second_slot(rota: Rota, profiles: list[Profile]) -> None:
    """The second slot from now on gets the nursery's mornings."""

    (loaded,) = with_turns(Rota.objects.filter(pk=rota.pk))
    for one in forecast([loaded], clock.now(), weeks=1)[: len(profiles)]:
        turn = rota.turns.all()[3]
        Placement.objects.create(rota=rota, profile=one.profile, slot_at=one.upcoming[1].slot.at, turn=turn, fixed=True)
