"""How TypeScript makes things."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.code import Branch, CodeGrammar, is_code, is_type_name, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact, CopyFact
from urform.existing.sources.copies import CopyWords, Method, copies
from urform.existing.sources.facts import TypeFact
from urform.existing.sources.trees import Node, text

_CLASSES = ("class_declaration", "abstract_class_declaration", "class")
_WRAPS = ("as_expression", "parenthesized_expression", "await_expression", "satisfies_expression")


def _made(node: Node) -> str:
    if node.type == "new_expression":
        return text(node.child_by_field_name("constructor")).rpartition(".")[2]
    return _made(node.named_children[0]) if node.type in _WRAPS and node.named_children else ""


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    branches: list[Branch] = []
    waiting: list[Node] = []  # labels whose statements come with later ones
    for case in trees.named(node.child_by_field_name("body"), "switch_case", "switch_default"):
        body = tuple(case.children_by_field_name("body"))
        if case.type == "switch_default":
            branches.append(Branch((), body, case))
            waiting = []
            continue
        waiting.append(case.child_by_field_name("value"))
        if body:
            branches.append(Branch(tuple(waiting), body, case))
            waiting = []
    return node.child_by_field_name("value"), branches


def _test(node: Node) -> tuple[str, tuple[Node, ...]] | None:
    if node.type == "parenthesized_expression":
        return _test(node.named_children[0])
    if node.type != "binary_expression":
        return None
    operator = text(node.child_by_field_name("operator"))
    left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
    if operator == "||":
        one, other = _test(left), _test(right)
        return (one[0], one[1] + other[1]) if one and other and one[0] == other[0] else None
    if operator not in ("==", "==="):
        return None
    if is_code(right) and not is_code(left):
        return text(left), (right,)
    return (text(right), (left,)) if is_code(left) and not is_code(right) else None


def _parts(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    clause = node.child_by_field_name("alternative")
    return (
        node.child_by_field_name("condition"),
        (node.child_by_field_name("consequence"),),
        tuple(clause.named_children) if clause is not None else None,
    )


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
    if node.type in ("lexical_declaration", "variable_declaration"):
        declarator = trees.first(node, "variable_declarator")
        return (
            (text(declarator.child_by_field_name("name")), declarator.child_by_field_name("value"))
            if declarator
            else None
        )
    inner = trees.first(node, "assignment_expression") if node.type == "expression_statement" else None
    return (
        (text(inner.child_by_field_name("left")), inner.child_by_field_name("right"))
        if inner is not None
        else None
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
    if node.type != "new_expression" or node.child_by_field_name("arguments") is None:
        return None
    given = node.child_by_field_name("arguments").named_children
    return CallFact(region(node, file), _made(node), tuple(map(_literal, given)))


def _literal(node: Node) -> str:
    kinds = {
        "string": "text",
        "number": "number",
        "true": "flag",
        "false": "flag",
        "null": "null",
        "undefined": "null",
    }
    return kinds.get(node.type, "")


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


def _copies(root: Node, file: str, types: Sequence[TypeFact]) -> Iterator[CopyFact]:
    return copies(root, file, types, _COPIES)


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
    parts=_parts,
    rows=_rows,
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=_copies,
)
