"""Walk Round: today's walk round before a recreational drone or model flight."""

import gc
import os

# Looking for plugins, of which there are none, costs a tenth of the start.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")
# Modules and values stay once they are there. Python looks for circles among them after every 700 new ones, which costs a tenth of an
# import and finds nothing; the whole application is some hundred thousand. Source: measured.
gc.set_threshold(200_000, 20, 20)

VERSION = "0.15.6"
