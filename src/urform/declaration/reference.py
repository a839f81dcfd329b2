"""The format told key by key, from the table that files are checked against: `docs/format.md`, and what `explain` says of a key."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cache

from urform.dataclasses import dataclass
from urform.declaration.examples import EXAMPLES
from urform.declaration.grammar import DECLARATION
from urform.declaration.shape import (
    AnyValue,
    Either,
    Flag,
    Key,
    Listed,
    Named,
    Number,
    Ordered,
    Record,
    Shape,
    Words,
)
from urform.prose import with_article


@dataclass(frozen=True, slots=True)
class Entry:
    """A key of one mapping of the format."""

    record: Record
    name: str
    key: Key


@cache
def records() -> tuple[Record, ...]:
    """Every mapping with known keys, in the order in which a reader meets it, each once."""
    found: dict[str, Record] = {}

    def walk(shape: Shape | None) -> None:
        match shape:
            case Record() if shape.what not in found:
                found[shape.what] = shape
                for key in shape.keys.values():
                    walk(key.shape)
            case Named():
                walk(shape.value)
            case Listed():
                walk(shape.item)
            case Either():
                for each in (shape.scalar, shape.sequence, shape.mapping):
                    walk(each)

    walk(DECLARATION)
    return tuple(found.values())


def entries() -> Iterator[Entry]:
    """Every key of every mapping."""
    for record in records():
        for name, key in record.keys.items():
            yield Entry(record, name, key)


def words_of(shape: Shape) -> Mapping[str, str]:
    """The words that mean something in a place, each with its meaning."""
    if isinstance(shape, Words):
        return shape.words
    return words_of(shape.scalar) if isinstance(shape, Either) and shape.scalar is not None else {}


def known_words() -> tuple[str, ...]:
    """Every key, and every word that may stand under one."""
    every = [name for entry in entries() for name in (entry.name, *words_of(entry.key.shape))]
    return tuple(dict.fromkeys(every))


def told(word: str) -> str | None:
    """What the format says of a key or a word, wherever it stands; None where it is neither."""
    lines = []
    for entry in entries():
        what = entry.record.what
        of = f"of the {what}" if what.startswith("settings") else f"of {with_article(what)}"
        if entry.name == word:
            lines.append(f"{word} ({of}): {meaning(entry.key)}")
            lines += [f"    {each}: {means}" for each, means in words_of(entry.key.shape).items()]
        elif word in words_of(entry.key.shape):
            lines.append(f"{word} ({entry.name} {of}): {words_of(entry.key.shape)[word]}")
    return "\n".join(lines) or None


def example_of(word: str) -> str | None:
    """A whole declaration that has a key, or a word, in its place; None where it is neither."""
    for entry in entries():
        if word == entry.name or word in words_of(entry.key.shape):
            examples = EXAMPLES[entry.record.what]
            return next((each for each in examples if f"{word}:" in each or f": {word}" in each), examples[0])
    return None


def meaning(key: Key) -> str:
    """What a key says, what it takes, and what holds without it."""
    takes = f" It takes {taken(key.shape)}."
    without = (
        " It has to be there." if key.required else f" Without it: {key.default}." if key.default else ""
    )
    return f"{key.shape.doc}{takes}{without}"


def taken(shape: Shape) -> str:
    """What stands in a place: `a text`, `a list of conditions`, `a mapping of names`."""
    match shape:
        case Words(words=words) if words:
            return " or ".join([", ".join(list(words)[:-1]), list(words)[-1]] if len(words) > 1 else words)
        case Words(what=what):
            return with_article(what) if " " not in what else what
        case Flag():
            return "true or false"
        case Number(whole=whole):
            return "a whole number" if whole else "a number"
        case Ordered():
            return "a number, a date, a time of day, an instant or a duration"
        case AnyValue():
            return "a value"
        case Listed(item=item):
            return f"a list, each entry {taken(item)}"
        case Named(value=value):
            return f"a mapping, under each name {taken(value)}"
        case Record(what=what, short=short):
            mapping = (
                f"a mapping, the {what}" if what.startswith(("set", "settings")) else f"{with_article(what)}"
            )
            return f"{mapping}, or its {short} alone" if short is not None else mapping
        case Either():
            parts = [each for each in (shape.scalar, shape.sequence, shape.mapping) if each is not None]
            return ", or ".join(map(taken, parts))
    raise TypeError(f"no such shape: {shape}")


def page() -> str:
    """The page of the whole format, in Markdown."""
    lines = [
        "# The format, key by key",
        "",
        "Made from the table that `urform check` holds files against; `urform explain KEY` says the same, and `urform schema` "
        "prints it for editors. Why things are as they are stands in [declaration.md](declaration.md).",
    ]
    shown: set[str] = set()
    for record in records():
        lines += ["", f"## {_title(record)}", "", record.doc, "", *_table(record)]
        for example in EXAMPLES[record.what]:
            if example not in shown:
                lines += ["", "```yaml", example.rstrip("\n"), "```"]
                shown.add(example)
    return "\n".join(lines) + "\n"


def _title(record: Record) -> str:
    return f"{record.what[0].upper()}{record.what[1:]}"


def _table(record: Record) -> Iterator[str]:
    yield "| key | takes | without it | meaning |"
    yield "|---|---|---|---|"
    for name, key in record.keys.items():
        without = "has to be there" if key.required else key.default
        means = " ".join([key.shape.doc, *(f"`{w}`: {said}" for w, said in words_of(key.shape).items())])
        yield f"| `{name}` | {_cell(taken(key.shape))} | {_cell(without)} | {_cell(means)} |"


def _cell(text: str) -> str:
    """Text in a table of Markdown."""
    return text.replace("|", "\\|").replace("<", "&lt;").replace("*", "\\*")
