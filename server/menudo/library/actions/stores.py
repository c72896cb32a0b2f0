"""Shared stores: name one, look into it, bring media in from it."""

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.rows import the_one
from menudo.base.sealed import seal, unseal
from menudo.history.actions.record import record
from menudo.library import files
from menudo.library.actions.add import add
from menudo.library.actions.arrange import folder as folder_of
from menudo.library.actions.unzip import Unpacked
from menudo.library.models import Store
from menudo.library.webdav import Entry, StoreTrouble, WebDav
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.links import is_web_address


def keep_store(place: Here, name: str, address: str, user: str, password: str) -> Store:
    """Name a store, after it was reached. Raises Invalid, at the field that is wrong."""
    place.needs(May.MANAGE_PROFILES)
    name, address = " ".join(name.split()), address.strip()
    faults = [] if name else [Fault("/name", "Give the store a name.", "missing")]
    if not is_web_address(address):
        faults.append(Fault("/address", "That is not a whole web address. Write it with https:// in front.", "address"))
    if faults:
        raise Invalid(faults=faults)
    try:
        WebDav(address, user, password).list("")
    except StoreTrouble as error:
        raise Invalid.at("/password" if "password" in str(error) else "/address", str(error), "store") from error
    row = Store(brand=place.brand, name=name, address=address, user=user, password=seal(password))
    try:
        with transaction.atomic():
            row.save()
            record(place.brand.pk, place.actor, "made", "store", row.pk, f"named the store “{name}”")
            tell(place.brand.pk, "store", row.pk)
    except IntegrityError as error:
        raise Invalid.at("/name", f"There is a store named “{name}” already.", "taken") from error
    return row


def forget_store(place: Here, id: int) -> None:
    """The store is forgotten; what was brought in stays. Raises NotFound."""
    place.needs(May.MANAGE_PROFILES)
    with transaction.atomic():
        row = store(place, id)
        record(place.brand.pk, place.actor, "forget", "store", id, f"forgot the store “{row.name}”")
        row.delete()
        tell(place.brand.pk, "store", id)


def store(place: Here, id: int) -> Store:
    return the_one(Store.objects.filter(brand=place.brand, pk=id))


def look(place: Here, id: int, path: str) -> list[Entry]:
    """What lies in the store at `path`. Raises NotFound, Invalid."""
    place.needs(May.WRITE)
    try:
        return _client(store(place, id)).list(path)
    except StoreTrouble as error:
        raise Invalid.at("/path", str(error), "store") from error


def bring_in(place: Here, id: int, paths: list[str], into: int | None) -> Unpacked:
    """Add the files at these paths; what can't be taken is left with its reason. Raises NotFound, Invalid."""
    place.needs(May.WRITE)
    client, target, out = _client(store(place, id)), folder_of(place, into), Unpacked()
    for path in dict.fromkeys(paths):
        try:
            with files.workspace() as workspace:
                file = client.get(path, workspace / "arrived")
                out.added.append(add(place, file, path.rsplit("/", 1)[-1], folder=target))
        except StoreTrouble as error:
            out.left.append((path, str(error)))
        except Invalid as error:
            out.left.append((path, error.words))
    if not out.added:
        raise Invalid(faults=[Fault(f"/paths/{i}", words, "left") for i, (_, words) in enumerate(out.left)])
    return out


def _client(row: Store) -> WebDav:
    return WebDav(row.address, row.user, unseal(row.password) if row.password else "")
