"""Types in Java: classes, records, enumerations, and interfaces with kinds."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.existing.sources import trees
from urform.existing.sources.facts import (
    CHOICE,
    LIST_OF,
    RECORD,
    UNKNOWN,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)
from urform.existing.sources.literals import LiteralWords, literal
from urform.existing.sources.trees import Node, text

GRAMMAR = ("tree_sitter_java", "language")
SPELLINGS = Spellings(
    scalars={
        **dict.fromkeys(("String", "CharSequence"), "text"),
        **dict.fromkeys(
            (
                "int",
                "long",
                "short",
                "byte",
                "Integer",
                "Long",
                "Short",
                "Byte",
                "OptionalInt",
                "OptionalLong",
            ),
            "integer",
        ),
        **dict.fromkeys(("double", "float", "Double", "Float", "OptionalDouble"), "real"),
        **dict.fromkeys(("boolean", "Boolean"), "boolean"),
        "LocalDate": "date",
        "Instant": "instant",
        "LocalTime": "time",
        "Duration": "duration",
        "BigDecimal": "decimal",
        "UUID": "uuid",
        "URI": "uri",
    },
    lists=frozenset(("List", "ArrayList", "Collection", "Iterable", "LinkedList", "ImmutableList")),
    sets=frozenset(("Set", "HashSet", "LinkedHashSet", "TreeSet", "SortedSet", "ImmutableSet")),
    maps=frozenset(("Map", "HashMap", "LinkedHashMap", "TreeMap", "SortedMap", "ImmutableMap")),
    maybe=frozenset(("Optional",)),
    any=frozenset(("Object",)),
)
_MAYBE = ("OptionalInt", "OptionalLong", "OptionalDouble")
_EMPTY = re.compile(
    r"null$|new [\w.]*(List|Map|Set)<[^(]*>\(\)|(List|Map|Set|Immutable\w+)\.of\(\)|Collections\.empty|Optional\w*\.empty\(\)"
)
_TYPES = ("class_declaration", "record_declaration", "interface_declaration", "enum_declaration")
_BODIES = frozenset(("block", "constructor_body"))
_LITERALS = LiteralWords(_EMPTY, "string_literal", "field_access")
_DOCS = (("block_comment", "line_comment"), ("/**",))


def facts(root: Node, _: str) -> Iterator[TypeFact]:
    """All types of a file, inner ones too."""
    for node in trees.everywhere(root, *_TYPES, but_in=_BODIES):
        if node.type != "enum_declaration":
            yield _type(node)
            continue
        constants = trees.named(node.child_by_field_name("body"), "enum_constant")
        words = tuple(text(each.child_by_field_name("name")) for each in constants)
        yield TypeFact(_name(node), CHOICE, trees.line(node), doc=trees.doc_before(node, *_DOCS), words=words)


def _name(node: Node) -> str:
    return text(node.child_by_field_name("name"))


def _type(node: Node) -> TypeFact:
    modifiers = text(trees.first(node, "modifiers")).split()
    body = node.child_by_field_name("body")
    is_interface = node.type == "interface_declaration"
    parameters = trees.named(node.child_by_field_name("type_parameters"), "type_parameter")
    permitted = trees.first(node, "permits")
    return TypeFact(
        _name(node),
        RECORD,
        trees.line(node),
        doc=trees.doc_before(node, *_DOCS).partition(" @")[0],
        fields=tuple(_components(node) if node.type == "record_declaration" else _fields(body)),
        bases=tuple(_bases(node)),
        is_base=is_interface or "abstract" in modifiers or "sealed" in modifiers,
        kinds=tuple(_last(text(each)) for each in trees.everywhere(permitted, "type_identifier"))
        if permitted
        else (),
        mutable=any(_is_setter(each) for each in trees.named(body, "method_declaration")),
        parameters=tuple(text(each).split()[0] for each in parameters),
    )


def _last(name: str) -> str:
    return name.rpartition(".")[2]


def _bases(node: Node) -> Iterator[str]:
    for list_ in trees.named(node, "superclass", "super_interfaces", "extends_interfaces"):
        types = (
            list_.named_children
            if list_.type == "superclass"
            else [each for inner in list_.named_children for each in inner.named_children]
        )
        for each in types:
            yield _spelled(each).name


def _is_setter(method: Node) -> bool:
    name = _name(method)
    parameters = trees.named(method.child_by_field_name("parameters"), "formal_parameter")
    return name.startswith("set") and name[3:4].isupper() and len(parameters) == 1


def _components(record: Node) -> Iterator[FieldFact]:
    for each in trees.named(record.child_by_field_name("parameters"), "formal_parameter"):
        spelled = _spelled(each.child_by_field_name("type"))
        yield FieldFact(
            _name(each), spelled, trees.line(each), optional=_may_be_null(each) or spelled.name in _MAYBE
        )


def _fields(body: Node | None) -> Iterator[FieldFact]:
    """The fields of instances. Where there are constructors, what each of them takes is mandatory; else what has no value."""
    takes = [_taken(each) for each in trees.named(body, "constructor_declaration")]
    always = set.intersection(*takes) if takes else set()
    ever = set.union(*takes) if takes else set()
    for declaration in trees.named(body, "field_declaration"):
        if "static" in text(trees.first(declaration, "modifiers")).split():
            continue
        doc = trees.doc_before(declaration, *_DOCS)
        for declarator in declaration.children_by_field_name("declarator"):
            name = _name(declarator)
            spelled = _spelled(declaration.child_by_field_name("type"))
            if declarator.child_by_field_name("dimensions") is not None:
                spelled = Spelled(LIST_OF, (spelled,))
            default, is_literal = literal(declarator.child_by_field_name("value"), _LITERALS)
            optional = (
                _may_be_null(declaration) or spelled.name in _MAYBE or (bool(ever) and name not in always)
            )
            yield FieldFact(
                name,
                spelled,
                trees.line(declarator),
                doc,
                optional=optional or declarator.child_by_field_name("value") is not None,
                default=default if name not in always else (),
                is_computed=not is_literal and name not in ever,
            )


def _taken(constructor: Node) -> set[str]:
    return {
        _name(each) for each in trees.named(constructor.child_by_field_name("parameters"), "formal_parameter")
    }


def _may_be_null(node: Node) -> bool:
    return "@Nullable" in text(trees.first(node, "modifiers"))


def _spelled(node: Node | None) -> Spelled:
    if node is None:
        return Spelled(UNKNOWN)
    if node.type == "generic_type":
        arguments = trees.first(node, "type_arguments")
        of = tuple(_spelled(each) for each in arguments.named_children) if arguments is not None else ()
        return Spelled(_last(text(node.named_children[0])), of)
    if node.type == "array_type":
        element = _spelled(node.child_by_field_name("element"))
        return Spelled("byte[]") if element.name == "byte" else Spelled(LIST_OF, (element,))
    if node.type == "annotated_type":
        return _spelled(node.named_children[-1])
    if node.type == "wildcard":
        return _spelled(node.named_children[-1]) if node.named_children else Spelled(UNKNOWN)
    return Spelled(_last(text(node)))
