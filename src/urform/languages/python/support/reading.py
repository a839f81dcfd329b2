# pyright: reportUnnecessaryIsInstance=false
"""Records: what `json.loads` gives for a product, and what is written of it.

A record that is in order is handed to the constructor as it is, which checks it; only where that fails is it read
name by name, to tell everything that is wrong with it.
"""

import json
import math
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any, Final, Generic, TypeVar

from . import checks
from .errors import CreationError, LimitError, RefusedError, quoted, real_text

MOST_LEVELS: Final = 200
FARTHEST: Final = 80  # code points: nothing is suggested for a longer name
WHOLE: Final = re.compile(r"0|-?[1-9][0-9]*")
NAME: Final = re.compile(r'"[ \t\n\r]*:')
PLAIN: Final = re.compile(r"[A-Za-z_][A-Za-z0-9_]*")

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class RecordProblem:
    """One thing that is wrong with a record: where, and what.

    `limit` is a limit's name, or one of missing, type, kind, unknown, twice, refused, depth, text; `value` what was
    found, unless that is a secret. In a list `record` is its place, counted from 0.
    """

    path: str
    text: str
    owner: str
    field: str = ""
    limit: str = ""
    bound: object = None
    value: object = None
    record: int | None = None

    def __str__(self) -> str:
        return f"{self.path}: {self.text}" if self.path else self.text


class RecordError(CreationError):
    """No product is made of a record; `problems` are all that are wrong with it."""

    def __init__(self, owner: str, problems: Sequence[RecordProblem]) -> None:
        super().__init__(owner, problems)
        self.owner = owner
        self.problems = tuple(problems)

    def __str__(self) -> str:
        told = "".join(f"\n  {problem}" for problem in self.problems)
        return f"{self.owner}: not made of this record{told}"


class Unusual(Exception):
    """A record has to be read name by name."""


# What a record that is not plainly in order fails with.
UNUSUAL: Final = (CreationError, KeyError, TypeError, Unusual)


class _Doubled(dict[str, Any]):
    """An object of a text in which names stand twice."""

    twice: list[str]


class Reading:
    """The problems of one record, each with the way to it from the inside out."""

    def __init__(self) -> None:
        self.problems: list[tuple[list[str], RecordProblem]] = []
        self.level = 0

    def tell(self, problem: RecordProblem) -> None:
        """Note a problem."""
        self.problems.append(([], problem))  # «#tell#»

    def below(self, step: str, before: int) -> None:
        """The problems since then are below a name, or an element."""
        for way, _ in self.problems[before:]:
            way.append(step)  # «#step#»

    def told(self) -> list[RecordProblem]:
        """All of them, with their paths."""
        return [_at("".join(reversed(way)), problem) for way, problem in self.problems]


def _at(way: str, problem: RecordProblem, record: int | None = None) -> RecordProblem:
    path = f"{way}{problem.path}"
    return RecordProblem(
        path.removeprefix("."),
        problem.text,
        problem.owner,
        problem.field,
        problem.limit,
        problem.bound,
        problem.value,
        record,
    )


def _step(name: str) -> str:
    return f".{name}" if PLAIN.fullmatch(name) else f"[{quoted(name)}]"


class Reader:
    """Reads, and writes, values of one type for one field. `quick` is None where the constructor takes them as they are."""

    quick: Callable[[Any, int], Any] | None = None
    write: Callable[[Any], Any] | None = None
    wanted = ""

    def __init__(self, owner: str, field: str, within: str = "", **limits: Any) -> None:
        self.owner, self.field, self.within, self.limits = owner, field, within, limits
        self.secret = bool(limits.get("secret"))
        self.path = f"{'an element of ' if within else ''}{owner}.{field}"

    def read(self, value: Any, reading: Reading) -> Any:
        """The value, or None and a problem."""
        raise NotImplementedError

    def step(self) -> Callable[[Any, int], Any] | None:
        """What reads a value that is in order, with as few calls as can be."""
        return self.quick

    def missing(self, reading: Reading) -> None:
        """There is none."""
        limit = f"{self.within}missing"
        reading.tell(
            RecordProblem("", f"{self.path} is missing", self.owner, self.field, limit)
        )

    def unfit(self, value: object, reading: Reading, limit: str = "type") -> None:
        """It is of another type."""
        said = f"{self.path}: {self.wanted}"
        if not self.secret:
            said = f"{self.path} is {shown(value)}; {self.wanted}"
        told = None if self.secret else value
        reading.tell(
            RecordProblem(
                "", said, self.owner, self.field, self.within + limit, None, told
            )
        )

    def checked(self, check: Callable[..., Any], value: Any, reading: Reading) -> Any:
        """The value, if it keeps its limits."""
        more = {"within": self.within} if self.within else {}
        try:
            return check(self.owner, self.field, value, **more, **self.limits)
        except LimitError as error:
            reading.tell(_of_limit(error))
            return None

    def held(self, value: object) -> Any:
        """As it is written."""
        return value if self.write is None else self.write(value)


def _of_limit(error: LimitError, path: str = "") -> RecordProblem:
    return RecordProblem(
        path,
        str(error),
        error.owner,
        error.field,
        error.limit,
        error.bound,
        error.value,
    )


class Text(Reader):
    wanted = "a text is wanted"

    def __init__(
        self, owner: str, field: str, *forms: Any, within: str = "", **limits: Any
    ) -> None:
        super().__init__(owner, field, within, **limits)
        self.forms = forms

    def read(self, value: Any, reading: Reading) -> Any:
        if not isinstance(value, str):
            return self.unfit(value, reading)
        return self.checked(self._kept, value, reading)

    def _kept(self, owner: str, field: str, value: str, **limits: Any) -> str:
        kept = checks.text(owner, field, value, **limits)
        for form in self.forms:
            form.check(owner, field, kept, within=self.within, secret=self.secret)
        return kept


class Integer(Reader):
    wanted = "an integer is wanted"

    def read(self, value: Any, reading: Reading) -> Any:
        whole = whole_number(value)
        if whole is None:
            return self.unfit(value, reading)
        return self.checked(checks.integer, whole, reading)


def whole_number(value: object) -> int | None:
    """5 of 5 and of 5.0, which JSON does not tell apart; None of everything else."""
    if isinstance(value, float) and value.is_integer():
        return int(value) if abs(value) < 2**53 else None
    return value if isinstance(value, int) and not isinstance(value, bool) else None


class Real(Reader):
    wanted = "a number is wanted"

    def read(self, value: Any, reading: Reading) -> Any:
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            return self.unfit(value, reading)
        return self.checked(checks.real, value, reading)


class Truth(Reader):
    wanted = "true or false is wanted"

    def read(self, value: Any, reading: Reading) -> Any:
        return value if isinstance(value, bool) else self.unfit(value, reading)


class Word(Reader):
    """A word of a choice, by its name in records."""

    def __init__(
        self, owner: str, field: str, words: Mapping[str, Any], within: str = ""
    ) -> None:
        super().__init__(owner, field, within)
        self.words = words
        self.wanted = f"one of {', '.join(map(quoted, words))} is wanted"
        called = {word: name for name, word in words.items()}
        self.quick = lambda value, level: words[value]
        self.write = called.__getitem__

    def read(self, value: Any, reading: Reading) -> Any:
        if not isinstance(value, str) or value not in self.words:
            return self.unfit(value, reading, "choice")
        return self.words[value]


class One(Reader):
    """A product."""

    wanted = "a record is wanted"

    def __init__(
        self, owner: str, field: str, shape: Callable[[], Any], within: str = ""
    ) -> None:
        super().__init__(owner, field, within)
        self.shape = shape
        self.quick = lambda value, level: shape().quick(value, level)
        self.write = lambda product: shape().written(product)

    def step(self) -> Callable[[Any, int], Any] | None:
        quick: Callable[[Any, int], Any] = self.shape().quick
        return quick

    def read(self, value: Any, reading: Reading) -> Any:
        if not isinstance(value, Mapping):
            return self.unfit(value, reading)
        return self.shape().read(value, reading)


class ListOf(Reader):
    wanted = "a list is wanted"
    held_in: Callable[[Any], Any] = list

    def __init__(
        self, owner: str, field: str, each: Reader, within: str = "", **limits: Any
    ) -> None:
        super().__init__(owner, field, within, **limits)
        if "unique" not in limits:  # or an element may be told
            self.limits.pop("secret", None)
        self.each = each
        self.quick = self._quick
        self.write = self._write

    def _quick(self, value: Any, level: int) -> Any:
        if type(value) is not list or level > MOST_LEVELS:
            raise Unusual
        quick = self.each.quick
        if quick is None:
            return self.held_in(value)
        return self.held_in([quick(one, level + 1) for one in value])

    def _write(self, held: Any) -> Any:
        return [self.each.held(one) for one in held]

    def read(self, value: Any, reading: Reading) -> Any:
        if not isinstance(value, (list, tuple)):
            return self.unfit(value, reading)
        got, start = [], len(reading.problems)
        if too_deep(reading, self.owner):
            return None
        for at, one in enumerate(value):
            before = len(reading.problems)
            got.append(_element(self.each, one, reading))
            reading.below(f"[{at}]", before)
        reading.level -= 1
        if len(reading.problems) > start:
            return None
        return self._sized(self.held_in(got), reading)

    def _sized(self, held: Any, reading: Reading) -> Any:
        before = len(reading.problems)
        if self.limits and not self.within:
            self.checked(checks.sized, held, reading)
        return held if len(reading.problems) == before else None


class SetOf(ListOf):
    held_in = frozenset

    def _write(self, held: Any) -> Any:
        return sorted(self.each.held(one) for one in held)


def _element(reader: Reader, value: object, reading: Reading) -> Any:
    return reader.missing(reading) if value is None else reader.read(value, reading)


class MapOf(Reader):
    wanted = "a record is wanted"

    def __init__(
        self,
        owner: str,
        field: str,
        keys: Reader,
        each: Reader,
        within: str = "",
        **limits: Any,
    ) -> None:
        super().__init__(owner, field, within, **limits)
        self.limits.pop("secret", None)
        self.keys, self.each = keys, each
        keys.path = f"a key of {owner}.{field}"
        keys.within = "key."
        self.numbered = isinstance(keys, Integer)
        self.quick = self._quick
        self.write = self._write

    def _quick(self, value: Any, level: int) -> Any:
        if type(value) is not dict or level > MOST_LEVELS:
            raise Unusual
        quick = self.each.quick
        if quick is not None:
            value = {name: quick(one, level + 1) for name, one in value.items()}
        if type(self.keys) is Text:
            return value
        return {self._key(name): one for name, one in value.items()}

    def _key(self, name: str) -> Any:
        if not self.numbered:
            return self.keys.quick(name, 0) if self.keys.quick is not None else name
        if not WHOLE.fullmatch(name):
            raise Unusual
        return int(name)

    def _write(self, held: Any) -> Any:
        keys = sorted((self.keys.held(key), key) for key in held)
        return {str(name): self.each.held(held[key]) for name, key in keys}

    def read(self, value: Any, reading: Reading) -> Any:
        if not isinstance(value, Mapping):
            return self.unfit(value, reading)
        got, start = {}, len(reading.problems)
        if too_deep(reading, self.owner):
            return None
        twice(value, self.owner, reading)
        for name in sorted(value):
            before = len(reading.problems)
            is_whole = self.numbered and WHOLE.fullmatch(name) is not None
            key = self.keys.read(int(name) if is_whole else name, reading)
            one = _element(self.each, value[name], reading)
            reading.below(f"[{name if is_whole else quoted(name)}]", before)
            got[key] = one
        reading.level -= 1
        if len(reading.problems) > start:
            return None
        if self.limits and not self.within:
            self.checked(checks.sized, got, reading)
        return got if len(reading.problems) == start else None


def too_deep(reading: Reading, owner: str) -> bool:
    """Whether there are more levels than any record should have; one more is begun otherwise."""
    if reading.level < MOST_LEVELS:
        reading.level += 1
        return False
    said = f"this is more than {MOST_LEVELS} levels deep"
    reading.tell(RecordProblem("", said, owner, "", "depth", MOST_LEVELS))
    return True


def twice(record: Mapping[str, Any], owner: str, reading: Reading) -> None:
    """Note the names that stand twice in an object of a text."""
    for name in record.twice if isinstance(record, _Doubled) else ():
        said = "this name stands there twice"
        reading.tell(RecordProblem(_step(name), said, owner, name, "twice"))


@dataclass(frozen=True, slots=True)
class Entry:
    """A field of a product: its name in records, its attribute, and whether it has to be there."""

    name: str
    attribute: str
    reader: Reader
    required: bool = True
    default: object = None


class Shape(Generic[T]):
    """How one concrete product is read and written. `kind` is the name of the kind and what may stand there."""

    def __init__(
        self,
        owner: str,
        make: Callable[..., T],
        entries: Sequence[Entry] = (),
        *,
        kind: str | None = None,
        kinds: Sequence[str] = (),
        ignores_unknown: bool = False,
        writes_all: bool = False,
    ) -> None:
        self.owner, self.make, self.entries = owner, make, entries
        self.kind, self.kinds = kind, kinds
        self.ignores_unknown, self.writes_all = ignores_unknown, writes_all
        self.names = [*([kind] if kind is not None else []), *(e.name for e in entries)]
        self.is_plain = False  # nothing of it is looked at before it is made
        self.same_names = not ignores_unknown and all(
            e.name == e.attribute for e in entries
        )
        self._steps: list[tuple[str, Callable[[Any, int], Any]]] | None = None

    def from_record(self, record: object) -> T:
        """The product; a RecordError tells all that is wrong."""
        try:
            return self.quick(record, 0)
        except UNUSUAL:
            got: T = _read(self, record)
            return got

    def quick(self, record: Any, level: int) -> T:
        """The product, if its record is a plain one and in order."""
        if type(record) is not dict or level > MOST_LEVELS:
            raise Unusual
        steps = self._steps
        if steps is None:
            steps = self._begin()
        if self.is_plain:
            return self.make(**record)  # which refuses what it does not know
        fields = record.copy()
        if self.kind is not None:
            kind = fields.pop(self.kind, None)
            if kind is not None and kind not in self.kinds:
                raise Unusual
        if not self.same_names:
            fields = self._renamed(fields)
        for attribute, step in steps:
            value = fields.get(attribute)
            if value is not None:
                fields[attribute] = step(value, level + 1)
        return self.make(**fields)

    def _renamed(self, record: dict[str, Any]) -> dict[str, Any]:
        """The same with the names of attributes."""
        fields = {e.attribute: record[e.name] for e in self.entries if e.name in record}
        if len(fields) < len(record) and not self.ignores_unknown:
            raise Unusual
        return fields

    def _begin(self) -> list[tuple[str, Callable[[Any, int], Any]]]:
        """What is not taken as it is; by now all shapes are there."""
        every = [(e.attribute, e.reader.step()) for e in self.entries]
        steps = [(name, step) for name, step in every if step is not None]
        self.is_plain = self.same_names and self.kind is None and not steps
        self._steps = steps
        return steps

    def read(self, record: Mapping[str, Any], reading: Reading) -> Any:
        """The product, or None and all that is wrong."""
        start = len(reading.problems)
        if too_deep(reading, self.owner):
            return None
        twice(record, self.owner, reading)
        self._look_at_kind(record, reading)
        fields: dict[str, Any] = {}
        for entry in self.entries:
            value = record.get(entry.name)
            before = len(reading.problems)
            if value is not None:
                fields[entry.attribute] = entry.reader.read(value, reading)
            elif entry.required:
                entry.reader.missing(reading)
            reading.below(_step(entry.name), before)
        if not self.ignores_unknown:
            self._refuse_others(record, reading)
        reading.level -= 1
        return self._made(fields, reading) if len(reading.problems) == start else None

    def _made(self, fields: Mapping[str, Any], reading: Reading) -> Any:
        try:
            return self.make(**fields)
        except LimitError as error:
            named = (e.name for e in self.entries if e.reader.field == error.field)
            reading.tell(_of_limit(error, _step(next(named, error.field))))
        except CreationError as error:
            reading.tell(RecordProblem("", str(error), error.owner, "", "refused"))

    def _look_at_kind(self, record: Mapping[str, Any], reading: Reading) -> None:
        value = record.get(self.kind) if self.kind is not None else None
        if self.kind is not None and value is not None and value not in self.kinds:
            unknown_kind(self.owner, self.kind, value, self.kinds, reading)

    def _refuse_others(self, record: Mapping[str, Any], reading: Reading) -> None:
        for name in sorted(set(map(str, record)).difference(self.names)):
            meant = nearest(name, self.names)
            hint = f"; did you mean {quoted(meant)}?" if meant is not None else ""
            said = f"{self.owner} has no such field{hint}"
            reading.tell(RecordProblem(_step(name), said, self.owner, name, "unknown"))

    def written(self, product: Any) -> dict[str, Any]:
        """The record of a product."""
        record: dict[str, Any] = {}
        if self.kind is not None:
            record[self.kind] = self.kinds[0]  # «#told#»
        _put(record, product, self.entries, self.writes_all)  # «#entries#»
        return record


def _put(
    record: dict[str, Any], product: Any, entries: Sequence[Entry], writes_all: bool
) -> None:
    for entry in entries:
        value = getattr(product, entry.attribute)
        if value is None and (writes_all or entry.required):
            record[entry.name] = None
        elif entry.required or writes_all or value != entry.default:
            record[entry.name] = entry.reader.held(value)


class Kinds(Generic[T]):
    """How an abstract product is read and written: as the kind that its record tells, or, without one, by values."""

    def __init__(
        self,
        owner: str,
        kind: str,
        shapes: Mapping[type[Any], Shape[Any]],
        by_values: Shape[Any] | None = None,
        entries: Sequence[Entry] = (),
        *,
        ignores_unknown: bool = False,
        writes_all: bool = False,
    ) -> None:
        self.owner, self.kind, self.shapes = owner, kind, shapes
        self.by_values, self.entries = by_values, entries
        self.ignores_unknown, self.writes_all = ignores_unknown, writes_all
        self.known = {name: shape for shape in shapes.values() for name in shape.kinds}

    def also(
        self, keys: Sequence[str], make: Callable[..., Any], declared: Sequence[str]
    ) -> "Kinds[T]":
        """The same with the other kinds of a registry, which are made of what all kinds have."""
        whole = Kinds[T](self.owner, self.kind, self.shapes, self.by_values)
        for key in keys:
            if key not in self.known and key not in declared:
                whole.known[key] = Shape(
                    self.owner,
                    partial(make, key),
                    self.entries,
                    kind=self.kind,
                    kinds=[key],
                    ignores_unknown=self.ignores_unknown,
                )
        return whole

    def from_record(self, record: object) -> T:
        """The product; a RecordError tells all that is wrong."""
        try:
            made: T = self.quick(record, 0)
        except UNUSUAL:
            made = _read(self, record)
        return made

    def quick(self, record: Any, level: int) -> Any:
        """The product, if its record is a plain one and in order."""
        if self.by_values is not None and self.kind not in record:
            return self.by_values.quick(record, level)
        return self.known[record[self.kind]].quick(record, level)

    def read(self, record: Mapping[str, Any], reading: Reading) -> Any:
        """The product, or None and all that is wrong."""
        kind = record.get(self.kind)
        if kind is None and self.by_values is not None:
            return self.by_values.read(record, reading)
        shape = self.known.get(kind) if isinstance(kind, str) else None
        if shape is None:  # «#kind#»
            return unknown_kind(self.owner, self.kind, kind, self.known, reading)
        return shape.read(record, reading)

    def written(self, product: Any) -> dict[str, Any]:
        """The record of a product."""
        shape = self.shapes.get(type(product))
        if shape is not None:
            return shape.written(product)
        record = {self.kind: product.key}  # a kind that is none of the declared
        _put(record, product, self.entries, self.writes_all)
        return record


def _read(shape: Any, record: object) -> Any:
    """Name by name, to tell all that is wrong."""
    if not isinstance(record, Mapping):
        said = f"{shape.owner} is {shown(record)}; a record is wanted"
        wrong = RecordProblem("", said, shape.owner, "", "type", None, record)
        raise RecordError(shape.owner, [wrong])
    reading = Reading()
    got = shape.read(record, reading)
    if reading.problems:
        raise RecordError(shape.owner, reading.told()) from None
    return got


def unknown_kind(
    owner: str, name: str, kind: object, known: Any, reading: Reading
) -> Any:
    """A kind is missing, or is none of those that there are."""
    said = f"{owner}.{name} is missing"
    limit = "missing"
    if kind is not None:
        words = ", ".join(map(quoted, known))
        said = f"{owner}.{name} is {shown(kind)}; one of {words} is wanted"
        limit = "kind"
    reading.tell(RecordProblem(_step(name), said, owner, name, limit, None, kind))
    return None


def of_kind(made: object, kind: type[T]) -> T:
    """What a factory by values makes, if it is of the kind that its record tells."""
    if not isinstance(made, kind):
        raise RefusedError(kind.__name__, "such values make another kind")
    return made


def never_made(owner: str) -> RefusedError:
    """Of a kind that its factory never makes."""
    return RefusedError(owner, "nothing makes it")


def nearest(name: str, known: Sequence[str]) -> str | None:
    """The known name that is likely meant: the same but for case, or the one that takes the fewest changes."""
    for each in known:
        if each.lower() == name.lower():
            return each
    if len(name) > FARTHEST or not known:
        return None
    best = min(known, key=lambda each: _distance(name, each))
    return best if _distance(name, best) <= max(len(name) // 3, 1) else None


def _distance(one: str, other: str) -> int:
    """How many code points have to be put in, dropped or replaced (Levenshtein)."""
    row = list(range(len(other) + 1))
    for at, char in enumerate(one, 1):
        last, row[0] = row[0], at
        for place, second in enumerate(other, 1):
            fewest = min(row[place], row[place - 1]) + 1
            last, row[place] = row[place], min(fewest, last + (char != second))
    return row[-1]


def shown(value: object) -> str:
    """What was found, in a message."""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, str):
        return quoted(value)
    if isinstance(value, float):
        return real_text(value)
    if isinstance(value, int):
        return _digits(value)
    if isinstance(value, Mapping):
        return "a record"
    if isinstance(value, (list, tuple)):
        return "a list"
    return "null" if value is None else f"of type {type(value).__name__}"


def _digits(number: int) -> str:
    return str(number) if abs(number) < 10**80 else "a number of many digits"


def create_all(
    records: object, read: Callable[[object], T]
) -> tuple[list[T], list[RecordProblem]]:
    """The products that a list of records makes, and what is wrong with the others; nothing stops at the first."""
    if not isinstance(records, (list, tuple)):
        said = f"the records are {shown(records)}; a list is wanted"
        return [], [RecordProblem("", said, "", "", "type", None, records)]
    made: list[T] = []
    problems: list[RecordProblem] = []
    for number, record in enumerate(records):
        try:
            made.append(read(record))
        except RecordError as error:
            problems += [_numbered(number, each) for each in error.problems]
    return made, problems


def _numbered(number: int, problem: RecordProblem) -> RecordProblem:
    apart = "." if problem.path and not problem.path.startswith("[") else ""
    return _at(f"[{number}]{apart}", problem, number)


def parse(text: str | bytes) -> Any:
    """The record of a JSON text (RFC 8259). Names that stand twice are told by whoever reads it."""
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8")
        return _loaded(text)
    except RecursionError:
        said = f"this is more than {MOST_LEVELS} levels deep"
    except UnicodeDecodeError as error:
        said = f"byte {error.start} is no UTF-8"
    except json.JSONDecodeError as error:
        said = f"line {error.lineno}, column {error.colno}: {error.msg}"
    except ValueError as error:
        said = str(error)
    raise RecordError("JSON", [RecordProblem("", said, "JSON", "", "text")])


def _loaded(text: str) -> Any:
    """Only where there seem to be more names in the text than in its objects does one look for those that stand twice."""
    sizes: list[int] = []

    def counted(record: dict[str, Any]) -> dict[str, Any]:
        sizes.append(len(record))
        return record

    whole = json.loads(text, object_hook=counted, parse_constant=_refuse)
    if _all_stand_once(text, sum(sizes)):
        return whole
    return json.loads(text, object_pairs_hook=_object, parse_constant=_refuse)


def _all_stand_once(text: str, names: int) -> bool:
    """Whether a text has no more names than its objects. What looks like one within a string may say no, and never yes."""
    if text.count(":") == names:
        return True
    if any(blank in text and f"{blank}:" in text for blank in " \n\t\r"):
        return len(NAME.findall(text)) == names
    return text.count('":') == names


def _object(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    whole = dict(pairs)
    if len(whole) == len(pairs):  # «#doubled#»
        return whole
    doubled = _Doubled(whole)
    names = [name for name, _ in pairs]
    doubled.twice = sorted({name for name in names if names.count(name) > 1})
    return doubled


def _refuse(constant: str) -> Any:
    raise ValueError(f"{constant} is no number of JSON")


def to_text(record: object) -> str:
    """The JSON text of a record: no blanks, names in their order, numbers as ECMAScript writes them."""
    if isinstance(record, Mapping):
        parts = (f"{_string(str(k))}:{to_text(v)}" for k, v in record.items())
        return f"{{{','.join(parts)}}}"
    if isinstance(record, (list, tuple)):
        return f"[{','.join(map(to_text, record))}]"
    if isinstance(record, float) and math.isfinite(record):
        return real_text(record).removesuffix(".0")
    return _string(record)


def _string(value: object) -> str:
    return json.dumps(value, ensure_ascii=False, allow_nan=False)
