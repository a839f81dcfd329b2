"""How C++ makes things. What a copy shares is said by types there, so no copies are looked into."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.branches import Tested, assigned, call, fallen_through, of_binary, with_else
from urform.existing.sources.code import Branch, CodeGrammar, is_type_name, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact
from urform.existing.sources.trees import Node, text

_MAKER = re.compile(r"(?:std::)?make_(?:unique|shared)<\s*(?:\w+::)*(\w+)")
_HOLDER = re.compile(r"(?:std::)?(?:unique_ptr|shared_ptr)<")
_LITERALS = {
    "number_literal": "number",
    "string_literal": "text",
    "true": "flag",
    "false": "flag",
    "null": "null",
}
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
    return node.child_by_field_name("condition"), fallen_through(map(_case, _each_case(node)))


def _each_case(node: Node) -> list[Node]:
    return trees.named(node.child_by_field_name("body"), "case_statement")


def _case(case: Node) -> tuple[Sequence[Node], Sequence[Node], Node, bool]:
    value = case.child_by_field_name("value")
    body = [each for each in case.named_children if value is None or each.id != value.id]
    return [value] if value is not None else [], body, case, value is None


def _test(node: Node) -> Tested | None:
    if node.type in ("condition_clause", "parenthesized_expression"):
        return _test(node.named_children[0]) if len(node.named_children) == 1 else None
    return of_binary(node, _test, either_way=False) if node.type == "binary_expression" else None


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    return assigned(node, {"declaration": "declarator"}, "init_declarator")


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
    is_held = _HOLDER.match(text(node.child_by_field_name("function")))
    return call(node, file, "" if is_held else _made(node), _LITERALS)


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
    parts=with_else,
    rows=lambda _: (),
    assigned=_assigned,
    constructors=_constructors,
    calls=_calls,
    copies=None,
    aborts=frozenset(("abort", "std::abort", "std::terminate")),
)
