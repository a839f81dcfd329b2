"""Signs that stand in every form of a drawing."""

REQUIRED, OPTIONAL = "●", "○"
