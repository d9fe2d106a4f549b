"""Run all tests: ``python -m tests [pattern ...]``. Measures line coverage of the core and holds it to the bar.

With patterns only the matching modules run (``python -m tests browser core.test_packs``), without the coverage bar.
"""

import sys
import time
import unittest
import warnings
from pathlib import Path

import coverage

CORE_BAR_PERCENT = 95.0
ROOT = Path(__file__).parent


def suite(patterns: list[str]) -> unittest.TestSuite:
    """All test modules, or those whose dotted name holds one of the patterns."""
    names = sorted(".".join(path.relative_to(ROOT.parent).with_suffix("").parts) for path in ROOT.rglob("test_*.py"))
    if patterns:
        names = [name for name in names if any(pattern in name for pattern in patterns)]
    return unittest.defaultTestLoader.loadTestsFromNames(names)


def main(patterns: list[str]) -> int:
    """Run, report, judge."""
    begun = time.monotonic()
    measure = coverage.Coverage(source=["walkround/core"], data_file=None)
    measure.start()
    warnings.simplefilter("error", ResourceWarning)
    result = unittest.TextTestRunner(verbosity=1, buffer=True, warnings="default").run(suite(patterns))
    measure.stop()
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    if not patterns:
        with (Path("/dev/null")).open("w") as quiet:
            percent = measure.report(file=quiet)
        print(f"core line coverage {percent:.1f} % (bar {CORE_BAR_PERCENT:.0f} %)")
        if percent < CORE_BAR_PERCENT:
            measure.report(show_missing=True, skip_covered=True)
            bad += 1
    if result.testsRun == 0:
        print("no test was found")
        bad += 1
    print(f"{time.monotonic() - begun:.0f} s")
    print(f"{result.testsRun - bad - len(result.skipped)} passed, {bad} failed, {len(result.skipped)} skipped")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
