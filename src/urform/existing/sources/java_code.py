"""How Java makes things."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.branches import Tested, assigned, call, fallen_through, of_binary, with_keys
from urform.existing.sources.code import Branch, CodeGrammar, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.copies import CopyWords, Method
from urform.existing.sources.trees import Node, text

_EQUALS = ("equals", "equalsIgnoreCase", "contentEquals")
_LITERALS = {
    **dict.fromkeys(
        ("decimal_integer_literal", "hex_integer_literal", "decimal_floating_point_literal"), "number"
    ),
    **dict.fromkeys(("true", "false"), "flag"),
    "string_literal": "text",
    "null_literal": "null",
}
_TYPES = ("class_declaration", "record_declaration", "enum_declaration")


def _last(node: Node | None) -> str:
    return text(node).partition("<")[0].rpartition(".")[2]


def _made(node: Node) -> str:
    if node.type == "object_creation_expression":
        return "" if trees.first(node, "class_body") is not None else _last(node.child_by_field_name("type"))
    if node.type in ("cast_expression", "parenthesized_expression"):
        return _made(node.named_children[-1])
    return ""


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    groups = trees.named(node.child_by_field_name("body"), "switch_block_statement_group", "switch_rule")
    return node.child_by_field_name("condition"), fallen_through(map(_case, groups))


def _case(group: Node) -> tuple[Sequence[Node], Sequence[Node], Node, bool]:
    labels = trees.named(group, "switch_label")
    body = [each for each in group.named_children if each.type != "switch_label"]
    keys = [key for each in labels for key in each.named_children]
    return keys, body, group, any(text(each).startswith("default") for each in labels)


def _test(node: Node) -> Tested | None:
    if node.type == "parenthesized_expression":
        return _test(node.named_children[0])
    if node.type == "binary_expression":
        return of_binary(node, _test)
    if node.type == "method_invocation" and text(node.child_by_field_name("name")) in _EQUALS:
        given = node.child_by_field_name("arguments").named_children
        owner = node.child_by_field_name("object")
        return with_keys(owner, given[0]) if owner is not None and len(given) == 1 else None
    return None


def _parts(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    alternative = node.child_by_field_name("alternative")
    return (
        node.child_by_field_name("condition"),
        (node.child_by_field_name("consequence"),),
        (alternative,) if alternative is not None else None,
    )


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    return assigned(node, {"local_variable_declaration": "name"}, "variable_declarator")


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for node in trees.everywhere(root, "constructor_declaration", "record_declaration"):
        parameters = trees.named(node.child_by_field_name("parameters"), "formal_parameter")
        typed = tuple(
            (text(each.child_by_field_name("name")), text(each.child_by_field_name("type")))
            for each in parameters
        )
        yield ConstructorFact(region(node, file), text(node.child_by_field_name("name")), typed)


def _calls(node: Node, file: str) -> CallFact | None:
    return call(node, file, _made(node), _LITERALS)


def _methods(root: Node) -> Iterator[Method]:
    for node in trees.everywhere(root, *_TYPES):
        inner = node.child_by_field_name("body")
        has_constructor = trees.first(inner, "constructor_declaration") is not None
        for method in trees.named(inner, "method_declaration"):
            body = method.child_by_field_name("body")
            if body is not None and not method.child_by_field_name("parameters").named_children:
                owner = text(node.child_by_field_name("name"))
                yield Method(
                    text(method.child_by_field_name("name")),
                    owner,
                    "this",
                    method,
                    body,
                    node,
                    has_constructor,
                )


def _field_of(node: Node | None) -> tuple[str, str] | None:
    """`this.legs`, `copy.legs`, or `legs` by itself."""
    if node is None:
        return None
    if node.type == "field_access":
        return text(node.child_by_field_name("object")), text(node.child_by_field_name("field"))
    return ("this", text(node)) if node.type == "identifier" else None


_COPIES = CopyWords(
    names=frozenset(("clone", "copy", "deepCopy", "duplicate")),
    containers=frozenset(
        "List ArrayList Collection LinkedList Set HashSet LinkedHashSet TreeSet Map HashMap LinkedHashMap TreeMap Deque "
        "ArrayDeque Queue Date StringBuilder BitSet".split()
    ),
    methods=_methods,
    field_of=_field_of,
    made=_made,
)


CODE = CodeGrammar(
    functions=frozenset(("method_declaration", "constructor_declaration", "lambda_expression")),
    blocks=frozenset(("block", "constructor_body")),
    returns=frozenset(("return_statement", "yield_statement")),
    throws=frozenset(("throw_statement",)),
    nulls=frozenset(("null",)),
    switches=frozenset(("switch_expression",)),
    conditions=frozenset(("if_statement",)),
    tables=frozenset(),
    constructions=frozenset(("object_creation_expression",)),
    made=_made,
    cases=_cases,
    test=_test,
    parts=_parts,
    rows=lambda _: (),
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=_COPIES,
)
