"""``python -m walkround``."""

import gc

gc.disable()  # what loads now stays: looking through it again and again while it loads costs a tenth of the start

import sys  # noqa: E402

from walkround.cli import main  # noqa: E402

if __name__ == "__main__":
    sys.exit(main())
