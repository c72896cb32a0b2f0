"""A rule sheet: what one network takes. Documented in docs/rule-sheets.md."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction

from menudo_core.media.facts import MediaKind
from menudo_core.text.clusters import Unit


@dataclass(frozen=True, slots=True)
class TextRule:
    """Length limit in `unit`; `link_weight` None: a link counts by its length."""

    unit: Unit
    limit: int
    link_weight: int | None = None
    fold_clusters: int | None = None
    fold_lines: int | None = None


@dataclass(frozen=True, slots=True)
class KindRule:
    """What the network takes of one kind of media. None: no such limit. Ratios are width over height."""

    max_count: int
    formats: tuple[str, ...]
    max_bytes: int | None = None
    min_width: int | None = None
    min_height: int | None = None
    max_width: int | None = None
    max_height: int | None = None
    max_pixels: int | None = None
    min_ratio: float | None = None
    max_ratio: float | None = None
    min_seconds: float | None = None
    max_seconds: float | None = None
    alt_limit: int | None = None
    codecs: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class MediaRule:
    """Kinds of media taken, how many in all, and which may stand together in one post.

    `people`: how many may be tagged in a picture, None where nobody can be; `cover`: a video may have a thumbnail
    of its own.
    """

    kinds: Mapping[MediaKind, KindRule] = field(default_factory=dict)
    max_count: int | None = None
    together: tuple[frozenset[MediaKind], ...] = ()
    people: int | None = None
    cover: bool = False


@dataclass(frozen=True, slots=True)
class HashtagRule:
    """More than `max_count` are refused; `recommended` is good practice. None: no such number."""

    max_count: int | None = None
    recommended: int | None = None


@dataclass(frozen=True, slots=True)
class FieldRule:
    """A field of the network's own. `type` is text, choice, address, tags, date, place, countries, ages or flag.

    `when`: the field is asked for only while another field has one of the values given. `after`: a date that must
    be later than that of another field. `link_unless`: what is chosen needs a link, save with one of these values;
    None: it needs none.
    """

    name: str
    label: str
    type: str
    required: bool = False
    limit: int | None = None
    choices: tuple[str, ...] = ()
    when: tuple[str, tuple[str, ...]] | None = None
    after: str = ""
    link_unless: tuple[str, ...] | None = None


@dataclass(frozen=True, slots=True)
class Condition:
    """What must hold before Menudo may post to a profile. `fact` empty: nothing the network tells shows it.

    `accepts` are the values of the fact that meet it; `remedy` says what to do when it isn't met.
    """

    id: str
    message: str
    fact: str = ""
    accepts: tuple[str, ...] = ()
    remedy: str = ""


@dataclass(frozen=True, slots=True)
class ProfileKind:
    """A kind of profile: its conditions, and whether Menudo may post to it directly."""

    kind: str
    name: str
    direct: bool
    conditions: tuple[Condition, ...] = ()


@dataclass(frozen=True, slots=True)
class StoryRule:
    """Stories: how many frames at a time, their shape (width over height), and a video's length in seconds.

    `link_followers`: a link needs so many followers; None: no such condition.
    """

    max_frames: int
    min_ratio: float | None = None
    max_ratio: float | None = None
    max_seconds: float | None = None
    link_followers: int | None = None

    @property
    def shape(self) -> tuple[int, int]:
        """The shape that a frame is shown and cropped in, width over height in small whole numbers: the usual 9:16 (common
        practice, no published source) where it is taken, else the nearest that is."""
        low, high = self.min_ratio or 0, self.max_ratio or float("inf")
        if low <= 9 / 16 <= high:
            return 9, 16
        # The middle of what is taken, so that whole pixels stay inside.
        wanted = (low + high) / 2 if low and high < float("inf") else high if high < 9 / 16 else low
        near = Fraction(wanted).limit_denominator(100)
        return near.numerator, near.denominator


@dataclass(frozen=True, slots=True)
class ProofRule:
    """How the network shows a post. `pictures`: rows (all at once), carousel (one after another) or one (the first).

    `crop` is the shape that pictures are cut to when shown, around their focus; None: their own. `title` and `button`
    name the fields that stand as the post's heading and as its button.
    """

    layout: str = "feed"
    pictures: str = "rows"
    crop: float | None = None
    title: str = ""
    button: str = ""


@dataclass(frozen=True, slots=True)
class Paint:
    """Colours as #rrggbb: the page, the card on it, its text, its lines, and what can be pressed."""

    ground: str
    card: str
    ink: str
    line: str
    accent: str


@dataclass(frozen=True, slots=True)
class LookRule:
    """The network's own look, by day and by night, and the family its letters are of (sans, serif)."""

    light: Paint = Paint("#ffffff", "#ffffff", "#222222", "#dddddd", "#335577")
    dark: Paint = Paint("#16181c", "#202329", "#e8e8e8", "#3a3f47", "#9ab8d8")
    letters: str = "sans"


@dataclass(frozen=True, slots=True)
class Pace:
    """How fast and how much: posts and files a day, seconds between two posts of a profile, posts kept, locations at once."""

    posts_a_day: int | None = None
    media_a_day: int | None = None
    seconds_between: int | None = None
    posts_kept: int | None = None
    locations_at_once: int | None = None


@dataclass(frozen=True, slots=True)
class WireRule:
    """What the network's wire can do. `knows_keys`: it can be asked whether a key was acted on."""

    knows_keys: bool = True
    edits: bool = False
    deletes: bool = False


@dataclass(frozen=True, slots=True)
class RuleSheet:
    """Everything Menudo knows of one network. `life_days` None: its posts stay; `use` says what for, see timing.sensible."""

    network: str
    name: str
    letters: str
    shape: str
    about: str
    text: TextRule
    media: MediaRule
    hashtags: HashtagRule
    required: frozenset[str]
    one_of: tuple[frozenset[str], ...]
    forbidden: frozenset[str]
    fields: tuple[FieldRule, ...]
    kinds: tuple[ProfileKind, ...]
    pace: Pace
    wire: WireRule
    life_days: int | None = None
    story: StoryRule | None = None
    proof: ProofRule = ProofRule()
    look: LookRule = LookRule()
    use: str = ""

    def profile_kind(self, kind: str) -> ProfileKind | None:
        """The rule of a kind of profile; None when the sheet doesn't know it."""
        return next((k for k in self.kinds if k.kind == kind), None)
