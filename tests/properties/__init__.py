"""Properties that hold for everything the program may meet, tried with generated cases.

With ``WALKROUND_HYPOTHESIS=mutants`` fewer cases are tried, the same ones each time.
"""

import os

from hypothesis import HealthCheck, settings

settings.register_profile(
    "mutants", max_examples=25, derandomize=True, database=None, deadline=None, suppress_health_check=list(HealthCheck)
)
settings.register_profile("usual", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("mutants" if os.environ.get("WALKROUND_HYPOTHESIS") == "mutants" else "usual")
