"""How Python makes things."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.branches import Tested, call, of_binary, with_keys
from urform.existing.sources.code import Branch, CodeGrammar, is_type_name, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.copies import CopyWords, Method
from urform.existing.sources.trees import Node, text

_LITERALS = {
    **dict.fromkeys(("integer", "float"), "number"),
    **dict.fromkeys(("true", "false"), "flag"),
    "string": "text",
    "none": "null",
}


def _made(node: Node) -> str:
    if node.type == "call":
        name = text(node.child_by_field_name("function")).rpartition(".")[2]
        return name if is_type_name(name) else ""
    return ""


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    branches = []
    for clause in trees.named(node.child_by_field_name("body"), "case_clause"):
        patterns = [
            pattern for each in trees.named(clause, "case_pattern") for pattern in _alternatives(each)
        ]
        labels = () if any(text(each) == "_" for each in patterns) else tuple(patterns)
        branches.append(Branch(labels, (clause.child_by_field_name("consequence"),), clause))
    return node.child_by_field_name("subject"), branches


def _alternatives(pattern: Node) -> Sequence[Node]:
    """Those of `"beacon" | "tower"`; a pattern by itself where it has none."""
    union = trees.first(pattern, "union_pattern")
    return union.named_children if union is not None else [pattern]


def _test(node: Node) -> Tested | None:
    if node.type == "parenthesized_expression":
        return _test(node.named_children[0])
    if node.type == "boolean_operator":
        return of_binary(node, _test, either="or")
    if node.type != "comparison_operator" or len(node.named_children) != 2:
        return None
    operator = next((each.type for each in node.children if not each.is_named), "")
    return (
        with_keys(*node.named_children, either_way=operator == "==")
        if operator in ("==", "in", "is")
        else None
    )


def _parts(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    condition, body = node.child_by_field_name("condition"), node.child_by_field_name("consequence")
    if node.type == "if_statement":
        following = node.children_by_field_name("alternative")
    else:  # an elif is followed by what stands behind it in its statement
        siblings = node.parent.children_by_field_name("alternative")
        following = siblings[[each.id for each in siblings].index(node.id) + 1 :]
    if not following:
        return condition, (body,), None
    first = following[0]
    return (
        condition,
        (body,),
        (first,) if first.type == "elif_clause" else (first.child_by_field_name("body"),),
    )


def _rows(node: Node) -> Sequence[tuple[Node, str]]:
    return [(key, _named(value)) for key, value in _pairs(node)]


def _pairs(node: Node) -> Iterator[tuple[Node, Node]]:
    for pair in trees.named(node, "pair"):
        yield pair.child_by_field_name("key"), pair.child_by_field_name("value")


def _named(node: Node) -> str:
    """The class that a table holds, or that a function in it makes."""
    if node.type == "lambda":
        return _made(node.child_by_field_name("body"))
    last = text(node).rpartition(".")[2]
    return last if node.type in ("identifier", "attribute") and is_type_name(last) else ""


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    inner = trees.first(node, "assignment") if node.type == "expression_statement" else None
    return (
        (text(inner.child_by_field_name("left")), inner.child_by_field_name("right"))
        if inner is not None
        else None
    )


def _classes(root: Node) -> Iterator[tuple[str, Node, Node]]:
    """The name of each class, and its methods."""
    for node in trees.everywhere(root, "class_definition"):
        body = node.child_by_field_name("body")
        for each in trees.named(body, "function_definition", "decorated_definition"):
            function = (
                each if each.type == "function_definition" else trees.first(each, "function_definition")
            )
            if function is not None:
                yield text(node.child_by_field_name("name")), node, function


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for name, _, function in _classes(root):
        if text(function.child_by_field_name("name")) == "__init__":
            yield ConstructorFact(region(function, file), name, tuple(_by_place(function)))


def _by_place(function: Node) -> Iterator[tuple[str, str]]:
    """The parameters before `*`, without the object itself."""
    parameters = function.child_by_field_name("parameters")
    for number, each in enumerate(parameters.named_children):
        if each.type in ("keyword_separator", "list_splat_pattern"):
            return
        if number == 0:
            continue
        name = each.child_by_field_name("name") or (each.named_children[0] if each.named_children else each)
        if name.type == "list_splat_pattern":
            return
        if name.type == "identifier":
            yield text(name), text(each.child_by_field_name("type"))


def _calls(node: Node, file: str) -> CallFact | None:
    return call(node, file, _made(node), _LITERALS, by_name="keyword_argument")


def _methods(root: Node) -> Iterator[Method]:
    for name, node, function in _classes(root):
        parameters = function.child_by_field_name("parameters").named_children
        if parameters:
            me = text(parameters[0])
            has_constructor = "def __init__(" in text(node)
            body = function.child_by_field_name("body")
            method = text(function.child_by_field_name("name"))
            yield Method(method, name, me, function, body, node, has_constructor)


def _field_of(node: Node | None) -> tuple[str, str] | None:
    if node is None or node.type != "attribute":
        return None
    return text(node.child_by_field_name("object")), text(node.child_by_field_name("attribute"))


_COPIES = CopyWords(
    names=frozenset(("__copy__", "copy", "clone", "duplicate")),
    containers=frozenset(
        "list List dict Dict set Set MutableMapping MutableSequence MutableSet defaultdict deque".split()
    ),
    methods=_methods,
    field_of=_field_of,
    made=_made,
)


CODE = CodeGrammar(
    functions=frozenset(("function_definition", "lambda")),
    blocks=frozenset(("block", "module")),
    returns=frozenset(("return_statement",)),
    throws=frozenset(("raise_statement",)),
    nulls=frozenset(("None",)),
    switches=frozenset(("match_statement",)),
    conditions=frozenset(("if_statement", "elif_clause")),
    tables=frozenset(("dictionary",)),
    constructions=frozenset(("call",)),
    made=_made,
    cases=_cases,
    test=_test,
    parts=_parts,
    rows=_rows,
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=_COPIES,
)
