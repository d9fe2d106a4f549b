"""What trims mean, axis by axis."""

from walkround.core.aircraft.proved import Trims

FEW_CLICKS = 4
"""So many clicks are nothing to look for. Source: our choice; a few clicks, common practice, no source."""


def trim_words(trims: Trims) -> tuple[str, ...]:
    """What each trim beyond a few clicks says of the aircraft, and what to do. Source: common practice, no source."""
    found = []
    if trims.roll is not None and abs(trims.roll) > FEW_CLICKS:
        found.append(
            f"{abs(trims.roll)} clicks of aileron to the {'right' if trims.roll > 0 else 'left'}: look for a twisted wing or a heavy tip, then adjust the pushrods and centre the trim."
        )
    if trims.pitch is not None and trims.pitch > FEW_CLICKS:
        found.append(
            f"{trims.pitch} clicks up: it is nose-heavy or flown slowly. Check the CG, then adjust the elevator."
        )
    if trims.pitch is not None and trims.pitch < -FEW_CLICKS:
        found.append(
            f"{-trims.pitch} clicks down: it may be tail-heavy, the dangerous side. Check the CG before the next flight."
        )
    if trims.yaw is not None and abs(trims.yaw) > FEW_CLICKS:
        found.append(
            f"{abs(trims.yaw)} clicks of rudder to the {'right' if trims.yaw > 0 else 'left'}: look at fin and motor thrust line, or a bent tail."
        )
    return tuple(found)
