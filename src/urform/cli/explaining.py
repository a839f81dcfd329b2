"""`urform explain`: problems and the keys of the format explain themselves; claim groups and patterns stand in a table of words."""

from __future__ import annotations

import re
import textwrap
from collections.abc import Iterable, Iterator

from urform.cli.words import HAVING, PATTERNS, WORDS
from urform.declaration import reference
from urform.declaration.catalogue import all_kinds
from urform.existing.findings.finding import Kind
from urform.existing.findings.kinds import KINDS


def known_words() -> list[str]:
    """Everything that can be explained."""
    return list(dict.fromkeys([*all_kinds(), *WORDS, *reference.known_words(), *KINDS]))


def overview(groups: Iterable[str]) -> str:
    """Every word that can be explained, and a way in by what one has. `groups` are those of claims."""
    return "\n".join(_overview(tuple(groups)))


def _overview(groups: tuple[str, ...]) -> Iterator[str]:
    yield "urform explain WORD tells what a word means, when it pays, when it is too much, with an example."
    yield ""
    yield "I have …"
    width = max(map(len, HAVING))
    yield from (f"  {have:<{width}}  urform explain {word}" for have, word in HAVING.items())
    kinds = all_kinds()
    keys = reference.known_words()
    others = [word for word in WORDS if word not in (*PATTERNS, *groups, *keys)]
    lists = {
        "patterns, and what they come to": PATTERNS,
        "keys and words of the format": sorted(keys),
        "groups of claims": groups,
        "other words": others,
        "problems": [slug for slug, kind in kinds.items() if not kind.advice],
        "advice": [slug for slug, kind in kinds.items() if kind.advice],
        "findings of audit": KINDS,
    }
    for title, words in lists.items():
        yield ""
        yield title
        yield from textwrap.wrap(
            ", ".join(words), 100, initial_indent="  ", subsequent_indent="  ", break_on_hyphens=False
        )


def explained(word: str) -> str | None:
    """The explanation of a word, None when there is none."""
    if word in KINDS:
        return _finding(KINDS[word])
    kind = all_kinds().get(word)
    if kind is None:
        example = reference.example_of(word) if word not in WORDS else None
        shown = f"example:\n\n{textwrap.indent(example, '    ').rstrip()}" if example is not None else None
        parts = [part for part in (WORDS.get(word), reference.told(word), shown) if part is not None]
        return "\n\n".join(parts) or None
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


def _finding(kind: Kind) -> str:
    code = textwrap.indent(kind.bad.strip(), "    ")
    return f"{kind.id} ({kind.level} of audit): {kind.title}\n\n{kind.why}\n\nexample of code that has it:\n\n{code}"


def _plain(template: str) -> str:
    """A mend without the details of one case."""
    text = template.replace("{{", "\0").replace("}}", "\1")
    text = re.sub(r"\{(\w+)\}", lambda match: match[1].upper(), text)
    return text.replace("\0", "{").replace("\1", "}")
