"""Properties that hold for everything the program may meet, tried with generated cases.

With ``WALKROUND_HYPOTHESIS=mutants`` fewer cases are tried, the same ones each time.
"""

import os

from hypothesis import HealthCheck, settings

settings.register_profile(
    "mutants", max_examples=25, derandomize=True, database=None, deadline=None, suppress_health_check=list(HealthCheck)
)
settings.register_profile("usual", deadline=None, suppress_health_check=[HealthCheck.too_slow])
_FEW = os.environ.get("WALKROUND_HYPOTHESIS") == "mutants"
settings.load_profile("mutants" if _FEW else "usual")


def examples(most: int) -> settings:
    """So many cases; a tenth of them while mutants are tried."""
    return settings(max_examples=max(20, most // 10) if _FEW else most)
