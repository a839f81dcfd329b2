"""From facts to found types: what spelled types mean, which types are kinds of another, what a type takes from its bases."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from urform.existing.found import (
    LIST,
    MAP,
    NAMED,
    NOTHING,
    SET,
    WORDS,
    Found,
    FoundField,
    FoundType,
    Spot,
    Type,
    nothing,
)
from urform.existing.losses import Loss
from urform.existing.naming import lower_snake
from urform.existing.sources import trees
from urform.existing.sources.facts import (
    CHOICE,
    FUNCTION,
    LIST_OF,
    LITERAL,
    NULL,
    NUMBER,
    POINTER,
    RECORD,
    UNION,
    UNKNOWN,
    Constant,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)

FEWEST_KINDS = 2  # of a base that could be made by itself
INFERRED = "inferred"  # of a default; the word is the scalar
_INFERRED: dict[type, str] = {str: "text", bool: "boolean", int: "integer", float: "real"}
LONGEST_NAME = 60  # characters of a type in a message
DEEPEST = 12  # levels of types within each other


def meaning(facts: Sequence[TypeFact], spellings: Spellings, given: Mapping[str, str]) -> Found:
    """The found types of one language. Of two types of one name the first counts: they cannot be told apart by what uses them."""
    return Found(tuple(_Meaning(facts, spellings, given).types()))


class _Meaning:
    def __init__(self, facts: Sequence[TypeFact], spellings: Spellings, given: Mapping[str, str]) -> None:
        self._facts: dict[str, TypeFact] = {}
        for fact in facts:
            self._facts.setdefault(fact.name, fact)
        self._spellings = spellings
        self._given = given
        self._below: dict[str, list[str]] = {}
        for fact in self._facts.values():
            for base in fact.bases:
                if base in self._facts and base != fact.name:
                    self._below.setdefault(base, []).append(fact.name)
        self._made = {
            fact.name for fact in self._facts.values() if not fact.is_base and self._fields(fact)
        }  # by themselves
        self._kinds = self._all_kinds()
        self._of_kind = {kind for kinds in self._kinds.values() for kind in kinds}
        self._tag_fields = {base: self._tag_field(kinds) for base, kinds in self._kinds.items()}
        self._tag_of = {
            kind: field.type.word
            for base, kinds in self._kinds.items()
            for kind in kinds
            for field in self._fields(self._facts[kind])
            if field.name == self._tag_fields[base]
        }

    def types(self) -> Iterator[FoundType]:
        """Records that have fields, and bases; choices stand where they are used."""
        for fact in self._facts.values():
            if fact.form == RECORD and fact.name not in self._given:
                kinds = self._kinds.get(fact.name, ())
                if kinds or fact.name in self._of_kind or fact.name in self._made:
                    yield self._type(fact, kinds)

    # --- kinds ---

    def _all_kinds(self) -> dict[str, tuple[str, ...]]:
        """The outermost bases, each with the kinds that can be made. A type is a kind of one base only."""
        kinds: dict[str, tuple[str, ...]] = {}
        taken: set[str] = set()
        for fact in sorted(self._facts.values(), key=lambda fact: not fact.kinds):  # named ones first
            inner = any(base in self._facts for base in fact.bases)
            if fact.form != RECORD or inner:
                continue
            leaves = fact.kinds or tuple(self._leaves(fact.name, {fact.name}))
            free = tuple(each for each in leaves if self._is_record(each) and each not in taken)
            if fact.kinds and free != leaves:
                continue
            leaves = free
            if leaves and (fact.is_base or len(leaves) >= FEWEST_KINDS):
                kinds[fact.name] = leaves
                taken.update(leaves)
        return kinds

    def _is_record(self, name: str) -> bool:
        """Whether it is one that can be made."""
        return name in self._facts and self._facts[name].form == RECORD and not self._facts[name].kinds

    def _tag_field(self, kinds: tuple[str, ...]) -> str:
        """The field that has a word of its own in each kind; empty where there is none."""
        words: dict[str, set[str]] = {}
        for kind in kinds:
            for field in self._fields(self._facts[kind]):
                if field.type.name == LITERAL:
                    words.setdefault(field.name, set()).add(field.type.word)
        return next((name for name, each in words.items() if len(each) == len(kinds)), "")

    def _leaves(self, name: str, seen: set[str]) -> Iterator[str]:
        for each in self._below.get(name, ()):
            if each in seen:
                continue
            seen.add(each)
            if self._below.get(each):
                yield from self._leaves(each, seen)
            elif self._facts[each].form == RECORD:
                yield each

    def _type(self, fact: TypeFact, kinds: tuple[str, ...]) -> FoundType:
        losses = []
        if fact.parameters:
            losses.append(Loss("generic", f"type parameters {', '.join(fact.parameters)}"))
        if kinds and not fact.is_base:
            losses.append(Loss("made-base", f"that {fact.name} can be made, and not only its kinds"))
        fields = () if kinds else tuple(self._field(each, fact) for each in self._fields(fact))
        return FoundType(
            fact.name,
            fact.name,
            fields,
            Spot(fact.file, fact.line, fact.name),
            fact.doc,
            tuple(losses),
            kinds=kinds,
            tag_field=self._tag_fields.get(fact.name, ""),
            tag=self._tag_of.get(fact.name, ""),
            mutable=fact.mutable or any(self._facts[each].mutable for each in kinds),
        )

    # --- fields ---

    def _fields(self, fact: TypeFact) -> list[FieldFact]:
        """Its own and those of its bases; its own count where both have one."""
        fields: dict[str, FieldFact] = {}
        self._collect(fact, fields, set())
        return list(fields.values())

    def _collect(self, fact: TypeFact, fields: dict[str, FieldFact], seen: set[str]) -> None:
        seen.add(fact.name)
        for base in (*fact.bases, *fact.parts):
            if base in self._facts and base not in seen:
                self._collect(self._facts[base], fields, seen)
        for field in fact.fields:
            fields[field.name] = field

    def _field(self, field: FieldFact, owner: TypeFact) -> FoundField:
        spelled = field.type if field.type.name != UNKNOWN else self._of_default(field)
        type_ = self._meant(spelled, owner, field.name, 0)
        default = tuple(_value(each, type_) for each in field.default)
        is_computed = field.is_computed or None in default
        losses = (Loss("computed-default", "a default that is computed"),) if is_computed else ()
        optional = field.optional or type_.or_null or bool(field.default) or is_computed
        return FoundField(
            field.name,
            replace(type_, or_null=False) if type_.kind != NOTHING else type_,
            not optional,
            Spot(field.file, field.line, f"{owner.name}.{field.name}"),
            field.doc,
            () if None in default else default,
            losses,
        )

    def _of_default(self, field: FieldFact) -> Spelled:
        """The type of a field that has none written, by its default."""
        default = field.default[0] if field.default else None
        return next(
            (Spelled(INFERRED, word=_INFERRED[kind]) for kind in _INFERRED if type(default) is kind),
            field.type,
        )

    # --- types ---

    def _meant(self, spelled: Spelled, owner: TypeFact, name: str, depth: int) -> Type:
        """What a spelled type means; a leading path does not matter."""
        if depth > DEEPEST:
            return nothing("any", "types too deep within each other")
        bare = spelled.name.replace("::", ".").rpartition(".")[2]
        known = self._spellings
        if spelled.name in self._given or bare in self._given:
            return Type(self._given.get(spelled.name) or self._given[bare])
        if spelled.name in (UNION, LITERAL, NUMBER):
            return self._union(spelled.of or (spelled,), owner, name, depth)
        if spelled.name == INFERRED:
            return Type(spelled.word)
        if spelled.name == NULL:
            return nothing("any", "only null")
        if spelled.name == UNKNOWN or bare in known.any:
            return nothing("any", "any value" if spelled.name else "what has no type")
        if spelled.name == FUNCTION or bare in known.functions:
            return nothing("function", "a function")
        if bare in known.tuples:
            return nothing("tuple", "a type for each of several places")
        if spelled.name == POINTER:
            return nothing("raw-pointer", "a pointer of which nobody says who owns it")
        if bare in known.maybe and spelled.of:
            return replace(self._meant(spelled.of[0], owner, name, depth + 1), or_null=True)
        if bare in known.plain and spelled.of:
            return self._meant(spelled.of[0], owner, name, depth + 1)
        if spelled.name == LIST_OF or bare in known.lists | known.sets | known.maps:
            return self._collection(bare, spelled.of, owner, name, depth)
        if spelled.name in known.scalars or (bare in known.scalars and bare not in self._facts):
            return Type(known.scalars.get(spelled.name) or known.scalars[bare])
        return self._named(bare, spelled, owner, name, depth)

    def _named(self, bare: str, spelled: Spelled, owner: TypeFact, name: str, depth: int) -> Type:
        fact = self._facts.get(bare)
        if bare in owner.parameters:
            return nothing("generic", f"type parameter {bare}")
        if fact is None or (bare == owner.name and bare != spelled.name):  # another one of that name
            return nothing(
                "outside-type", f"{_cut(spelled.name)}, which is not among what was read", _cut(spelled.name)
            )
        if fact.form == CHOICE:
            words = tuple(lower_snake(word) for word in fact.words)
            return Type(WORDS, name=fact.name, words=words, doc=fact.doc)
        if fact.name in self._kinds or fact.name in self._of_kind or fact.name in self._made:
            return Type(NAMED, name=fact.name)
        if fact.of is not None:
            return self._meant(fact.of, owner, name, depth + 1)
        return nothing("outside-type", f"{spelled.name}, which has no fields", spelled.name)

    def _collection(self, bare: str, of: tuple[Spelled, ...], owner: TypeFact, name: str, depth: int) -> Type:
        known = self._spellings
        kind = MAP if bare in known.maps else SET if bare in known.sets else LIST
        if len(of) < (2 if kind == MAP else 1):
            return nothing("any", f"a {kind} of any values")
        if kind == MAP and self._meant(of[0], owner, name, depth + 1).kind != "text":
            return nothing("map-keys", f"a map by {of[0].name}")
        element = self._meant(of[-1] if kind == MAP else of[0], owner, name, depth + 1)
        if element.kind == NOTHING:
            (loss,) = element.losses[:1]
            return nothing(loss.slug, f"a {kind} of {loss.text}", loss.of)
        losses = (Loss("null", "absent ones among the elements"),) if element.or_null else ()
        return Type(kind, of=replace(element, or_null=False), losses=losses)

    def _union(self, of: tuple[Spelled, ...], owner: TypeFact, name: str, depth: int) -> Type:
        some = [each for each in of if each.name != NULL]
        or_null = len(some) < len(of)
        if some and all(each.name == LITERAL for each in some):
            words = tuple(dict.fromkeys(each.word for each in some))
            return Type(WORDS, name=name, words=words, or_null=or_null)
        if some and all(each.name == NUMBER for each in some):
            numbers = [trees.number(each.word) for each in some]
            if all(isinstance(each, int) for each in numbers):
                return Type("integer", limits={"one_of": list(dict.fromkeys(numbers))}, or_null=or_null)
        if len(some) == 1 and some[0].name not in (UNION, LITERAL, NUMBER):
            return replace(self._meant(some[0], owner, name, depth + 1), or_null=or_null)
        names = " or ".join(each.word or each.name for each in some)
        return nothing("union", _cut(names) or "only null")


def _cut(name: str) -> str:
    """A type as it is spelled, so long that one still reads it."""
    return name if len(name) <= LONGEST_NAME else f"{name[: LONGEST_NAME - 1]}…"


def _value(default: object, type_: Type) -> object:
    """A literal, or the word of a constant; None of a constant that is no word of the type."""
    if not isinstance(default, Constant):
        return default
    word = lower_snake(default.name)
    return word if type_.kind == WORDS and word in type_.words else None
