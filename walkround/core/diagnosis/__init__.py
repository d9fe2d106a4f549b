"""It behaved oddly: what may be behind it, by what is on record, and the cheapest test first."""
