"""Properties that hold for everything the program may meet, tried with generated cases.

With ``WALKROUND_HYPOTHESIS=mutants`` fewer cases are tried, the same ones each time; with ``put-back`` as many as usual, the same
ones each time. Neither looks for the simplest case that fails.
"""

import os

from hypothesis import HealthCheck, Phase, settings

_HOW = os.environ.get("WALKROUND_HYPOTHESIS", "usual")
_AGAIN = {
    "derandomize": True, "database": None, "deadline": None, "suppress_health_check": list(HealthCheck),
    "phases": [Phase.explicit, Phase.generate],
}  # fmt: skip
settings.register_profile("mutants", max_examples=25, **_AGAIN)
settings.register_profile("put-back", **_AGAIN)
settings.register_profile("usual", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile(_HOW)
_FEW = _HOW == "mutants"


def examples(most: int) -> settings:
    """So many cases; a tenth of them while mutants are tried."""
    return settings(max_examples=max(20, most // 10) if _FEW else most)
