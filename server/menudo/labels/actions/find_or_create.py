"""The labels that names stand for."""

from collections.abc import Sequence

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.labels.actions.save_label import MAX_LABELS
from menudo.labels.models import Label
from menudo.people.context import BrandContext
from menudo_core.text.storable import unstorable_reason


def find_or_create_labels(context: BrandContext, names: Sequence[str], pointer: str) -> list[Label]:
    """The brand's labels of these names, whatever their case, each once and in their order; what there isn't yet is made. Empty
    names are left out. Part of the caller's transaction. Raises InvalidError at `pointer`/n."""
    wanted: dict[str, str] = {}
    for n, written in enumerate(names):
        name = " ".join(written.split())
        if words := unstorable_reason(name):
            raise InvalidError(faults=[Fault(f"{pointer}/{n}", words, "unusable")])
        if name:
            wanted.setdefault(name.casefold(), name)
    known = {label.name.casefold(): label for label in Label.objects.filter(brand=context.brand)}
    for key, name in wanted.items():
        if key not in known:
            if len(known) >= MAX_LABELS:
                raise InvalidError.at(
                    pointer, f"There are {MAX_LABELS} labels already. Delete one that isn't used.", "many"
                )
            known[key] = Label.objects.create(brand=context.brand, name=name)
            publish_change(context.brand.pk, "label", known[key].pk)
    return [known[key] for key in wanted]
