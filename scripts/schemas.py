"""Write the published schemas of our files into docs/schemas."""

import json
import sys
from pathlib import Path

from walkround.core.checklist.exchange import FILES, schema

FOLDER = Path(__file__).parent.parent / "docs" / "schemas"


def main() -> int:
    """One file for each format."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    for name in FILES:
        (FOLDER / f"{name}.json").write_text(json.dumps(schema(name), indent=2) + "\n")
    print(f"{len(FILES)} schemas in {FOLDER}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
