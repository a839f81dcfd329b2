"""Copies of an object made by a method of its own, and the containers that such a copy shares with it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from urform.dataclasses import dataclass
from urform.existing.sources import trees
from urform.existing.sources.code_facts import CopyFact, Handed, Region
from urform.existing.sources.facts import LIST_OF, UNION, FieldFact, Spelled, TypeFact
from urform.existing.sources.trees import Node, text

_ARGUMENTS = frozenset(("argument_list", "arguments", "literal_value"))
_WRAPS = frozenset(
    ("parenthesized_expression", "cast_expression", "expression_list", "literal_element", "as_expression")
)
_PAIRS = frozenset(("pair", "keyword_argument", "keyed_element"))
_WRITES = frozenset(("assignment", "assignment_expression", "assignment_statement", "augmented_assignment"))
_MAKES = frozenset(
    ("call", "call_expression", "method_invocation", "object_creation_expression", "new_expression")
)
_CALLS = frozenset(("call", "call_expression", "method_invocation"))
_CHANGES = frozenset(
    "add addAll put putAll remove removeAll clear append extend insert push pop set setdefault update discard sort fill "
    "splice delete unshift shift computeIfAbsent merge popitem addFirst addLast".split()
)


@dataclass(frozen=True, slots=True)
class Method:
    """A method: its name, the type that has it, the name by which it knows its object, its body, and where to look for
    changes of that object."""

    name: str
    type: str
    me: str
    node: Node
    body: Node
    scope: Node
    has_constructor: bool = False


@dataclass(frozen=True, slots=True)
class CopyWords:
    """How a language copies. `methods` are those of a file; `field_of` the object and the field of an access to one."""

    names: frozenset[str]
    containers: frozenset[str]  # types that can be changed
    methods: Callable[[Node], Iterator[Method]]
    field_of: Callable[[Node], tuple[str, str] | None]
    made: Callable[[Node], str]
    is_public: Callable[[str], bool] = lambda _: (
        False
    )  # whether clients reach a field, and can change what is in it
    keeps: bool = False  # a construction keeps its arguments as they are: there are no constructors


def copies(root: Node, file: str, types: Sequence[TypeFact], words: CopyWords) -> Iterator[CopyFact]:
    """The copying methods that hand over containers of their object as they are."""
    known = {fact.name: fact for fact in types}
    for method in words.methods(root):
        fact = known.get(method.type)
        if method.name not in words.names or fact is None:
            continue
        mutable = {field.name for field in fact.fields if _is_container(field, words)}
        mutable -= _renewed(method, mutable, words)
        handed = tuple(_handed(method, mutable, words)) if mutable else ()
        if handed:
            names = {each.field for each in handed}
            changed = tuple(_changed(method, names, words))
            where = Region(file, trees.line(method.node), int(method.node.end_point[0]) + 1)
            public = tuple(sorted(filter(words.is_public, names)))
            yield CopyFact(where, method.type, method.name, handed, changed, public)


def _renewed(method: Method, names: set[str], words: CopyWords) -> set[str]:
    """Fields that the type copies before it changes them: `legs = new ArrayList<>(legs)`."""
    renewed = set()
    for node in _every(method.scope):
        if node.type in _WRITES and (name := _own(node.child_by_field_name("left"), method, names, words)):
            right = node.child_by_field_name("right")
            inside = (each for each in _every(right)) if right is not None and right.type in _MAKES else ()
            if any(_own(each, method, {name}, words) for each in inside):
                renewed.add(name)
    return renewed


def _kept(method: Method, names: set[str], words: CopyWords) -> set[str]:
    """Fields that get what a constructor was given, as it is. Of a type without a constructor: all of them."""
    kept = set()
    for node in _every(method.scope):
        if node.type in _WRITES and (name := _own(node.child_by_field_name("left"), method, names, words)):
            right = node.child_by_field_name("right")
            if right is not None and right.type == "identifier":
                kept.add(name)
    return kept


def _is_container(field: FieldFact, words: CopyWords) -> bool:
    return _can_change(field.type, words)


def _can_change(spelled: Spelled, words: CopyWords) -> bool:
    if spelled.name == UNION:
        return any(_can_change(each, words) for each in spelled.of)
    return spelled.name == LIST_OF or spelled.name in words.containers


def _own(node: Node | None, method: Method, names: set[str], words: CopyWords) -> str:
    """The field of the method's own object that a node reads; empty where it reads none of these."""
    access = words.field_of(node)
    if access is None or access[0] != method.me:
        return ""
    name = access[1].strip("_")
    return name if name in names else ""


def _handed(method: Method, mutable: set[str], words: CopyWords) -> Iterator[Handed]:
    kept = mutable if words.keeps or not method.has_constructor else _kept(method, mutable, words)
    for node in _every(method.body):
        name = _own(node, method, mutable, words)
        if name and _goes_on(node, method, words, is_kept=name in kept):
            yield Handed(name, trees.line(node))


def _goes_on(node: Node, method: Method, words: CopyWords, *, is_kept: bool) -> bool:
    """Whether a value goes into another object as it is: an argument of its construction, or one of its fields."""
    inner, outer = node, node.parent
    while outer is not None and outer.type in _WRAPS:
        inner, outer = outer, outer.parent
    if outer is None:
        return False
    if outer.type in _PAIRS:
        if outer.named_children[0].id == inner.id:
            return False
        return outer.type != "keyword_argument" or (
            is_kept and words.made(outer.parent.parent) == method.type
        )
    if outer.type in _ARGUMENTS:
        return is_kept and words.made(outer.parent) == method.type
    if outer.type in _WRITES:
        left, right = outer.child_by_field_name("left"), outer.child_by_field_name("right")
        target = words.field_of(
            left.named_children[0] if left is not None and left.type == "expression_list" else left
        )
        return right is not None and right.id == inner.id and target is not None and target[0] != method.me
    return False


def _changed(method: Method, names: set[str], words: CopyWords) -> Iterator[Handed]:
    """Where the type changes what is in such a field."""
    for node in _every(method.scope):
        if node.type in _CALLS:
            function = node.child_by_field_name("function") or node
            inner = function.child_by_field_name("object") or function.child_by_field_name("operand")
            called = function.child_by_field_name("attribute") or function.child_by_field_name("property")
            called = called or function.child_by_field_name("field") or function.child_by_field_name("name")
            if inner is not None and text(called) in _CHANGES and (name := _own(inner, method, names, words)):
                yield Handed(name, trees.line(node))
        elif node.type in _WRITES:
            left = node.child_by_field_name("left")
            left = left.named_children[0] if left is not None and left.type == "expression_list" else left
            if left is not None and left.type in (
                "subscript",
                "subscript_expression",
                "index_expression",
                "array_access",
            ):
                held = left.child_by_field_name("object") or left.named_children[0]
                if name := _own(held, method, names, words):
                    yield Handed(name, trees.line(node))
            elif (
                left is not None
                and "append(" in text(node.child_by_field_name("right"))
                and (name := _own(left, method, names, words))
            ):
                yield Handed(name, trees.line(node))


def _every(root: Node) -> Iterator[Node]:
    waiting = [root]
    while waiting:
        node = waiting.pop()
        yield node
        waiting.extend(reversed(node.named_children))
