"""Shared stores: name one, look into it, bring media in from it."""

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sealing import seal, unseal
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.library import files
from menudo.library.actions.add_asset import add_asset
from menudo.library.actions.arrange_assets import folder_of
from menudo.library.actions.import_zip import ImportedMedia
from menudo.library.models import Store
from menudo.library.webdav import StoreEntry, StoreError, WebDav
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.text.links import is_web_address


def save_store(context: BrandContext, name: str, address: str, user: str, password: str) -> Store:
    """Name a store, after it was reached. Raises InvalidError, at the field that is wrong."""
    context.require(Capability.MANAGE_PROFILES)
    name, address = " ".join(name.split()), address.strip()
    faults = [] if name else [Fault("/name", say("store.nameless"))]
    if not is_web_address(address):
        faults.append(Fault("/address", say("address.not_whole")))
    if faults:
        raise InvalidError(faults=faults)
    try:
        WebDav(address, user, password).list("")
    except StoreError as error:
        raise InvalidError.at("/password" if "password" in str(error) else "/address", str(error), "store") from error
    row = Store(brand=context.brand, name=name, address=address, user=user, password=seal(password))
    try:
        with transaction.atomic():
            row.save()
            record_event(context.brand.pk, context.actor, "made", "store", row.pk, say("store.named", name=name))
            publish_change(context.brand.pk, "store", row.pk)
    except IntegrityError as error:
        raise InvalidError.at("/name", say("store.name_taken", name=name)) from error
    return row


def delete_store(context: BrandContext, store_id: int) -> None:
    """The store is forgotten; what was brought in stays. Raises NotFoundError."""
    context.require(Capability.MANAGE_PROFILES)
    with transaction.atomic():
        row = store_of(context, store_id)
        record_event(
            context.brand.pk, context.actor, "forget", "store", store_id, say("store.forgotten", name=row.name)
        )
        row.delete()
        publish_change(context.brand.pk, "store", store_id)


def store_of(context: BrandContext, store_id: int) -> Store:
    return first_or_404(Store.objects.filter(brand=context.brand, pk=store_id))


def list_store(context: BrandContext, store_id: int, path: str) -> list[StoreEntry]:
    """What lies in the store at `path`. Raises NotFoundError, InvalidError."""
    context.require(Capability.WRITE)
    try:
        return _client_for(store_of(context, store_id)).list(path)
    except StoreError as error:
        raise InvalidError.at("/path", str(error), "store") from error


def import_media(context: BrandContext, store_id: int, paths: list[str], into: int | None) -> ImportedMedia:
    """Add the files at these paths; what can't be taken is left with its reason. Raises NotFoundError, InvalidError."""
    context.require(Capability.WRITE)
    client, target, out = _client_for(store_of(context, store_id)), folder_of(context, into), ImportedMedia()
    for path in dict.fromkeys(paths):
        try:
            with files.workspace() as workspace:
                file = client.get(path, workspace / "arrived")
                out.added.append(add_asset(context, file, path.rsplit("/", 1)[-1], folder=target))
        except StoreError as error:
            out.left.append((path, str(error)))
        except InvalidError as error:
            out.left.append((path, error.words))
    if not out.added:
        raise InvalidError(faults=[Fault(f"/paths/{i}", words, "left") for i, (_, words) in enumerate(out.left)])
    return out


def _client_for(row: Store) -> WebDav:
    return WebDav(row.address, row.user, unseal(row.password) if row.password else "")
