"""How C++ makes things. What a copy shares is said by types there, so no copies are looked into."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.code import Branch, CodeGrammar, is_code, is_type_name, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.trees import Node, text

_MAKER = re.compile(r"(?:std::)?make_(?:unique|shared)<\s*(?:\w+::)*(\w+)")
_HOLDER = re.compile(r"(?:std::)?(?:unique_ptr|shared_ptr)<")
_CLASSES = ("class_specifier", "struct_specifier")


def _last(name: str) -> str:
    return name.partition("<")[0].rpartition("::")[2]


def _made(node: Node) -> str:
    if node.type == "new_expression":
        return _last(text(node.child_by_field_name("type")))
    if node.type != "call_expression":
        return ""
    called = text(node.child_by_field_name("function"))
    if found := _MAKER.match(called):
        return found[1]
    given = node.child_by_field_name("arguments").named_children
    if _HOLDER.match(called):
        return _made(given[0]) if len(given) == 1 else ""
    name = _last(called)
    return name if "." not in called and "->" not in called and is_type_name(name) else ""


def _cases(node: Node) -> tuple[Node | None, Sequence[Branch]]:
    branches: list[Branch] = []
    waiting: list[Node] = []  # labels whose statements come with later ones
    for case in trees.named(node.child_by_field_name("body"), "case_statement"):
        value = case.child_by_field_name("value")
        body = tuple(each for each in case.named_children if value is None or each.id != value.id)
        if value is None:
            branches.append(Branch((), body, case))
            waiting = []
            continue
        waiting.append(value)
        if body:
            branches.append(Branch(tuple(waiting), body, case))
            waiting = []
    return node.child_by_field_name("condition"), branches


def _test(node: Node) -> tuple[str, tuple[Node, ...]] | None:
    if node.type in ("condition_clause", "parenthesized_expression"):
        return _test(node.named_children[0]) if len(node.named_children) == 1 else None
    if node.type != "binary_expression":
        return None
    operator = text(node.child_by_field_name("operator"))
    left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
    if operator == "||":
        one, other = _test(left), _test(right)
        return (one[0], one[1] + other[1]) if one and other and one[0] == other[0] else None
    return (text(left), (right,)) if operator == "==" and is_code(right) and not is_code(left) else None


def _parts(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    clause = node.child_by_field_name("alternative")
    return (
        node.child_by_field_name("condition"),
        (node.child_by_field_name("consequence"),),
        tuple(clause.named_children) if clause is not None else None,
    )


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    if node.type == "declaration":
        declarator = trees.first(node, "init_declarator")
        if declarator is None:
            return None
        return text(declarator.child_by_field_name("declarator")).strip(
            "*& "
        ), declarator.child_by_field_name("value")
    inner = trees.first(node, "assignment_expression") if node.type == "expression_statement" else None
    return (
        (text(inner.child_by_field_name("left")), inner.child_by_field_name("right"))
        if inner is not None
        else None
    )


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for node in trees.everywhere(root, *_CLASSES):
        name = text(node.child_by_field_name("name"))
        for member in trees.named(node.child_by_field_name("body"), "declaration", "function_definition"):
            declarator = member.child_by_field_name("declarator")
            is_one = declarator is not None and declarator.type == "function_declarator"
            if is_one and text(declarator.child_by_field_name("declarator")) == name:
                yield ConstructorFact(region(member, file), name, tuple(_parameters(declarator)))


def _parameters(declarator: Node) -> Iterator[tuple[str, str]]:
    kinds = ("parameter_declaration", "optional_parameter_declaration")
    for each in trees.named(declarator.child_by_field_name("parameters"), *kinds):
        inner = each.child_by_field_name("declarator")
        yield text(inner).strip("*& "), text(each.child_by_field_name("type"))


def _calls(node: Node, file: str) -> CallFact | None:
    name = _made(node)
    arguments = node.child_by_field_name("arguments")
    if not name or arguments is None or _HOLDER.match(text(node.child_by_field_name("function"))):
        return None
    return CallFact(region(node, file), name, tuple(map(_literal, arguments.named_children)))


def _literal(node: Node) -> str:
    kinds = {
        "number_literal": "number",
        "string_literal": "text",
        "true": "flag",
        "false": "flag",
        "null": "null",
    }
    return kinds.get(node.type, "")


CODE = CodeGrammar(
    functions=frozenset(("function_definition", "lambda_expression")),
    blocks=frozenset(("compound_statement", "translation_unit")),
    returns=frozenset(("return_statement",)),
    throws=frozenset(("throw_statement",)),
    nulls=frozenset(("nullptr", "NULL", "{}")),
    switches=frozenset(("switch_statement",)),
    conditions=frozenset(("if_statement",)),
    tables=frozenset(),
    constructions=frozenset(("new_expression", "call_expression")),
    made=_made,
    cases=_cases,
    test=_test,
    parts=_parts,
    rows=lambda _: (),
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=lambda root, file, types: iter(()),
    aborts=frozenset(("abort", "std::abort", "std::terminate")),
)
