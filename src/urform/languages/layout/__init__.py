"""How lines are broken and what stands beneath each other: the same for all languages, by data of each."""
