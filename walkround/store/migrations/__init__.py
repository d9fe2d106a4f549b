"""Changes of the schema. What they do stands in ``steps``, loaded when a book is behind."""

NEWEST = 11
"""Number of the newest one."""
FIELD_TERMS = 6
"""From this schema on columns, settings and zones carry the field's own terms."""
