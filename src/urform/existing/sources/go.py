"""Types in Go: structs, and named types with constants of them."""

from __future__ import annotations

from collections.abc import Iterator

from urform.existing.sources import trees
from urform.existing.sources.facts import (
    ALIAS,
    CHOICE,
    FUNCTION,
    LIST_OF,
    NULL,
    RECORD,
    UNION,
    UNKNOWN,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)
from urform.existing.sources.trees import Node, text

GRAMMAR = ("tree_sitter_go", "language")
SPELLINGS = Spellings(
    scalars={
        "string": "text",
        **dict.fromkeys(
            (
                "int",
                "int8",
                "int16",
                "int32",
                "int64",
                "uint",
                "uint8",
                "uint16",
                "uint32",
                "uint64",
                "byte",
                "rune",
            ),
            "integer",
        ),
        **dict.fromkeys(("float64", "float32"), "real"),
        "bool": "boolean",
        "Time": "instant",
        "Duration": "duration",
        "UUID": "uuid",
    },
    lists=frozenset(),
    maps=frozenset(("map",)),
    any=frozenset(("any", "interface{}")),
)
_BODIES = frozenset(("block",))
_DOCS = (("comment",), ("//",))


def facts(root: Node, _: str) -> Iterator[TypeFact]:
    """All named types of a file."""
    words = _words(root)
    for node in trees.everywhere(root, "type_spec", "type_alias", but_in=_BODIES):
        name, type_ = text(node.child_by_field_name("name")), node.child_by_field_name("type")
        at, doc = trees.line(node), _doc(node)
        if type_ is not None and type_.type == "struct_type":
            yield _struct(node, name, type_, doc)
        elif name in words:
            yield TypeFact(name, CHOICE, at, doc=doc, words=tuple(_bare(word, name) for word in words[name]))
        elif type_ is not None and type_.type not in ("interface_type", "function_type"):
            yield TypeFact(name, ALIAS, at, doc=doc, of=_spelled(type_))


def _doc(node: Node) -> str:
    outer = node.parent if len(trees.named(node.parent, "type_spec")) == 1 else node
    return trees.doc_before(outer, *_DOCS)


def _words(root: Node) -> dict[str, list[str]]:
    """The constants of each named type. In a block, those that follow are of the same type."""
    words: dict[str, list[str]] = {}
    for block in trees.named(root, "const_declaration"):
        current = ""
        for spec in trees.named(block, "const_spec"):
            type_ = spec.child_by_field_name("type")
            current = (
                text(type_) if type_ is not None else "" if spec.child_by_field_name("value") else current
            )
            for name in spec.children_by_field_name("name"):
                if current and text(name) != "_":
                    words.setdefault(current, []).append(text(name))
    return words


def _bare(word: str, type_: str) -> str:
    """A constant without the name of its type, before or behind it."""
    return word.removeprefix(type_) or word if word.startswith(type_) else word.removesuffix(type_) or word


def _struct(node: Node, name: str, type_: Node, doc: str) -> TypeFact:
    fields: list[FieldFact] = []
    parts: list[str] = []
    for each in trees.named(trees.first(type_, "field_declaration_list"), "field_declaration"):
        names = each.children_by_field_name("name")
        if not names:
            parts.append(_spelled(each.child_by_field_name("type")).name)
        fields.extend(_field(each, text(one)) for one in names)
    parameters = (
        trees.everywhere(node.child_by_field_name("type_parameters"), "type_parameter_declaration")
        if node.child_by_field_name("type_parameters")
        else ()
    )
    return TypeFact(
        name,
        RECORD,
        trees.line(node),
        doc=doc,
        fields=tuple(fields),
        parts=tuple(parts),
        parameters=tuple(text(one) for each in parameters for one in each.children_by_field_name("name")),
    )


def _field(node: Node, name: str) -> FieldFact:
    tag = text(node.child_by_field_name("tag"))
    spelled = _spelled(node.child_by_field_name("type"))
    return FieldFact(
        name, spelled, trees.line(node), trees.doc_before(node, *_DOCS), optional="omitempty" in tag
    )


def _spelled(node: Node | None) -> Spelled:
    if node is None:
        return Spelled(UNKNOWN)
    if node.type == "pointer_type":  # a pointer may be nil
        return Spelled(UNION, (_spelled(node.named_children[0]), Spelled(NULL)))
    if node.type in ("slice_type", "array_type"):
        element = node.child_by_field_name("element")
        if element is not None and element.type == "pointer_type":
            element = element.named_children[0]
        return Spelled("[]byte") if text(element) == "byte" else Spelled(LIST_OF, (_spelled(element),))
    if node.type == "function_type":
        return Spelled(FUNCTION)
    if node.type == "map_type":
        value = node.child_by_field_name("value")
        if value is not None and value.type == "pointer_type":
            value = value.named_children[0]
        return Spelled("map", (_spelled(node.child_by_field_name("key")), _spelled(value)))
    if node.type == "interface_type" and not node.named_children:
        return Spelled("any")
    if node.type == "generic_type":
        arguments = trees.first(node, "type_arguments")
        inner = arguments.named_children if arguments is not None else ()
        of = tuple(_spelled(each.named_children[0] if each.type == "type_elem" else each) for each in inner)
        return Spelled(text(node.child_by_field_name("type")), of)
    return Spelled(" ".join(text(node).split()))
