"""Types in Rust: structs, enumerations of words, and enumerations whose variants have data."""

from __future__ import annotations

from collections.abc import Iterator

from urform.existing.sources import trees
from urform.existing.sources.facts import (
    ALIAS,
    CHOICE,
    FUNCTION,
    LIST_OF,
    POINTER,
    RECORD,
    UNKNOWN,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)
from urform.existing.sources.trees import Node, text

GRAMMAR = ("tree_sitter_rust", "language")
SPELLINGS = Spellings(
    scalars={
        **dict.fromkeys(("String", "str"), "text"),
        **dict.fromkeys(("i8", "i16", "i32", "i64", "u8", "u16", "u32", "u64", "isize", "usize"), "integer"),
        **dict.fromkeys(("f64", "f32"), "real"),
        "bool": "boolean",
        "NaiveDate": "date",
        "SystemTime": "instant",
        "NaiveTime": "time",
        "Duration": "duration",
        "Decimal": "decimal",
        "Uuid": "uuid",
    },
    lists=frozenset(("Vec", "VecDeque", "LinkedList")),
    sets=frozenset(("HashSet", "BTreeSet", "IndexSet")),
    maps=frozenset(("HashMap", "BTreeMap", "IndexMap")),
    maybe=frozenset(("Option",)),
    plain=frozenset(("Box", "Rc", "Arc", "Cow", "RefCell", "Cell", "Mutex", "RwLock")),
    any=frozenset(("Value",)),
    functions=frozenset(("Fn", "FnMut", "FnOnce")),
    tuples=frozenset(("()",)),
)
_BODIES = frozenset(("block", "trait_item"))
_DOCS = (("line_comment", "block_comment", "attribute_item"), ("///", "/**", "#["))


def facts(root: Node, _: str) -> Iterator[TypeFact]:
    """All types of a file."""
    for node in trees.everywhere(root, "struct_item", "enum_item", "type_item", but_in=_BODIES):
        if node.type == "enum_item":
            yield from _enum(node)
        elif node.type == "type_item":
            yield TypeFact(
                _name(node), ALIAS, trees.line(node), of=_spelled(node.child_by_field_name("type"))
            )
        else:
            yield _struct(node)


def _struct(node: Node) -> TypeFact:
    fields = tuple(_fields(node.child_by_field_name("body")))
    return TypeFact(
        _name(node), RECORD, trees.line(node), doc=_doc(node), fields=fields, parameters=_parameters(node)
    )


def _name(node: Node) -> str:
    return text(node.child_by_field_name("name"))


def _doc(node: Node) -> str:
    written = trees.doc_before(node, *_DOCS)
    return (
        " ".join(part for part in written.split("\n") if not part.startswith("#[")).partition("#[")[0].strip()
    )


def _parameters(node: Node) -> tuple[str, ...]:
    parameters = node.child_by_field_name("type_parameters")
    return tuple(
        text(each).partition(":")[0] for each in trees.named(parameters, "type_parameter", "type_identifier")
    )


def _enum(node: Node) -> Iterator[TypeFact]:
    """Words, where no variant has data; else a base, and a type for each variant."""
    name = _name(node)
    variants = trees.named(node.child_by_field_name("body"), "enum_variant")
    if not any(each.child_by_field_name("body") for each in variants):
        words = tuple(_name(each) for each in variants)
        yield TypeFact(name, CHOICE, trees.line(node), doc=_doc(node), words=words)
        return
    kinds = [(f"{name}::{_name(each)}", each) for each in variants]
    yield TypeFact(
        name,
        RECORD,
        trees.line(node),
        doc=_doc(node),
        is_base=True,
        kinds=tuple(kind for kind, _ in kinds),
        parameters=_parameters(node),
    )
    for kind, each in kinds:
        fields = tuple(_fields(each.child_by_field_name("body")))
        yield TypeFact(kind, RECORD, trees.line(each), doc=_doc(each), fields=fields)


def _fields(body: Node | None) -> Iterator[FieldFact]:
    """Named fields; those without a name are called `value`, or `value_2` and so on."""
    if body is not None and body.type == "ordered_field_declaration_list":
        types = [
            each
            for each in body.named_children
            if each.type not in ("visibility_modifier", "attribute_item", "line_comment")
        ]
        for number, type_ in enumerate(types, 1):
            yield FieldFact("value" if number == 1 else f"value{number}", _spelled(type_), trees.line(type_))
        return
    for each in trees.named(body, "field_declaration"):
        yield FieldFact(_name(each), _spelled(each.child_by_field_name("type")), trees.line(each), _doc(each))


def _spelled(node: Node | None) -> Spelled:
    if node is None:
        return Spelled(UNKNOWN)
    if node.type == "reference_type":
        return _spelled(node.child_by_field_name("type"))
    if node.type == "function_type":
        return Spelled(FUNCTION)
    if node.type == "tuple_type":
        return Spelled("()")
    if node.type == "pointer_type":
        return Spelled(POINTER)
    if node.type == "array_type":
        return Spelled(LIST_OF, (_spelled(node.child_by_field_name("element")),))
    if node.type == "generic_type":
        name = text(node.child_by_field_name("type")).rpartition("::")[2]
        arguments = node.child_by_field_name("type_arguments")
        of = tuple(_spelled(each) for each in arguments.named_children if each.type != "lifetime")
        return Spelled("Vec<u8>") if name == "Vec" and of[:1] == (Spelled("u8"),) else Spelled(name, of)
    if node.type in ("type_identifier", "primitive_type", "scoped_type_identifier"):
        return Spelled(text(node))
    return Spelled(" ".join(text(node).split()))
