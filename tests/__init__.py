"""Tests, floor by floor; ``python -m tests`` runs them."""

import os

from hypothesis import settings

# A deadline for one example is a timed test, and machines here are noisy. On CI the examples are the same every time.
settings.register_profile("walkround", deadline=None, database=None, derandomize=bool(os.environ.get("CI")))
settings.load_profile("walkround")
