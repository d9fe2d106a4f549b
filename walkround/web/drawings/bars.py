"""Margin bars: value against limit, as lengths."""

from walkround.core.base.finding import Finding, Level
from walkround.core.base.struct import Struct


class MarginBar(Struct, frozen=True):
    """A bar of length 100: how far it is filled, where the limit stands, and its words."""

    fill: float
    limit_at: float | None
    level: str
    shape: str


def bar(finding: Finding) -> MarginBar | None:
    """The bar of a measured finding, or None. A *max* limit stands at 80; a *min* limit at 20."""
    # Nothing to spare is amber, also where the limit itself is allowed.
    level = ("clear", "caution", "grounded")[finding.level]
    if level == "clear" and finding.margin is not None and finding.margin <= 0:
        level = "caution"
    if finding.margin is None or finding.limit is None:
        return None
    margin = max(-1.0, min(1.0, finding.margin))
    if finding.sense == "max":
        # Margin 1 (nothing used) is an empty bar; 0 reaches the limit mark; -1 and worse fills it.
        fill = 80 * (1 - margin) if margin >= 0 else 80 + 20 * -margin
        return MarginBar(fill=round(fill, 1), limit_at=80, level=level, shape="max")
    fill = 20 + 80 * margin if margin >= 0 else 20 * (1 + margin)
    return MarginBar(fill=round(max(fill, 1.5), 1), limit_at=20, level=level, shape="min")


def spare_words(finding: Finding, said: str) -> str:
    """ "0.12 V to spare", or "over by" and "short by"; ``said`` is the size in the pilot's units."""
    if finding.margin is not None and finding.margin < 0:
        return f"{'over' if finding.sense == 'max' else 'short'} by {said}"
    if not any(character in "123456789" for character in said):
        return "none to spare"
    return f"{said} to spare" if finding.level is not Level.GROUNDED else said
