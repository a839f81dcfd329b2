"""How Java makes things."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.code import Branch, CodeGrammar, is_code, region
from urform.existing.sources.code_facts import CallFact, ConstructorFact, CopyFact
from urform.existing.sources.copies import CopyWords, Method, copies
from urform.existing.sources.facts import TypeFact
from urform.existing.sources.trees import Node, text

_EQUALS = ("equals", "equalsIgnoreCase", "contentEquals")
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
    branches: list[Branch] = []
    waiting: list[Node] = []  # labels whose statements come with later ones
    for group in trees.named(node.child_by_field_name("body"), "switch_block_statement_group", "switch_rule"):
        labels = trees.named(group, "switch_label")
        body = tuple(each for each in group.named_children if each.type != "switch_label")
        is_default = any(text(each).startswith("default") for each in labels)
        waiting.extend(label for each in labels for label in each.named_children)
        if is_default:
            branches.append(Branch((), body, group))
            waiting = []
        elif body:
            branches.append(Branch(tuple(waiting), body, group))
            waiting = []
    return node.child_by_field_name("condition"), branches


def _test(node: Node) -> tuple[str, tuple[Node, ...]] | None:
    if node.type == "parenthesized_expression":
        return _test(node.named_children[0])
    if node.type == "binary_expression":
        operator = text(node.child_by_field_name("operator"))
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        if operator == "||":
            one, other = _test(left), _test(right)
            return (one[0], one[1] + other[1]) if one and other and one[0] == other[0] else None
        return _pair(left, right) if operator == "==" else None
    if node.type == "method_invocation" and text(node.child_by_field_name("name")) in _EQUALS:
        given = node.child_by_field_name("arguments").named_children
        owner = node.child_by_field_name("object")
        return _pair(owner, given[0]) if owner is not None and len(given) == 1 else None
    return None


def _pair(left: Node, right: Node) -> tuple[str, tuple[Node, ...]] | None:
    if is_code(right) and not is_code(left):
        return text(left), (right,)
    return (text(right), (left,)) if is_code(left) and not is_code(right) else None


def _parts(node: Node) -> tuple[Node | None, Sequence[Node], Sequence[Node] | None]:
    alternative = node.child_by_field_name("alternative")
    return (
        node.child_by_field_name("condition"),
        (node.child_by_field_name("consequence"),),
        (alternative,) if alternative is not None else None,
    )


def _assigned(node: Node) -> tuple[str, Node | None] | None:
    if node.type == "local_variable_declaration":
        declarator = node.child_by_field_name("declarator")
        return text(declarator.child_by_field_name("name")), declarator.child_by_field_name("value")
    inner = trees.first(node, "assignment_expression") if node.type == "expression_statement" else None
    return (
        (text(inner.child_by_field_name("left")), inner.child_by_field_name("right"))
        if inner is not None
        else None
    )


def _constructors(root: Node, file: str) -> Iterator[ConstructorFact]:
    for node in trees.everywhere(root, "constructor_declaration", "record_declaration"):
        parameters = trees.named(node.child_by_field_name("parameters"), "formal_parameter")
        typed = tuple(
            (text(each.child_by_field_name("name")), text(each.child_by_field_name("type")))
            for each in parameters
        )
        yield ConstructorFact(region(node, file), text(node.child_by_field_name("name")), typed)


def _calls(node: Node, file: str) -> CallFact | None:
    if node.type != "object_creation_expression" or not (name := _made(node)):
        return None
    return CallFact(
        region(node, file), name, tuple(map(_literal, node.child_by_field_name("arguments").named_children))
    )


def _literal(node: Node) -> str:
    if node.type.endswith(("integer_literal", "floating_point_literal")):
        return "number"
    return {"string_literal": "text", "true": "flag", "false": "flag", "null_literal": "null"}.get(
        node.type, ""
    )


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


def _copies(root: Node, file: str, types: Sequence[TypeFact]) -> Iterator[CopyFact]:
    return copies(root, file, types, _COPIES)


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
    copies=_copies,
)
