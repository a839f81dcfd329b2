"""What several languages have alike: conditions that compare with keys, what follows an `if`, labels that share statements."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping, Sequence

from urform.existing.sources import trees
from urform.existing.sources.code import Branch, is_code, region
from urform.existing.sources.code_facts import CallFact
from urform.existing.sources.trees import Node, text

Tested = tuple[str, tuple[Node, ...]]  # a subject, and the keys that it is compared with


def with_keys(left: Node, right: Node, *, either_way: bool = True) -> Tested | None:
    """Two sides of which one is a key."""
    if is_code(right) and not is_code(left):
        return text(left), (right,)
    return (text(right), (left,)) if either_way and is_code(left) and not is_code(right) else None


def of_binary(
    node: Node,
    test: Callable[[Node], Tested | None],
    *,
    equals: Collection[str] = ("==",),
    either: str = "||",
    either_way: bool = True,
) -> Tested | None:
    """What an operator compares; of two comparisons with one subject, the keys of both."""
    operator = text(node.child_by_field_name("operator"))
    left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
    if operator == either:
        one, other = test(left), test(right)
        return (one[0], one[1] + other[1]) if one and other and one[0] == other[0] else None
    return with_keys(left, right, either_way=either_way) if operator in equals else None


def with_else(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    """The parts of an `if` whose `else` is a node of its own."""
    clause = node.child_by_field_name("alternative")
    return (
        node.child_by_field_name("condition"),
        (node.child_by_field_name("consequence"),),
        tuple(clause.named_children) if clause is not None else None,
    )


def fallen_through(cases: Iterable[tuple[Sequence[Node], Sequence[Node], Node, bool]]) -> list[Branch]:
    """Branches of cases with labels, statements, their node, and whether they stand for every other key. Labels without
    statements have those of the next."""
    branches: list[Branch] = []
    waiting: list[Node] = []
    for labels, body, node, is_default in cases:
        waiting.extend(labels)
        if is_default:
            branches.append(Branch((), tuple(body), node))
            waiting = []
        elif body:
            branches.append(Branch(tuple(waiting), tuple(body), node))
            waiting = []
    return branches


def assigned(node: Node, declarations: Mapping[str, str], declarator: str) -> tuple[str, Node | None] | None:
    """The name and the value of an assignment, or of a declaration: by the type of its node, the field that has its name."""
    if node.type in declarations:
        inner = trees.first(node, declarator) if declarator else node
        if inner is None:
            return None
        return text(inner.child_by_field_name(declarations[node.type])).strip(
            "*& "
        ), inner.child_by_field_name("value")
    inner = trees.first(node, "assignment_expression") if node.type == "expression_statement" else None
    return (
        (text(inner.child_by_field_name("left")), inner.child_by_field_name("right"))
        if inner is not None
        else None
    )


def call(node: Node, file: str, made: str, literals: Mapping[str, str], by_name: str = "") -> CallFact | None:
    """A construction of what is `made`, where it is something, and has arguments; `literals` are kinds by types of nodes."""
    arguments = node.child_by_field_name("arguments")
    if not made or arguments is None:
        return None
    given = arguments.named_children
    kinds = tuple(literals.get(each.type, "") for each in given)
    return CallFact(region(node, file), made, kinds, any(each.type == by_name for each in given))
