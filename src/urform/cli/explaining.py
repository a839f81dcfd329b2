"""`urform explain`: problems explain themselves; claim groups and patterns stand in a table of words."""

from __future__ import annotations

import re

from urform.cli.words import WORDS
from urform.declaration.catalogue import all_kinds


def known_words() -> list[str]:
    """Everything that can be explained."""
    return [*all_kinds(), *WORDS]


def explained(word: str) -> str | None:
    """The explanation of a word, None when there is none."""
    kind = all_kinds().get(word)
    if kind is None:
        return WORDS.get(word)
    title = "advice" if kind.advice else "problem"
    lines = [f"{kind.slug} ({title})", "", " ".join(kind.why.split()), "", f"mend: {_plain(kind.mend)}"]
    if kind.example:
        lines += [
            "",
            "example of a declaration that has it:",
            "",
            *(f"    {line}" for line in kind.example.splitlines()[:14]),
        ]
    return "\n".join(lines)


def _plain(template: str) -> str:
    """A mend without the details of one case."""
    text = template.replace("{{", "\0").replace("}}", "\1")
    text = re.sub(r"\{(\w+)\}", lambda match: match[1].upper(), text)
    return text.replace("\0", "{").replace("\1", "}")
