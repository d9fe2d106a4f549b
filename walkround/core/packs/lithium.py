"""The rules for hurt, hot, cold, empty and overfull packs, stated once: inspection, events, charging, storage, transport.

The maker's sheet prevails. Source: where none is named, common practice, no source.
"""

from walkround.core.base.phrase import Phrase, temperature, volt
from walkround.core.packs.chemistry import CELLS, Chemistry, is_lithium

CHECKER_ERROR_V = 0.03
"""A cell checker may read so much too high, in V. Source: our choice, three times its usual error."""
CHARGE_COLDEST_C, CHARGE_WARMEST_C = 5.0, 45.0
"""Between these a cell may be charged, in °C: below, metal plates out and the cell is spoiled for good. Source: 0 to 45 °C in
IEC 61960 type sheets (from memory); 5 °C, as makers of model packs say, from memory."""
HOT_C = 60.0
"""Hotter than this a pack is too hot to hold and is treated as hurt, in °C. Source: common practice, no source."""

SOURCE = "lithium rules of this program: common practice, no source; the maker's sheet prevails"
NEVER_AGAIN = (
    "It can burn without warning. Carry it outdoors now and put it on stone or sand, away from people and anything that "
    "burns. Do not charge it. Tape its contacts and take it to a collection point."
)
"""For a pack that is swollen, punctured, leaking, smells sweet, or has a cell below what it survives."""
SET_ASIDE = (
    "Leave it outdoors on its own and watch it for an hour. It may fly again only when it is cold and table test, smell, "
    "leads and every cell are OK."
)
"""For a pack that was in a crash, or came down too hot to hold."""
OVERCHARGED = "Do not fly it and do not charge it. Take it outdoors, keep it apart, and check the charger settings."
"""For a cell above the chemistry's full voltage."""
TOO_LOW = (
    "Do not charge it: a cell this low may burn when charged. Take it outdoors, on its own, then to a collection point."
)
"""For a cell below what it survives."""
CHARGE_ATTENDED = (
    "Never charge unattended. Use a fire-proof surface or a fire-resistant bag, with nothing flammable near."
)
"""For every charge."""
CHARGER_SETTINGS = (
    "Set the pack's chemistry, cell count and a current within its rating. Connect the balance lead, and charge between "
    f"{CHARGE_COLDEST_C:g} and {CHARGE_WARMEST_C:g} °C only."
)
"""What is checked before the charger starts."""
TRANSPORT = "Put each pack in a hard case or fire-resistant bag, away from anything sharp. Cover the terminals."
"""For the way to the field and back."""
FIRE = "Lithium fire: get away upwind and keep others away. Call for help. Use plenty of water or sand from a distance. The smoke is poisonous."
"""When one burns."""


def overcharged_above_v(chemistry: Chemistry) -> float:
    """A resting cell above this voltage in V is overcharged. Source: ``CELLS``, ``CHECKER_ERROR_V``."""
    return round(CELLS[chemistry].charge_to_v + CHECKER_ERROR_V, 3)


def hurt_below_v(chemistry: Chemistry) -> float:
    """A cell resting below this voltage in V is spoiled, and not charged again. Source: ``CELLS``."""
    return CELLS[chemistry].least_v


CHEMISTRY_UNKNOWN = "Find the chemistry on the label or in the maker's sheet and enter it with the pack. Until then, do not charge or fly it."
"""For a pack whose chemistry is not known."""
COLD_CHARGE = "Let it come to room temperature first. Charging it cold damages it for good, and it may burn later."
HOT_CHARGE = "Let it cool outdoors or on stone first. If it is too hot to hold, watch it for an hour."


def why_not_charged(
    chemistry: Chemistry, *, weakest_v: float | None, highest_v: float | None, felt_c: float | None
) -> tuple[Phrase, str] | None:
    """Why a pack must not be charged now, with what to do instead; None when nothing is known against it.

    Cells in V at rest, temperature of the pack in °C; None: not known. Nickel is spoiled by none of these.
    Source: ``hurt_below_v``, ``overcharged_above_v``, ``CHARGE_COLDEST_C``, ``CHARGE_WARMEST_C``.
    """
    if not is_lithium(chemistry):
        return None
    if chemistry is Chemistry.UNKNOWN:
        return Phrase.of("Its chemistry is not known."), CHEMISTRY_UNKNOWN
    if weakest_v is not None and weakest_v < hurt_below_v(chemistry):
        return Phrase.of("A cell is at {v}: too low, the cell is probably damaged.", v=volt(weakest_v)), TOO_LOW
    if highest_v is not None and highest_v > overcharged_above_v(chemistry):
        return Phrase.of("A cell is at {v}: overcharged.", v=volt(highest_v)), OVERCHARGED
    if felt_c is not None and felt_c < CHARGE_COLDEST_C:
        words = "At {felt} it is too cold to charge (min {limit})."
        return Phrase.of(words, felt=temperature(felt_c), limit=temperature(CHARGE_COLDEST_C)), COLD_CHARGE
    if felt_c is not None and felt_c > CHARGE_WARMEST_C:
        words = "At {felt} it is too hot to charge (max {limit})."
        return Phrase.of(words, felt=temperature(felt_c), limit=temperature(CHARGE_WARMEST_C)), HOT_CHARGE
    return None
