"""Walk Round: today's walk round before a recreational drone or model flight."""

import os

os.environ.setdefault(
    "PYDANTIC_DISABLE_PLUGINS", "1"
)  # looking for plugins, of which there are none, costs a tenth of the start

VERSION = "0.15.1"
