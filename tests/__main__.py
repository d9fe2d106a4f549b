"""Run tests: ``python -m tests [pattern ...]``, all of them or those of the modules whose dotted names hold a pattern.

``--cover`` traces the core while they run and holds its line coverage to the bar (the core's own tests, unless patterns say
otherwise); ``--deep`` tries as many generated cases as each property asks for, instead of a few; ``--workers N`` says how many
run side by side.
"""

import argparse
import os
import sys
import tempfile
import time
from pathlib import Path

import coverage

CORE_BAR_PERCENT = 95.0
ROOT = Path(__file__).parent
SLOWEST = 10


def modules(patterns: list[str]) -> list[str]:
    """Names of all test modules, or those whose dotted name holds one of the patterns."""
    names = sorted(".".join(path.relative_to(ROOT.parent).with_suffix("").parts) for path in ROOT.rglob("test_*.py"))
    return [name for name in names if not patterns or any(pattern in name for pattern in patterns)]


def covered(folder: str) -> bool:
    """Whether the tests ran enough of the core's lines; says how many, and which not."""
    measure = coverage.Coverage(source=["walkround/core"], data_file=f"{folder}/all")
    measure.combine([folder])
    with Path("/dev/null").open("w") as quiet:
        percent = measure.report(file=quiet)
    print(f"core line coverage {percent:.1f} % (bar {CORE_BAR_PERCENT:.0f} %)")
    if percent < CORE_BAR_PERCENT:
        measure.report(show_missing=True, skip_covered=True)
    return percent >= CORE_BAR_PERCENT


def main(arguments: list[str]) -> int:
    """Run, report, judge."""
    ask = argparse.ArgumentParser(prog="python -m tests", description=__doc__)
    ask.add_argument("patterns", nargs="*")
    ask.add_argument("--cover", action="store_true")
    ask.add_argument("--deep", action="store_true")
    ask.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    ask.add_argument("--classes", action="store_true")
    given = ask.parse_args(arguments)
    if given.deep:
        os.environ.setdefault("WALKROUND_HYPOTHESIS", "deep")
    begun = time.monotonic()
    from tests import workers  # the profile of generated cases is chosen as the tests are imported

    ran = skipped = 0
    bad: list[tuple[str, str]] = []
    seconds: list[tuple[float, str]] = []
    with tempfile.TemporaryDirectory(prefix="walkround-cover-") as folder:
        measure = (
            coverage.Coverage(source=["walkround/core"], data_file=f"{folder}/all.imports") if given.cover else None
        )
        if measure is not None:
            measure.start()
        units = workers.classes(modules(given.patterns or ([".core."] if given.cover else [])))
        if measure is not None:
            measure.stop()
            measure.save()
        for outcome in workers.run(units, given.workers, folder if given.cover else ""):
            print("F" if outcome.bad else ".", end="", flush=True)
            ran, skipped = ran + outcome.ran, skipped + outcome.skipped
            bad += outcome.bad
            seconds += outcome.seconds
        print()
        for name, text in bad:
            print(f"{'=' * 70}\nFAIL: {name}\n{'-' * 70}\n{text}")
        enough = not given.cover or covered(folder)
    if ran == 0:
        print("no test was found")
    print("the slowest:", *(f"{s:6.1f} s  {name}" for s, name in sorted(seconds, reverse=True)[:SLOWEST]), sep="\n")
    if given.classes:
        by_class: dict[str, float] = {}
        for s, name in seconds:
            by_class[name.rpartition(".")[0]] = by_class.get(name.rpartition(".")[0], 0) + s
        for name, s in sorted(by_class.items(), key=lambda item: -item[1])[:40]:
            print(f"{s:6.1f} s  {name}")
    print(f"{ran} tests in {time.monotonic() - begun:.0f} s with {given.workers} workers")
    print(f"{max(0, ran - len(bad) - skipped)} passed, {len(bad)} failed, {skipped} skipped")
    return 1 if bad or not ran or not enough else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
