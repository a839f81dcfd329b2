"""How Rust makes things. What a clone shares is said by types there (`Rc`, `Arc`), so no copies are looked into."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.branches import Tested, assigned, call, of_binary, with_else
from urform.existing.sources.code import Branch, CodeGrammar, is_type_name, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.trees import Node, text

_LITERALS = {
    "integer_literal": "number",
    "float_literal": "number",
    "string_literal": "text",
    "boolean_literal": "flag",
}
_WRAPS = frozenset(("Ok", "Some", "Box::new", "Rc::new", "Arc::new"))
_NO_TYPES = frozenset(("From", "Default", "TryFrom", "Self"))  # whose function could make anything
_MAKER = re.compile(r"(?:\w+::)*([A-Z]\w*)(?:::<.*>)?::(?:new|default|from|with_\w+)$")


def _made(node: Node) -> str:
    """A struct, alone or wrapped. A variant of an enumeration is a value of it, and no type."""
    if node.type == "struct_expression":
        name = text(node.child_by_field_name("name")).partition("<")[0]
        return "" if "::" in name and is_type_name(name.split("::")[-2]) else name.rpartition("::")[2]
    if node.type == "call_expression":
        called = text(node.child_by_field_name("function"))
        given = node.child_by_field_name("arguments").named_children
        if called in _WRAPS:
            return _made(given[0]) if len(given) == 1 else ""
        found = _MAKER.fullmatch(called)
        return found[1] if found and found[1] not in _NO_TYPES else ""
    return _made(node.named_children[0]) if node.type == "try_expression" and node.named_children else ""


def _unwrapped(node: Node) -> Node:
    while node.type == "call_expression" and text(node.child_by_field_name("function")) in _WRAPS:
        given = node.child_by_field_name("arguments").named_children
        if len(given) != 1:
            return node
        node = given[0]
    return node


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    branches = []
    for arm in trees.named(node.child_by_field_name("body"), "match_arm"):
        pattern, value = arm.child_by_field_name("pattern"), arm.child_by_field_name("value")
        inner = pattern.named_children[0] if pattern.named_children else pattern
        labels = tuple(inner.named_children) if inner.type == "or_pattern" else (inner,)
        is_other = text(pattern) == "_" or re.fullmatch(r"[a-z]\w*", text(pattern)) is not None
        branches.append(Branch(() if is_other else labels, (value,), arm))
    return node.child_by_field_name("value"), branches


def _test(node: Node) -> Tested | None:
    return of_binary(node, _test, either_way=False) if node.type == "binary_expression" else None


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    return assigned(node, {"let_declaration": "pattern"}, "")


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for block in trees.everywhere(root, "impl_item"):
        if block.child_by_field_name("trait") is not None:
            continue
        owner = text(block.child_by_field_name("type")).partition("<")[0]
        for function in trees.named(block.child_by_field_name("body"), "function_item"):
            parameters = function.child_by_field_name("parameters")
            if (
                text(function.child_by_field_name("name")) == "new"
                and trees.first(parameters, "self_parameter") is None
            ):
                typed = (
                    (text(each.child_by_field_name("pattern")), text(each.child_by_field_name("type")))
                    for each in trees.named(parameters, "parameter")
                )
                yield ConstructorFact(region(function, file), owner, tuple(typed))


def _calls(node: Node, file: str) -> CallFact | None:
    is_new = text(node.child_by_field_name("function")).endswith("::new")
    return call(node, file, _made(node) if is_new else "", _LITERALS)


CODE = CodeGrammar(
    functions=frozenset(("function_item", "closure_expression")),
    blocks=frozenset(("block", "source_file")),
    returns=frozenset(("return_expression",)),
    throws=frozenset(),
    nulls=frozenset(("None", "Ok(None)")),
    switches=frozenset(("match_expression",)),
    conditions=frozenset(("if_expression",)),
    tables=frozenset(),
    constructions=frozenset(("call_expression",)),
    made=_made,
    cases=_cases,
    test=_test,
    parts=with_else,
    rows=lambda _: (),
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=None,
    aborts=frozenset(("Err", "panic", "unreachable", "todo", "unimplemented", "bail")),
    unwrapped=_unwrapped,
    has_tails=True,
    is_exhaustive=True,
)
