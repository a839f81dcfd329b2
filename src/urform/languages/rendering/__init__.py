"""Text from templates: how a declaration's text is written as literals and comments, and what a flaw changes."""
