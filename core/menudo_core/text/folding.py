"""Where a network folds a long text behind a “more”."""

from dataclasses import dataclass

from menudo_core.text.clusters import clusters


@dataclass(frozen=True, slots=True)
class FoldedText:
    """A text in the part that is seen at once and the part behind the fold (may be empty)."""

    visible: str
    hidden: str


def fold_text(text: str, after_clusters: int | None, after_lines: int | None) -> FoldedText:
    """Fold `text` after so many grapheme clusters or lines, whichever comes first; None: never."""
    cut, lines = len(text), 1
    place = 0
    for number, cluster in enumerate(clusters(text)):
        if after_clusters is not None and number >= after_clusters:
            cut = place
            break
        if cluster in ("\n", "\r\n", "\r"):
            lines += 1
            if after_lines is not None and lines > after_lines:
                cut = place
                break
        place += len(cluster)
    return FoldedText(text[:cut], text[cut:])
