"""A plan's file, read and matched with the brand: profiles, media, labels, times, and what the rules say."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256
from zoneinfo import ZoneInfo

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.people.context import BrandContext
from menudo.plans.matched_row import MatchedRow, network_content
from menudo.plans.models import Import, ImportedRow
from menudo.posts import csv_cells
from menudo.posts.checking import findings_for, media_facts
from menudo.posts.models import Campaign
from menudo.profiles.models import Profile, ProfileSet
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.findings import Level
from menudo_core.networks.sheet import RuleSheet
from menudo_core.plans.dates import InvalidCellError
from menudo_core.plans.rows import CellFault, Row, parse_rows
from menudo_core.plans.table import InvalidTableError, Table, parse_table
from menudo_core.text.storable import unstorable_reason
from menudo_core.timing.due import InvalidTimeError, due_at

MAX_BYTES = 5_000_000
WEB_SCHEMES = ("http://", "https://")
_MAX_FIELD_LENGTH = 5000
_MOMENT = ("date", "day", "time", "hour")
# One of several files of a name, by its number, as plans go out.
_NUMBERED = re.compile(r"(.*)#(\d{1,18})", re.DOTALL)


@dataclass(frozen=True, slots=True)
class ParsedPlan:
    """A whole file. `known`: when the same file was brought in before."""

    table: Table
    rows: list[MatchedRow]
    digest: str
    known: datetime | None


def parse_plan(context: BrandContext, raw: bytes, now: datetime) -> ParsedPlan:
    """Every row with all that is wrong in it; nothing is changed. Raises InvalidError when it isn't a table at all."""
    if len(raw) > MAX_BYTES:
        raise InvalidError.at("/file", say("plan.large"))
    sheets = sheets_of(context.brand.pk)
    try:
        table = parse_table(raw)
        rows = parse_rows(table, set(sheets), {rule.name for sheet in sheets.values() for rule in sheet.fields})
    except InvalidTableError as bad:
        raise InvalidError.at("/file", str(bad), "unreadable") from bad
    digest = sha256(raw).hexdigest()
    before = Import.objects.filter(brand=context.brand, digest=digest).order_by("-created_at").first()
    matched = _Matcher(context, now, sheets).match_all(rows)
    return ParsedPlan(table, matched, digest, before.created_at if before else None)


class _Matcher:
    """What there is in the brand to match words with: read once for the whole file."""

    def __init__(self, context: BrandContext, now: datetime, sheets: Mapping[str, RuleSheet]) -> None:
        self._context, self._now, self._sheets = context, now, sheets
        profiles = list(Profile.objects.filter(brand=context.brand).exclude(state=Profile.State.DISCONNECTED))
        self._profiles: dict[str, list[Profile]] = {}
        for p in profiles:
            for name in {
                p.handle,
                p.handle.lstrip("@"),
                p.display_name,
                p.name,
                f"{p.network}:{p.handle}",
                f"{p.network}:{p.handle.lstrip('@')}",
                f"{p.network}:{p.handle}#{p.pk}",
            }:
                if name:
                    self._profiles.setdefault(name.casefold(), []).append(p)
        sets = ProfileSet.objects.filter(brand=context.brand).prefetch_related("profiles")
        self._sets = {s.name.casefold(): [p for p in s.profiles.all() if p in profiles] for s in sets}
        self._labels = {label.name.casefold(): label for label in Label.objects.filter(brand=context.brand)}
        self._presets = {t.name.casefold(): t.pk for t in LinkTags.objects.filter(brand=context.brand)}
        self._campaigns = {c.name.casefold(): c for c in Campaign.objects.filter(brand=context.brand)}
        self._assets: dict[str, list[Asset]] = {}
        for asset in Asset.objects.filter(brand=context.brand, deleted_at__isnull=True).order_by("pk"):
            self._assets.setdefault(asset.name.casefold(), []).append(asset)

    def match_all(self, rows: list[Row]) -> list[MatchedRow]:
        found = [self._match_row(row) for row in rows]
        marks = {row.mark for row in rows}
        taken = set(
            ImportedRow.objects.filter(
                brand=self._context.brand, row_hash__in=marks, post__deleted_at__isnull=True
            ).values_list("row_hash", flat=True)
        )
        contents = [network_content(m, network) for m in found for network in _networks_of(m)]
        known = media_facts(self._context.brand, contents)
        seen: set[str] = set()
        for m in found:
            m.known = m.row.mark in taken or m.row.mark in seen
            seen.add(m.row.mark)
            for network in _networks_of(m):
                followers = min(
                    (p.followers for p in m.profiles if p.network == network and p.followers is not None), default=None
                )
                together = sum(p.network == network for p in m.profiles)
                for f in findings_for(
                    self._context.brand.pk, network, network_content(m, network), known, followers, together
                ):
                    waits = m.addresses and f.field.startswith("media")
                    column = _column_of(f.field)
                    if not waits:
                        (m.faults if f.level is Level.STOPS else m.advice).append(CellFault(column, f.message))
        return found

    def _match_row(self, row: Row) -> MatchedRow:
        zone = (
            ZoneInfo(row.zone) if row.zone and not any(f.column == "zone" for f in row.faults) else self._context.zone
        )
        m = MatchedRow(row, zone, faults=list(row.faults))
        for name in row.profiles:
            self._match_profile(m, name)
        for name in row.media:
            self._match_media(m, name)
        for name in row.labels:
            label = self._labels.get(name.casefold())
            if label is not None:
                m.labels.append(label)
            elif words := unstorable_reason(name):
                m.faults.append(CellFault("labels", words))
            elif len(name) > 40:
                m.faults.append(CellFault("labels", f"“{name[:40]}…” is too long for a label: 40 characters at most."))
            else:
                m.new_labels.append(name)
        if row.campaign:
            m.campaign = self._campaigns.get(row.campaign.casefold())
            if m.campaign is None:
                m.faults.append(
                    CellFault(
                        "campaign",
                        f"There is no campaign “{row.campaign[:40]}”. Make it first, or leave the cell empty.",
                    )
                )
        for column, text in (
            ("text", row.text),
            ("title", row.title),
            ("first comment", row.first_comment),
            ("link", row.link),
            *((f"text {n}", t) for n, t in row.texts.items()),
            *((f"field {n}", t) for n, t in row.fields.items()),
        ):
            if words := unstorable_reason(text):
                m.faults.append(CellFault(column, words))
        if len(row.link) > 2000:
            m.faults.append(CellFault("link", "An address is 2,000 characters at most."))
        if len(row.title) > 200:
            m.faults.append(CellFault("title", "A title is 200 characters at most."))
        self._match_fields(m)
        self._match_extras(m)
        if not (row.text or row.texts or row.media or row.link):
            m.faults.append(CellFault("text", "There is nothing to say: no text, no media and no link."))
        self._match_time(m)
        return m

    def _match_time(self, m: MatchedRow) -> None:
        if m.row.day is None or any(f.column.strip().casefold() in _MOMENT for f in m.row.faults):
            return
        if m.row.at is None:
            if m.row.day < self._now.astimezone(m.zone).date():
                m.faults.append(CellFault("date", f"{m.row.day} has passed: no slot of it is left."))
            return
        try:
            m.at = due_at(datetime.combine(m.row.day, m.row.at), m.zone, self._now).instant
        except InvalidTimeError as bad:
            m.faults.append(CellFault("date" if bad.code == "past" else "time", bad.words))

    def _match_fields(self, m: MatchedRow) -> None:
        """Networks' own fields that none of the row's networks has."""
        sheets = [self._sheets[p.network] for p in m.profiles if p.network in self._sheets]
        known = {rule.name for sheet in sheets for rule in sheet.fields}
        for name in m.row.fields:
            if m.profiles and name not in known:
                words = f"No network that the row goes to has a field “{name}”. Empty the cell."
                m.faults.append(CellFault(f"field {name}", words))
            elif len(m.row.fields[name]) > _MAX_FIELD_LENGTH:
                m.faults.append(CellFault(f"field {name}", f"A field holds {_MAX_FIELD_LENGTH:,} characters at most."))

    def _match_profile(self, m: MatchedRow, name: str) -> None:
        found = self._profiles.get(name.casefold(), [])
        if len(found) == 1:
            m.profiles += [p for p in found if p not in m.profiles]
        elif name.casefold() in self._sets and not found:
            members = self._sets[name.casefold()]
            m.profiles += [p for p in members if p not in m.profiles]
            if not members:
                m.faults.append(CellFault("profiles", f"The set “{name[:40]}” has no profiles."))
        elif found:
            both = ", ".join(f"{p.network}:{p.handle}" for p in found[:6])
            m.faults.append(CellFault("profiles", f"“{name[:40]}” is several profiles: write one of {both}."))
        else:
            m.faults.append(
                CellFault("profiles", f"There is no profile or set “{name[:40]}” in {self._context.brand.name}.")
            )

    def _find_files(self, name: str) -> list[Asset]:
        """The library's files of a name, or the one of them that a number behind it means."""
        found = self._assets.get(name.casefold(), [])
        if len(found) != 1 and (numbered := _NUMBERED.fullmatch(name)):
            found = [a for a in self._assets.get(numbered[1].casefold(), []) if a.pk == int(numbered[2])] or found
        return found

    def _match_extras(self, m: MatchedRow) -> None:
        """How media are shown, the link's card, and link tags."""

        def find(name: str) -> Asset | None:
            found = self._find_files(name)
            return found[0] if len(found) == 1 else None

        try:
            if m.row.showing:
                m.showing = csv_cells.parse_presentation(m.row.showing, len(m.row.media), find)
        except InvalidCellError as bad:
            m.faults.append(CellFault(csv_cells.SHOWING, str(bad)))
        try:
            m.card = csv_cells.parse_card(m.row.card, find) if m.row.card else None
        except InvalidCellError as bad:
            m.faults.append(CellFault(csv_cells.CARD, str(bad)))
        if preset_name := m.row.link_tags.casefold():
            m.link_tags = 0 if preset_name == csv_cells.NONE else self._presets.get(preset_name)
            if m.link_tags is None:
                words = f"There are no link tags “{m.row.link_tags[:40]}”. Make them first, or write none."
                m.faults.append(CellFault(csv_cells.LINK_TAGS, words))

    def _match_media(self, m: MatchedRow, name: str) -> None:
        found = self._find_files(name)
        if not found and name.lower().startswith(WEB_SCHEMES):
            m.media.append(name)
        elif len(found) == 1:
            m.media += found
        elif found:
            m.faults.append(
                CellFault(
                    "media",
                    f"There are {len(found)} files named “{name[:60]}” in the library. Rename one, or write an address.",
                )
            )
        else:
            m.faults.append(
                CellFault(
                    "media", f"There is no file “{name[:60]}” in the library. Upload it first, or write an address."
                )
            )


def _column_of(field: str) -> str:
    """The column in which what a finding is about stands."""
    first, _, name = field.partition("/")
    return f"field {name}" if first == "fields" else first.replace("_", " ")


def _networks_of(m: MatchedRow) -> list[str]:
    return sorted({p.network for p in m.profiles})
