"""Source files to found types: the grammar and the reader of each language."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

from urform.dataclasses import dataclass
from urform.existing.found import Found, Spot
from urform.existing.sources import cpp, go, java, python, rust, trees, typescript
from urform.existing.sources.facts import Spellings, TypeFact
from urform.existing.sources.meaning import meaning
from urform.existing.sources.trees import Node

LARGEST_FILE = 10 << 20  # bytes; what is larger was not written by hand


@dataclass(frozen=True, slots=True)
class Language:
    """How the types of a language are read."""

    grammar: tuple[str, str]
    facts: Callable[[Node, str], Iterator[TypeFact]]
    spellings: Spellings
    suffixes: tuple[str, ...]
    prepared: Callable[[bytes], bytes] = bytes


LANGUAGES = {
    "python": Language(python.GRAMMAR, python.facts, python.SPELLINGS, (".py", ".pyi")),
    "java": Language(java.GRAMMAR, java.facts, java.SPELLINGS, (".java",)),
    "go": Language(go.GRAMMAR, go.facts, go.SPELLINGS, (".go",)),
    "typescript": Language(
        typescript.GRAMMAR, typescript.facts, typescript.SPELLINGS, (".ts", ".mts", ".cts")
    ),
    "rust": Language(rust.GRAMMAR, rust.facts, rust.SPELLINGS, (".rs",)),
    "cpp": Language(
        cpp.GRAMMAR, cpp.facts, cpp.SPELLINGS, (".hpp", ".h", ".hh", ".cpp", ".cc", ".cxx"), cpp.prepared
    ),
}


def read_sources(paths: Sequence[Path], name: str, given: Mapping[str, str]) -> Found:
    """The types of some files in one language. Raises GrammarMissing.

    What is broken is read as far as it goes, and told in `unread`; a tree is dropped as soon as its facts are taken.
    """
    language = LANGUAGES[name]
    facts: list[TypeFact] = []
    unread: list[tuple[Spot, str]] = []
    for path in paths:
        try:
            source = path.read_bytes()
        except OSError as error:
            unread.append((Spot(str(path), 1, ""), f"{path}: {error.strerror}"))
            continue
        if len(source) > LARGEST_FILE:
            unread.append((Spot(str(path), 1, ""), f"{path} is larger than {LARGEST_FILE >> 20} MiB"))
            continue
        root = trees.root_of(language.prepared(source), *language.grammar)
        if root.has_error:
            unread.append((Spot(str(path), 1, ""), f"{path} is not whole {name}: what could be read was"))
        of_file = sorted(language.facts(root, str(path)), key=lambda fact: fact.line)
        facts.extend(placed(each, str(path)) for each in of_file)
    found = meaning(facts, language.spellings, given)
    return replace(found, unread=tuple(unread))


def placed(fact: TypeFact, file: str) -> TypeFact:
    """With its file; a field keeps it where another type inherits it."""
    return replace(fact, file=file, fields=tuple(replace(each, file=file) for each in fact.fields))
