"""The demo scenario: an invented pilot, their aircraft, packs and fields."""
