"""Seal every secret again, with the first of the keys."""

from collections.abc import Callable, Iterator
from functools import partial

from allauth.mfa.models import Authenticator
from cryptography.fernet import InvalidToken
from django.apps import apps
from django.db import models, transaction

from menudo.base.sealing import SealedField, reseal
from menudo.people.second_factor import reseal_secrets

_BATCH_SIZE = 200


def rotate_keys(tell: Callable[[str], None]) -> int:
    """Seal again all that is sealed, some rows at a time, beside whatever runs; `tell` is told how far it is. How many can't be opened
    by any key: they stay as they are."""
    lost = 0
    for model in apps.get_models():
        names = [field.attname for field in model._meta.concrete_fields if isinstance(field, SealedField)]
        if names:
            lost += _rotate_table(model, partial(_reseal_fields, names), names, tell)
    lost += _rotate_table(Authenticator, _reseal_authenticator, ["data"], tell)
    return lost


def _rotate_table(
    model: type[models.Model], act: Callable[[models.Model], bool], names: list[str], tell: Callable[[str], None]
) -> int:
    total, done, lost = model._default_manager.count(), 0, 0
    for ids in _batches(model):
        with transaction.atomic():
            rows = list(model._default_manager.select_for_update(no_key=True).filter(pk__in=ids).order_by("pk"))
            lost += sum(not act(row) for row in rows)
            model._default_manager.bulk_update(rows, names)
        done += len(ids)
        tell(f"{model._meta.label}: {done} of {max(total, done)}")
    return lost


def _batches(model: type[models.Model]) -> Iterator[list[int]]:
    last = 0
    while ids := list(
        model._default_manager.filter(pk__gt=last).order_by("pk").values_list("pk", flat=True)[:_BATCH_SIZE]
    ):
        yield ids
        last = ids[-1]


def _reseal_fields(names: list[str], row: models.Model) -> bool:
    try:
        for name in names:
            if sealed := getattr(row, name):
                setattr(row, name, reseal(sealed))
    except InvalidToken:
        return False
    return True


def _reseal_authenticator(row: models.Model) -> bool:
    row.data = reseal_secrets(row.data)  # type: ignore[attr-defined]
    return True
