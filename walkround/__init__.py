"""Walk Round: today's walk round before a recreational drone or model flight."""

VERSION = "0.8.0"
