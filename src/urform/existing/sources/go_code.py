"""How Go makes things."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.branches import Tested, call, of_binary
from urform.existing.sources.code import Branch, CodeGrammar, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.copies import CopyWords, Method
from urform.existing.sources.trees import Node, text

_NEW = re.compile(r"(?:^|\.)[nN]ew([A-Z]\w*)$")
_LITERALS = {
    **dict.fromkeys(("int_literal", "float_literal"), "number"),
    **dict.fromkeys(("interpreted_string_literal", "raw_string_literal"), "text"),
    **dict.fromkeys(("true", "false"), "flag"),
    "nil": "null",
}
_NAMED = ("type_identifier", "qualified_type", "generic_type")


def _made(node: Node) -> str:
    if node.type == "unary_expression" and text(node).startswith("&"):
        return _made(node.child_by_field_name("operand"))
    if node.type == "composite_literal":
        type_ = node.child_by_field_name("type")
        return text(type_).partition("[")[0].rpartition(".")[2] if type_.type in _NAMED else ""
    if node.type == "call_expression":
        found = _NEW.search(text(node.child_by_field_name("function")))
        return found[1] if found else ""
    return ""


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    branches = []
    for case in trees.named(node, "expression_case", "default_case"):
        value = case.child_by_field_name("value")
        body = tuple(each for each in case.named_children if value is None or each.id != value.id)
        labels = tuple(value.named_children) if value is not None else ()
        branches.append(Branch(labels, body, case))
    return node.child_by_field_name("value"), branches


def _test(node: Node) -> Tested | None:
    if node.type == "parenthesized_expression":
        return _test(node.named_children[0])
    return of_binary(node, _test, either_way=False) if node.type == "binary_expression" else None


def _parts(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    alternative = node.child_by_field_name("alternative")
    condition = (
        node.child_by_field_name("condition") if node.child_by_field_name("initializer") is None else None
    )
    return (
        condition,
        (node.child_by_field_name("consequence"),),
        (alternative,) if alternative is not None else None,
    )


def _rows(node: Node) -> Sequence[tuple[Node, str]]:
    """The entries of a map that is written down: made things, or functions that make one."""
    type_ = node.child_by_field_name("type")
    if type_ is None or type_.type != "map_type":
        return ()
    rows = []
    for element in trees.named(node.child_by_field_name("body"), "keyed_element"):
        sides = [each.named_children[0] if each.named_children else each for each in element.named_children]
        if len(sides) == 2:
            key, value = sides
            rows.append((key, _made(_returned(value) if value.type == "func_literal" else value)))
    return rows


def _returned(function: Node) -> Node:
    """What a function of one statement returns; the function where it has more."""
    found = list(trees.everywhere(function, "return_statement"))
    values = found[0].named_children if len(found) == 1 else ()
    return values[0].named_children[0] if values and values[0].named_children else function


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    if node.type not in ("assignment_statement", "short_var_declaration"):
        return None
    left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
    return text(left).partition(",")[0], right.named_children[0] if right.named_children else None


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for function in trees.named(root, "function_declaration"):
        found = _NEW.search(text(function.child_by_field_name("name")))
        if found:
            yield ConstructorFact(region(function, file), found[1], tuple(_parameters(function)))


def _parameters(function: Node) -> Iterator[tuple[str, str]]:
    for each in trees.named(function.child_by_field_name("parameters"), "parameter_declaration"):
        for name in each.children_by_field_name("name"):
            yield text(name), text(each.child_by_field_name("type"))


def _calls(node: Node, file: str) -> CallFact | None:
    return call(node, file, _made(node), _LITERALS)


def _methods(root: Node) -> Iterator[Method]:
    for method in trees.named(root, "method_declaration"):
        receiver = next(
            trees.everywhere(method.child_by_field_name("receiver"), "parameter_declaration"), None
        )
        body = method.child_by_field_name("body")
        if receiver is None or body is None:
            continue
        owner = text(receiver.child_by_field_name("type")).lstrip("*").partition("[")[0]
        me = text(receiver.child_by_field_name("name"))
        yield Method(text(method.child_by_field_name("name")), owner, me, method, body, root)


def _field_of(node: Node | None) -> tuple[str, str] | None:
    if node is None or node.type != "selector_expression":
        return None
    return text(node.child_by_field_name("operand")), text(node.child_by_field_name("field"))


_COPIES = CopyWords(
    names=frozenset(("Clone", "Copy", "DeepCopy", "clone", "copy", "deepCopy")),
    containers=frozenset(("map",)),
    is_public=lambda name: name[:1].isupper(),
    keeps=True,
    methods=_methods,
    field_of=_field_of,
    made=_made,
)


CODE = CodeGrammar(
    functions=frozenset(("function_declaration", "method_declaration", "func_literal")),
    blocks=frozenset(("block", "statement_list", "source_file")),
    returns=frozenset(("return_statement",)),
    throws=frozenset(),
    aborts=frozenset(("panic", "log.Fatal", "log.Fatalf", "log.Panic", "log.Panicf", "os.Exit")),
    nulls=frozenset(("nil",)),
    switches=frozenset(("expression_switch_statement",)),
    conditions=frozenset(("if_statement",)),
    tables=frozenset(("composite_literal",)),
    constructions=frozenset(("call_expression",)),
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
