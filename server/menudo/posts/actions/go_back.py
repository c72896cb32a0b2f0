"""Go back to an earlier state of a post, as its history has it."""

from menudo.base.problems import Conflict, NotFound
from menudo.history.models import Entry
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.posts.actions.save import save
from menudo.posts.kept import assets_in
from menudo.posts.models import Post
from menudo.posts.schemas import PostIn
from menudo.profiles.models import Profile


def go_back(place: Here, post: Post, entry_id: int, began: int) -> Post:
    """The post as it was after the entry: its wording and versions; profiles, times, labels and campaign stay. A change
    like any other.

    Raises NotFound, Conflict, Stale, and what keeping a post raises.
    """
    entry = Entry.objects.filter(brand_id=place.brand.pk, kind="post", object_id=post.pk, pk=entry_id).first()
    if entry is None:
        raise NotFound()
    if not has_state(entry):
        raise Conflict("That entry doesn't say how the post was.")
    said = entry.after
    known = set(Profile.objects.filter(brand=place.brand).values_list("pk", flat=True))
    versions = [v for v in said["versions"] if v["profile"] is None or v["profile"] in known]
    _there(place, [said["master"], *(v["own"] for v in versions)])
    data = PostIn.model_validate(
        {
            "title": said["title"],
            "master": said["master"],
            "versions": versions,
            "profiles": list(post.deliveries.values_list("profile_id", flat=True)),
            "labels": list(post.labels.values_list("pk", flat=True)),
            "campaign": post.campaign_id,
        }
    )
    return save(place, post, data, began)


def has_state(entry: Entry) -> bool:
    """Whether one can go back to how the post was after the entry."""
    return entry.verb in ("make", "write") and isinstance(entry.after.get("versions"), list)


def _there(place: Here, wordings: list[dict]) -> None:
    wanted = set[int]().union(*(assets_in(raw) for raw in wordings))
    gone = len(wanted) - Asset.objects.filter(brand=place.brand, pk__in=wanted).count()
    if gone:
        raise Conflict(f"{gone} of the pictures it had then {'is' if gone == 1 else 'are'} deleted for good.")
