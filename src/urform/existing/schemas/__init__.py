"""JSON Schema, draft-04 to 2020-12, as types."""
