"""The library of each brand: its pictures, and what is kept to be said again."""

from demo import library
from demo.pictures import all_pictures, encode_picture
from demo.posts import POSTS
from demo.standin import URL as STANDIN_URL
from demo.videos import all_videos
from demo.world import PEOPLE
from menudo.base.sealing import seal
from menudo.brandsheet.models import BrandSheet
from menudo.labels.actions.find_or_create import find_or_create_labels
from menudo.library.actions.add_asset import add_asset
from menudo.library.models import Asset, Folder, LinkTags, Snippet, Store, TagSet
from menudo.people.capabilities import ROLES
from menudo.people.context import BrandContext
from menudo.people.models import Brand, User

# Each brand's, by its slug and its key.
Pictures = dict[tuple[str, str], Asset]


def add_pictures() -> Pictures:
    found = {}
    coordinator = User.objects.get(email=PEOPLE[0].email)
    for brand in Brand.objects.all():
        context = BrandContext(coordinator, brand, frozenset(ROLES["coordinator"]))
        wanted = {key for p in POSTS if p.brand == brand.slug for key in p.picture} | {
            "sky",
            "small",
            *(("long",) if brand.slug == "garden" else ("dough",)),
        }
        for key, (name, data, alt) in {**all_pictures(), **all_videos()}.items():
            if key in wanted:
                found[brand.slug, key] = add_asset(context, data, name, alt)
    return found


def add_library(brand: Brand, pictures: Pictures) -> None:
    """Folders, labels, a bundle, what is said again and again, a store, and what the brand sheet says."""
    context = BrandContext(User.objects.get(email=PEOPLE[0].email), brand, frozenset(ROLES["coordinator"]))
    for name, keys in library.FOLDERS[brand.slug].items():
        folder = Folder.objects.create(brand=brand, name=name)
        Asset.objects.filter(pk__in=[pictures[brand.slug, k].pk for k in keys if (brand.slug, k) in pictures]).update(
            folder=folder
        )
    for label, keys in library.LABELS[brand.slug].items():
        for key in keys:
            if asset := pictures.get((brand.slug, key)):
                [row] = find_or_create_labels(context, [label], "")
                asset.labels.add(row)
    for key, credit in library.CREDITS.items():
        if asset := pictures.get((brand.slug, key)):
            Asset.objects.filter(pk=asset.pk).update(credit=credit)
    if brand.slug in library.BUNDLES:
        name, rows = library.BUNDLES[brand.slug]
        bundle = Folder.objects.create(brand=brand, name=name, bundle=True)
        for file, draw, seed, caption in rows:
            add_asset(context, encode_picture(draw((800, 800), seed)), file, "A loaf, close up", bundle, caption)
    Snippet.objects.bulk_create([Snippet(brand=brand, name=n, text=t) for n, t in library.SNIPPETS[brand.slug].items()])
    TagSet.objects.bulk_create([TagSet(brand=brand, name=n, tags=t) for n, t in library.TAG_SETS[brand.slug].items()])
    LinkTags.objects.bulk_create([LinkTags(brand=brand, name=n, **v) for n, v in library.LINK_TAGS[brand.slug].items()])
    store = library.STORE
    address = f"{STANDIN_URL}/store"
    Store.objects.create(
        brand=brand, name=store["name"], address=address, user=store["user"], password=seal(store["password"])
    )
    BrandSheet.objects.create(brand=brand, values=library.SHEETS[brand.slug])
