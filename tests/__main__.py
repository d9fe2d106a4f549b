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


def modules(patterns: list[str]) -> tuple[list[str], list[str]]:
    """Names of all test modules, or those whose dotted name holds one of the patterns: of the core, and the rest."""
    names = sorted(".".join(path.relative_to(ROOT.parent).with_suffix("").parts) for path in ROOT.rglob("test_*.py"))
    if patterns:
        names = [name for name in names if any(pattern in name for pattern in patterns)]
    return [n for n in names if ".core." in n], [n for n in names if ".core." not in n]


def run(names: list[str]) -> unittest.TestResult:
    """Run some modules; a resource left open is an error."""
    warnings.simplefilter("error", ResourceWarning)
    suite = unittest.defaultTestLoader.loadTestsFromNames(names)
    return unittest.TextTestRunner(verbosity=1, buffer=True, warnings="default").run(suite)


def main(patterns: list[str]) -> int:
    """Run, report, judge. Only the core's own tests are traced: tracing doubles the time, and they are what must cover it."""
    begun = time.monotonic()
    near, far = modules(patterns)
    measure = coverage.Coverage(source=["walkround/core"], data_file=None)
    measure.start()
    results = [run(near)] if near else []
    measure.stop()
    print(f"{time.monotonic() - begun:.0f} s")
    results += [run(far)] if far else []
    bad = sum(len(r.failures) + len(r.errors) + len(r.unexpectedSuccesses) for r in results)
    skipped, ran = sum(len(r.skipped) for r in results), sum(r.testsRun for r in results)
    if not patterns:
        with Path("/dev/null").open("w") as quiet:
            percent = measure.report(file=quiet)
        print(f"core line coverage {percent:.1f} % (bar {CORE_BAR_PERCENT:.0f} %)")
        if percent < CORE_BAR_PERCENT:
            measure.report(show_missing=True, skip_covered=True)
            bad += 1
    if ran == 0:
        print("no test was found")
        bad += 1
    print(f"{time.monotonic() - begun:.0f} s")
    print(f"{max(0, ran - bad - skipped)} passed, {bad} failed, {skipped} skipped")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
