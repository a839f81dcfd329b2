"""How TypeScript makes things."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.branches import Tested, assigned, call, fallen_through, of_binary, with_else
from urform.existing.sources.code import Branch, CodeGrammar, is_type_name, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.copies import CopyWords, Method
from urform.existing.sources.trees import Node, text

_CLASSES = ("class_declaration", "abstract_class_declaration", "class")
_LITERALS = {
    "string": "text",
    "number": "number",
    **dict.fromkeys(("true", "false"), "flag"),
    **dict.fromkeys(("null", "undefined"), "null"),
}
_WRAPS = ("as_expression", "parenthesized_expression", "await_expression", "satisfies_expression")


def _made(node: Node) -> str:
    if node.type == "new_expression":
        return text(node.child_by_field_name("constructor")).rpartition(".")[2]
    return _made(node.named_children[0]) if node.type in _WRAPS and node.named_children else ""


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    cases = trees.named(node.child_by_field_name("body"), "switch_case", "switch_default")
    return node.child_by_field_name("value"), fallen_through(map(_case, cases))


def _case(case: Node) -> tuple[Sequence[Node], Sequence[Node], Node, bool]:
    value = case.child_by_field_name("value")
    return [value] if value is not None else [], case.children_by_field_name("body"), case, value is None


def _test(node: Node) -> Tested | None:
    if node.type == "parenthesized_expression":
        return _test(node.named_children[0])
    return of_binary(node, _test, equals=("==", "===")) if node.type == "binary_expression" else None


def _rows(node: Node) -> Sequence[tuple[Node, str]]:
    pairs = trees.named(node, "pair")
    return [(each.child_by_field_name("key"), _named(each.child_by_field_name("value"))) for each in pairs]


def _named(node: Node) -> str:
    """The class that a table holds, or that a function in it makes."""
    if node.type == "arrow_function":
        return _made(node.child_by_field_name("body"))
    last = text(node).rpartition(".")[2]
    return last if node.type in ("identifier", "member_expression") and is_type_name(last) else ""


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    return assigned(
        node, dict.fromkeys(("lexical_declaration", "variable_declaration"), "name"), "variable_declarator"
    )


def _classes(root: Node) -> Iterator[tuple[str, Node, Node]]:
    for node in trees.everywhere(root, *_CLASSES):
        for method in trees.named(node.child_by_field_name("body"), "method_definition"):
            yield text(node.child_by_field_name("name")), node, method


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for name, _, method in _classes(root):
        if text(method.child_by_field_name("name")) == "constructor":
            parameters = trees.named(
                method.child_by_field_name("parameters"), "required_parameter", "optional_parameter"
            )
            typed = (
                (
                    text(each.child_by_field_name("pattern")),
                    text(each.child_by_field_name("type")).lstrip(": "),
                )
                for each in parameters
            )
            yield ConstructorFact(region(method, file), name, tuple(typed))


def _calls(node: Node, file: str) -> CallFact | None:
    return call(node, file, _made(node), _LITERALS)


def _methods(root: Node) -> Iterator[Method]:
    for name, node, method in _classes(root):
        body = method.child_by_field_name("body")
        if body is not None:
            # A parameter with `public`, `private` or `readonly` is a field that keeps what is given.
            has_constructor = "constructor(" in text(node) and "accessibility_modifier" not in _modifiers(
                node
            )
            called = text(method.child_by_field_name("name"))
            yield Method(called, name, "this", method, body, node, has_constructor)


def _modifiers(class_: Node) -> set[str]:
    """The types of nodes that stand in parameters of its constructor."""
    methods = trees.named(class_.child_by_field_name("body"), "method_definition")
    constructor = next(
        (each for each in methods if text(each.child_by_field_name("name")) == "constructor"), None
    )
    parameters = (
        trees.named(constructor.child_by_field_name("parameters"), "required_parameter")
        if constructor
        else []
    )
    return {inner.type for each in parameters for inner in each.named_children}


def _field_of(node: Node | None) -> tuple[str, str] | None:
    if node is None or node.type != "member_expression":
        return None
    return text(node.child_by_field_name("object")), text(node.child_by_field_name("property")).lstrip("#")


_COPIES = CopyWords(
    names=frozenset(("clone", "copy", "duplicate")),
    containers=frozenset(("Array", "Map", "Set", "Record", "Date")),
    methods=_methods,
    field_of=_field_of,
    made=_made,
)


CODE = CodeGrammar(
    functions=frozenset("function_declaration method_definition arrow_function function_expression".split()),
    blocks=frozenset(("statement_block", "program")),
    returns=frozenset(("return_statement",)),
    throws=frozenset(("throw_statement",)),
    nulls=frozenset(("null", "undefined")),
    switches=frozenset(("switch_statement",)),
    conditions=frozenset(("if_statement",)),
    tables=frozenset(("object",)),
    constructions=frozenset(("new_expression",)),
    made=_made,
    cases=_cases,
    test=_test,
    parts=with_else,
    rows=_rows,
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=_COPIES,
)
