"""Types in C++: classes, structs and enumerations."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.existing.sources import trees
from urform.existing.sources.facts import (
    ALIAS,
    CHOICE,
    LIST_OF,
    POINTER,
    RECORD,
    UNKNOWN,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)
from urform.existing.sources.literals import LiteralWords, literal
from urform.existing.sources.trees import Node, text

GRAMMAR = ("tree_sitter_cpp", "language")
SPELLINGS = Spellings(
    scalars={
        **dict.fromkeys(("string", "string_view"), "text"),
        **dict.fromkeys(
            (
                "int",
                "long",
                "short",
                "unsigned",
                "size_t",
                "ptrdiff_t",
                "long long",
                "unsigned int",
                "unsigned long",
                "unsigned long long",
                "unsigned short",
            ),
            "integer",
        ),
        **dict.fromkeys((f"{sign}int{bits}_t" for sign in ("", "u") for bits in (8, 16, 32, 64)), "integer"),
        **dict.fromkeys(("double", "float"), "real"),
        "bool": "boolean",
        "year_month_day": "date",
        **dict.fromkeys(("hours", "minutes", "seconds", "milliseconds", "microseconds"), "duration"),
    },
    lists=frozenset(("vector", "list", "deque", "array", "span")),
    sets=frozenset(("set", "unordered_set")),
    maps=frozenset(("map", "unordered_map")),
    maybe=frozenset(("optional",)),
    plain=frozenset(("unique_ptr", "shared_ptr", "reference_wrapper")),
    any=frozenset(("any",)),
    functions=frozenset(("function",)),
    tuples=frozenset(("pair", "tuple")),
)
_BODIES = frozenset(("compound_statement",))
_LITERALS = LiteralWords(
    re.compile(r"(\{\}|nullptr|std::nullopt)$"), "string_literal", "qualified_identifier"
)
_DOCS = (("comment",), ("///", "/**", "//!"))
# Macros between `class` and its name, such as those that export it: a parser takes them for the name.
_MACRO = re.compile(rb"\b(class|struct)(\s+)([A-Z][A-Z0-9_]{3,})(?=\s+[A-Za-z_]\w*\s*(?:final\b)?\s*[:{])")


def prepared(source: bytes) -> bytes:
    """The source with such macros blanked, each place where it was."""
    return _MACRO.sub(lambda match: match[1] + match[2] + b" " * len(match[3]), source)


def facts(root: Node, _: str) -> Iterator[TypeFact]:
    """All types of a file that have bodies; none of those that a function has."""
    for node in trees.everywhere(root, *_READ, but_in=_BODIES):
        has_name = node.child_by_field_name("name") is not None
        if has_name and (node.type == "alias_declaration" or node.child_by_field_name("body") is not None):
            yield _READ[node.type](node)


def _enum(node: Node) -> TypeFact:
    words = trees.named(node.child_by_field_name("body"), "enumerator")
    names = tuple(text(each.child_by_field_name("name")) for each in words)
    return TypeFact(_name(node), CHOICE, trees.line(node), doc=_doc(node), words=names)


def _alias(node: Node) -> TypeFact:
    return TypeFact(_name(node), ALIAS, trees.line(node), of=_spelled(node.child_by_field_name("type")))


def _name(node: Node) -> str:
    return text(node.child_by_field_name("name"))


def _doc(node: Node) -> str:
    return trees.doc_before(node, *_DOCS)


def _class(node: Node) -> TypeFact:
    body = node.child_by_field_name("body")
    outer = node.parent
    is_template = outer is not None and outer.type == "template_declaration"
    parameters = (
        trees.named(outer.child_by_field_name("parameters"), "type_parameter_declaration")
        if is_template
        else ()
    )
    return TypeFact(
        _name(node),
        RECORD,
        trees.line(node),
        doc=_doc(outer if is_template else node),
        fields=tuple(_fields(body)),
        bases=tuple(_spelled(each).name.rpartition("::")[2] for each in _bases(node)),
        is_base=any(_is_pure(each) for each in trees.named(body, "field_declaration")),
        mutable=any(
            text(each).startswith(("set_", "set"))
            and text(each)[3:4].isupper() | text(each).startswith("set_")
            for each in _methods(body)
        ),
        parameters=tuple(text(each.named_children[-1]) for each in parameters if each.named_children),
    )


def _bases(node: Node) -> list[Node]:
    return trees.named(
        trees.first(node, "base_class_clause"), "type_identifier", "qualified_identifier", "template_type"
    )


def _is_pure(member: Node) -> bool:
    return "virtual" in text(member).split()[:2] and text(member).replace(" ", "").endswith("=0;")


def _methods(body: Node | None) -> Iterator[Node]:
    for member in trees.named(body, "function_definition", "field_declaration"):
        declarator = member.child_by_field_name("declarator")
        if declarator is not None and declarator.type == "function_declarator":
            yield declarator.child_by_field_name("declarator")


def _fields(body: Node | None) -> Iterator[FieldFact]:
    for member in trees.named(body, "field_declaration"):
        if any(text(each) == "static" for each in trees.named(member, "storage_class_specifier")):
            continue
        value = member.child_by_field_name("default_value")
        for declarator in member.children_by_field_name("declarator"):
            if declarator.type == "field_identifier":
                yield _field(member, text(declarator), _spelled(member.child_by_field_name("type")), value)
            elif declarator.type in ("pointer_declarator", "array_declarator"):
                name = next(trees.everywhere(declarator, "field_identifier"), None)
                if (
                    name is not None
                    and next(trees.everywhere(declarator, "function_declarator"), None) is None
                ):
                    yield _field(member, text(name), _declared(member, declarator), value)


def _declared(member: Node, declarator: Node) -> Spelled:
    if declarator.type == "pointer_declarator":
        return Spelled(POINTER)
    return Spelled(LIST_OF, (_spelled(member.child_by_field_name("type")),))


def _field(member: Node, name: str, spelled: Spelled, value: Node | None) -> FieldFact:
    default, is_literal = _literal(value)
    bare = name.removeprefix("m_").strip("_")
    return FieldFact(
        bare,
        spelled,
        trees.line(member),
        _doc(member),
        optional=value is not None,
        default=default,
        is_computed=not is_literal,
    )


def _literal(node: Node | None) -> tuple[tuple[object, ...], bool]:
    """That of `= 4`, and of `{4}`."""
    if node is not None and node.type == "initializer_list" and len(node.named_children) == 1:
        node = node.named_children[0]
    return literal(node, _LITERALS)


def _spelled(node: Node | None) -> Spelled:
    if node is None:
        return Spelled(UNKNOWN)
    if node.type == "type_descriptor":
        if node.child_by_field_name("declarator") is not None:
            return Spelled(POINTER)
        return _spelled(node.child_by_field_name("type"))
    if node.type == "qualified_identifier":
        return _spelled(node.child_by_field_name("name"))
    if node.type == "template_type":
        arguments = node.child_by_field_name("arguments")
        of = tuple(_spelled(each) for each in trees.named(arguments, "type_descriptor"))
        return Spelled(_name(node), of)
    return Spelled(" ".join(text(node).split()))


_READ = {
    "class_specifier": _class,
    "struct_specifier": _class,
    "enum_specifier": _enum,
    "alias_declaration": _alias,
}
