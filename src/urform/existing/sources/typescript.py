"""Types in TypeScript: interfaces, classes, aliases of objects and unions, enumerations."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.facts import (
    ALIAS,
    CHOICE,
    FUNCTION,
    LIST_OF,
    LITERAL,
    NULL,
    NUMBER,
    RECORD,
    UNION,
    UNKNOWN,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)
from urform.existing.sources.literals import LiteralWords, literal
from urform.existing.sources.trees import Node, text

GRAMMAR = ("tree_sitter_typescript", "language_typescript")
SPELLINGS = Spellings(
    scalars={"string": "text", "number": "real", "boolean": "boolean"},
    lists=frozenset(("Array", "ReadonlyArray")),
    sets=frozenset(("Set", "ReadonlySet")),
    maps=frozenset(("Map", "ReadonlyMap", "Record")),
    plain=frozenset(("Readonly", "NonNullable")),
    any=frozenset(("any", "unknown", "object", "Object")),
    functions=frozenset(("Function",)),
    tuples=frozenset(("()",)),
)
_CLASSES = ("class_declaration", "abstract_class_declaration")
_BODIES = frozenset(("statement_block",))
_DOCS = (("comment",), ("/**",))
_EMPTY = re.compile(r"(null|undefined|\[\]|\{\}|new (Map|Set)(<[^(]*>)?\(\))$")
_LITERALS = LiteralWords(_EMPTY, "string", "member_expression")
_NULLS = ("null", "undefined", "void")


def facts(root: Node, _: str) -> Iterator[TypeFact]:
    """All types of a file that have names; none of those that a function has."""
    for node in trees.everywhere(root, *_READ, but_in=_BODIES):
        yield _READ[node.type](node)


def _enum(node: Node) -> TypeFact:
    constants = trees.named(node.child_by_field_name("body"), "property_identifier", "enum_assignment")
    words = tuple(text(each.child_by_field_name("name") or each) for each in constants)
    return TypeFact(_name(node), CHOICE, trees.line(node), doc=_doc(node), words=words)


def _name(node: Node) -> str:
    return text(node.child_by_field_name("name")).strip("\"'")


def _doc(node: Node) -> str:
    outer = node.parent if node.parent is not None and node.parent.type == "export_statement" else node
    return trees.doc_before(outer, *_DOCS).partition(" @")[0]


def _parameters(node: Node) -> tuple[str, ...]:
    return tuple(
        _name(each) for each in trees.named(node.child_by_field_name("type_parameters"), "type_parameter")
    )


def _record(node: Node) -> TypeFact:
    body = node.child_by_field_name("body")
    is_class = node.type in _CLASSES
    bases = tuple(_bases(node))
    return TypeFact(
        _name(node),
        RECORD,
        trees.line(node),
        doc=_doc(node),
        fields=tuple(_class_fields(body) if is_class else _properties(body)),
        bases=bases if is_class else (),
        parts=() if is_class else bases,
        is_base=node.type == "abstract_class_declaration",
        mutable=is_class
        and any(text(each).startswith("set ") for each in trees.named(body, "method_definition")),
        parameters=_parameters(node),
    )


def _bases(node: Node) -> Iterator[str]:
    for clause in trees.everywhere(node, "extends_type_clause", "extends_clause", "implements_clause"):
        if clause.parent in (node, trees.first(node, "class_heritage")):
            for each in trees.named(clause, "type_identifier", "identifier", "generic_type"):
                yield _spelled(each).name


def _alias(node: Node) -> TypeFact:
    """An alias of an object is a record; one of a union of names is a base of those."""
    value = node.child_by_field_name("value")
    name, at, doc = _name(node), trees.line(node), _doc(node)
    if value is not None and value.type == "object_type":
        return TypeFact(
            name, RECORD, at, doc=doc, fields=tuple(_properties(value)), parameters=_parameters(node)
        )
    spelled = _spelled(value)
    if (
        spelled.name == UNION
        and len(spelled.of) > 1
        and not any(each.of or each.word or each.name in _NOT_NAMES for each in spelled.of)
    ):
        return TypeFact(
            name, RECORD, at, doc=doc, is_base=True, kinds=tuple(each.name for each in spelled.of)
        )
    return TypeFact(name, ALIAS, at, doc=doc, of=spelled, parameters=_parameters(node))


_NOT_NAMES = {*SPELLINGS.scalars, *SPELLINGS.any, NULL, UNKNOWN}


def _properties(body: Node | None) -> Iterator[FieldFact]:
    for each in trees.named(body, "property_signature"):
        yield _field(each, each.child_by_field_name("type"), None)


def _class_fields(body: Node | None) -> Iterator[FieldFact]:
    """Fields that are declared, and parameters of the constructor that are fields; what the constructor takes is mandatory."""
    constructor = next(
        (each for each in trees.named(body, "method_definition") if _name(each) == "constructor"), None
    )
    parameters = (
        trees.named(constructor.child_by_field_name("parameters"), "required_parameter", "optional_parameter")
        if constructor
        else []
    )
    taken = {text(each.child_by_field_name("pattern")): each for each in parameters}
    for each in trees.named(body, "public_field_definition"):
        if text(each).startswith("static ") or " static " in text(each).partition(_name(each))[0]:
            continue
        field = _field(each, each.child_by_field_name("type"), each.child_by_field_name("value"))
        parameter = taken.get(field.name)
        if parameter is not None:
            field = _field(each, each.child_by_field_name("type"), parameter.child_by_field_name("value"))
        yield field
    for name, each in taken.items():
        if trees.first(each, "accessibility_modifier") is not None or "readonly" in text(each).split(name)[0]:
            yield _field(each, each.child_by_field_name("type"), each.child_by_field_name("value"), name)


def _field(node: Node, type_: Node | None, value: Node | None, name: str = "") -> FieldFact:
    spelled = (
        _spelled(type_.named_children[0]) if type_ is not None and type_.named_children else Spelled(UNKNOWN)
    )
    if spelled.name == UNKNOWN and value is not None and value.type == "new_expression":
        spelled = _made(value)
    default, is_literal = literal(value, _LITERALS)
    return FieldFact(
        (name or _name(node)).strip("_#"),
        spelled,
        trees.line(node),
        trees.doc_before(node, *_DOCS),
        optional=node.type == "optional_parameter"
        or any(each.type == "?" for each in node.children)
        or value is not None,
        default=default,
        is_computed=not is_literal,
    )


def _spelled(node: Node | None) -> Spelled:
    if node is None:
        return Spelled(UNKNOWN)
    if node.type in ("parenthesized_type", "readonly_type"):
        return _spelled(node.named_children[-1])
    if node.type == "union_type":
        return Spelled(UNION, tuple(_flat(node)))
    if node.type == "function_type":
        return Spelled(FUNCTION)
    if node.type == "tuple_type":
        return Spelled("()")
    if node.type == "object_type":
        return _of_object(node)
    if node.type == "array_type":
        return Spelled(LIST_OF, (_spelled(node.named_children[0]),))
    if node.type == "literal_type":
        return _of_literal(node)
    if node.type == "generic_type":
        arguments: Sequence[Node] = getattr(trees.first(node, "type_arguments"), "named_children", ())
        return Spelled(text(node.child_by_field_name("name")), tuple(_spelled(each) for each in arguments))
    if node.type in ("type_identifier", "predefined_type", "identifier", "nested_type_identifier"):
        name = text(node)
        return Spelled(NULL if name in _NULLS else name)
    return Spelled(" ".join(text(node).split()))


def _made(node: Node) -> Spelled:
    """The type of what `new` makes."""
    arguments: Sequence[Node] = getattr(trees.first(node, "type_arguments"), "named_children", ())
    return Spelled(text(node.child_by_field_name("constructor")), tuple(_spelled(each) for each in arguments))


def _of_literal(node: Node) -> Spelled:
    inner = node.named_children[0]
    if inner.type == "string":
        return Spelled(LITERAL, word=text(inner)[1:-1])
    if inner.type in ("number", "unary_expression"):
        return Spelled(NUMBER, word=text(inner))
    return Spelled(NULL if text(inner) in _NULLS else text(inner))


def _of_object(node: Node) -> Spelled:
    """An object with any names is a map."""
    members = node.named_children
    if len(members) == 1 and members[0].type == "index_signature":
        value = members[0].child_by_field_name("type")
        return Spelled(
            "Map", (_spelled(members[0].child_by_field_name("index_type")), _spelled(value.named_children[0]))
        )
    return Spelled(" ".join(text(node).split()))


def _flat(node: Node) -> Iterator[Spelled]:
    for each in node.named_children:
        if each.type != "comment":
            spelled = _spelled(each)
            yield from spelled.of if spelled.name == UNION else (spelled,)


_READ = {
    "interface_declaration": _record,
    **dict.fromkeys(_CLASSES, _record),
    "type_alias_declaration": _alias,
    "enum_declaration": _enum,
}
