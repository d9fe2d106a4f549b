"""Tests, floor by floor; ``python -m tests`` runs them.

``WALKROUND_HYPOTHESIS`` says how many generated cases are tried: ``quick`` (unless told otherwise), ``deep`` as many as each
property asks for, ``mutants`` a tenth and ``put-back`` all, both of these the same ones each time and without looking for the
simplest case that fails. A deadline for one case would be a timed test, and machines here are noisy. On CI the cases are the same
every time.
"""

import os

from hypothesis import HealthCheck, Phase, settings

_HOW = os.environ.get("WALKROUND_HYPOTHESIS", "quick")
_USUAL = {
    "deadline": None, "database": None, "derandomize": bool(os.environ.get("CI")), "suppress_health_check": [HealthCheck.too_slow],
}  # fmt: skip
_AGAIN = {
    "deadline": None, "database": None, "derandomize": True, "suppress_health_check": list(HealthCheck),
    "phases": [Phase.explicit, Phase.generate],
}  # fmt: skip
settings.register_profile("quick", max_examples=30, **_USUAL)
settings.register_profile("deep", **_USUAL)
settings.register_profile("mutants", max_examples=25, **_AGAIN)
settings.register_profile("put-back", **_AGAIN)
settings.load_profile(_HOW)
_SHARE = {"quick": 4, "mutants": 10}.get(_HOW, 1)


def examples(most: int) -> settings:
    """So many cases in depth; a part of them in a quick run."""
    return settings(max_examples=max(20, most // _SHARE))
