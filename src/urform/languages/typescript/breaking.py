"""Expressions in documents: each rule is named after what prettier's documentation and source (3.x) call it."""

from __future__ import annotations

import re
from functools import lru_cache

from urform.languages.layout.documents import (
    LINE,
    SOFT,
    Break,
    Doc,
    Fill,
    Group,
    IfBroken,
    Indent,
    IndentIfBroken,
    commas,
    joined,
    will_break,
)
from urform.languages.layout.engine import Style, columns
from urform.languages.layout.signs import elements_of
from urform.languages.typescript.parsing import (
    Arrow,
    As,
    Assign,
    Atom,
    Binary,
    Call,
    CannotRead,
    Conditional,
    Grouped,
    Items,
    Member,
    Node,
    Properties,
    Reader,
    Unary,
)
from urform.languages.typescript.types import COMMA, type_doc
from urform.languages.typescript.widths import own_columns

STYLE = Style(width=80, indent="  ", own_columns=own_columns)
SHORT_KEY = 5  # columns: a value never starts a line below so short a key
SURELY_FITS = STYLE.width // 2  # columns: a line of its own has that much room, however deep it lies
LOGICAL = ("&&", "||", "??")
LONE_ARGUMENT = STYLE.width * 0.25  # columns: a call of one shorter argument is not broken within


def expression(text: str) -> Node:
    """Parses an expression; CannotRead where it is not all of the text."""
    reader = Reader(text)
    node = reader.expression()
    if reader.peek():
        raise CannotRead(text)
    return node


def parameter(text: str) -> Doc:
    """A parameter with its type and default."""
    name, colon, type_ = text.partition(": ")
    type_, equals, default = type_.partition(" = ")
    if not colon:
        return text
    return (name, colon, type_doc(type_), equals, doc_of(expression(default)) if default else "")


# --- assignments ---------------------------------------------------------------------------------------------


def assignment(left: str, sign: str, right: Node, *, short_key: bool = False) -> Doc:
    """prettier's layouts `break-after-operator`, `never-break-after-operator` and `fluid`."""
    left_doc = _left(left)
    value = flat_binary(right) if isinstance(right, Binary) else doc_of(right)
    if _breaks_after_operator(right, short_key=short_key):
        return Group((left_doc, sign, Group(Indent((LINE, value)))))
    if _is_complex_annotation(left):
        return Group((left_doc, sign, " ", Group(value)))
    if short_key or (isinstance(right, Atom) and (right.kind == "number" or right.text in ("true", "false"))):
        return Group((left_doc, sign, " ", value))
    return Group(
        (left_doc, sign, Group(Indent(LINE), name="assignment"), IndentIfBroken(value, "assignment"))
    )


def _is_complex_annotation(left: str) -> bool:
    """A variable of a generic type of several arguments, one of which is generic itself."""
    generic = re.fullmatch(r"(?:export )?(?:const|let) [\w$]+: [\w$.]+<(.*)>", left)
    arguments = elements_of(generic[1]) if generic is not None else []
    return len(arguments) > 1 and any(re.fullmatch(r"[\w$.]+<.*>", argument) for argument in arguments)


def _left(left: str) -> Doc:
    before, colon, type_ = left.partition(": ")
    return (before, colon, type_doc(type_)) if colon else left


def _breaks_after_operator(right: Node, *, short_key: bool) -> bool:
    if isinstance(right, Binary):
        return not _inlines(right)
    if isinstance(right, Conditional) and isinstance(right.test, Binary):
        return not _inlines(right.test)
    if short_key:
        return False
    while (isinstance(right, Unary) and right.sign != "...") or (
        isinstance(right, Member) and right.text == "!"
    ):
        right = right.of
    return (isinstance(right, Atom) and right.kind == "text") or _is_poor_chain(right)


def _is_poor_chain(node: Node, *, within: bool = False) -> bool:
    """A chain of members, with calls of one short argument at most: it is not broken within."""
    match node:
        case Call(makes=False) if _calls(node) is not None:
            return False
        case Call(callee, types, arguments, makes=False):
            lone = not arguments or (len(arguments) == 1 and _is_short(arguments[0]))
            return lone and "," not in types and _is_poor_chain(callee, within=True)
        case Member(of):
            return _is_poor_chain(of, within=True)
        case Atom(kind="name"):
            return within
    return False


def _is_short(node: Node) -> bool:
    match node:
        case Atom("this"):
            return True
        case Atom(text, kind="name" | "text"):
            return columns(text, STYLE) <= LONE_ARGUMENT
        case Atom(kind="number"):
            return True
        case Unary(sign, of):
            return sign != "..." and _is_short(of)
        case Call(Atom(text, kind="name"), _, (), makes=False):
            return columns(text, STYLE) <= LONE_ARGUMENT - 2
        case Properties(()) | Items(()):
            return True
    return False


# --- expressions ------------------------------------------------------------------------------------------


def doc_of(node: Node) -> Doc:
    """An expression as a document."""
    match node:
        case Atom(text):
            return text
        case Call(Member()) if not node.makes and (chain := _calls(node)) is not None:
            return chain
        case Call():
            new = "new " if node.makes else ""
            return _beside(new, doc_of(node.callee), node.types, _arguments(node.arguments))
        case Member(of, text):
            return _beside(doc_of(of), text)
        case Items(items):
            return _array(items)
        case Properties(pairs):
            return _object(pairs)
        case Arrow():
            return _arrow(node)
        case Binary():
            return _chain(node)
        case Conditional(test, consequent, alternate):
            asked = flat_binary(test) if isinstance(test, Binary) else doc_of(test)
            one, other = Indent(doc_of(consequent)), Indent(doc_of(alternate))
            return Group((asked, Indent((LINE, "? ", one, LINE, ": ", other))))
        case Unary(sign, Grouped(Binary() as inner)):
            return (sign, "(", Group((Indent((SOFT, *operands(inner))), SOFT)), ")")
        case Unary(sign, of):
            return _beside(f"{sign} " if sign.isalpha() else sign, doc_of(of))
        case As(of, type_):
            return _beside(doc_of(of), f" as {type_}")
        case Assign(left, right):
            value = flat_binary(right) if isinstance(right, Binary) else doc_of(right)
            if _breaks_after_operator(right, short_key=False):
                return Group((doc_of(left), " =", Group(Indent((LINE, value)))))
            return (doc_of(left), " = ", value)
        case Grouped(inner):
            return ("(", doc_of(inner), ")")


def _calls(node: Call) -> Doc | None:
    """prettier's `printMemberChain`: what is called on a result of a call begins a line, where they do not all fit on one."""
    calls: list[Call] = []
    head: Node = node
    while (
        isinstance(head, Call)
        and not head.makes
        and isinstance(head.callee, Member)
        and head.callee.text[0] == "."
    ):
        calls.insert(0, head)
        head = head.callee.of
    merged = (
        isinstance(head, Atom) and head.text[:1].isupper()
    )  # `Object.keys(…)`: a class and its first call
    if len(calls) <= 1 + merged:
        return None
    links = [_beside(_member(call), call.types, _arguments(call.arguments)) for call in calls]
    first = _beside(doc_of(head), *links[:merged])
    broken = Group(
        (first, Indent(tuple(part for link in links[merged:] for part in (SOFT, link)))), broken=True
    )
    simple = all(_is_simple(argument) for call in calls for argument in call.arguments)
    if (len(calls) > 2 and not simple) or any(map(will_break, links[:-1])):
        return broken
    plain = (first, *links[merged:])
    return Group(plain, states=(plain, broken))


def _member(call: Call) -> str:
    assert isinstance(call.callee, Member), "it was called on something"
    return call.callee.text


DEEPEST = 2  # levels of a simple argument: what is nested deeper is not


def _is_simple(node: Node, depth: int = 0) -> bool:
    """prettier's `isSimpleCallArgument`."""
    if depth >= DEEPEST:
        return False
    match node:
        case Atom():
            return True
        case Items(items):
            return all(_is_simple(item, depth + 1) for item in items)
        case Properties(pairs):
            return all(value is None or (bool(key) and _is_simple(value, depth + 1)) for key, value in pairs)
        case Call(callee, _, arguments):
            return _is_simple(callee, depth) and all(_is_simple(each, depth + 1) for each in arguments)
        case Member(of):
            return _is_simple(of, depth)
        case Unary(sign, of):
            return sign in ("-", "+", "!", "~") and _is_simple(of, depth)
    return False


def _beside(*parts: Doc) -> Doc:
    """Parts with no line end between them: one text, where all of them are."""
    texts = [part for part in parts if isinstance(part, str)]
    return "".join(texts) if len(texts) == len(parts) else parts


def _array(items: tuple[Node, ...]) -> Doc:
    if not items:
        return "[]"
    if _is_numbers(items):
        parts: list[Doc] = []
        for number, item in enumerate(items):
            last = number == len(items) - 1
            parts += [(doc_of(item), "" if last else ","), *([] if last else [LINE])]
        comma = IfBroken(",", name="array")
        return Group(("[", Indent((SOFT, Fill((*parts[:-1], (parts[-1], comma))))), SOFT, "]"), name="array")
    inner = commas(map(_group_of, items))
    return Group(("[", Indent((SOFT, inner, COMMA)), SOFT, "]"), broken=_is_matrix(items))


def _group_of(node: Node) -> Doc:
    doc = doc_of(node)
    return doc if isinstance(doc, str) else Group(doc)


def _is_numbers(items: tuple[Node, ...]) -> bool:
    return bool(items) and all(
        (isinstance(item, Atom) and item.kind == "number")
        or (
            isinstance(item, Unary)
            and item.sign == "-"
            and isinstance(item.of, Atom)
            and item.of.kind == "number"
        )
        for item in items
    )


def _is_matrix(items: tuple[Node, ...]) -> bool:
    """Several arrays, or several objects, each of several: they never share a line."""
    if len(items) < 2:
        return False
    return all(isinstance(item, Items) and len(item.items) > 1 for item in items) or all(
        isinstance(item, Properties) and len(item.pairs) > 1 for item in items
    )


@lru_cache(maxsize=1024)  # tests make one object again and again
def _object(pairs: tuple[tuple[str, Node | None], ...]) -> Doc:
    if not pairs:
        return "{}"
    return Group(("{", Indent((LINE, commas(_pair(*pair) for pair in pairs), COMMA)), LINE, "}"))


def _pair(key: str, value: Node | None) -> Doc:
    if value is None:
        return key
    if not key:
        return doc_of(value)
    if isinstance(value, Atom) and columns(key, STYLE) + columns(value.text, STYLE) < SURELY_FITS:
        return f"{key}: {value.text}"
    return assignment(key, ":", value, short_key=columns(key, STYLE) < SHORT_KEY)


def _arrow(node: Arrow, *, last: bool = False) -> Doc:
    """`last`: it is the last argument of a call, which holds it in its arms."""
    listed = map(parameter, node.parameters)
    if not node.parameters:
        given: Doc = "()"
    elif last:
        given = ("(", joined(", ", listed), ")")
    else:
        given = ("(", Indent((SOFT, commas(listed), COMMA)), SOFT, ")")
    head = (Group((given, node.returns)), " =>")
    body = node.body
    if isinstance(body, Grouped) and isinstance(body.inner, Conditional):
        body = body.inner  # in parentheses where it is on one line
    if body is None:
        return Group((*head, Group(" {")))
    if isinstance(body, (Items, Properties)) or (
        isinstance(body, Grouped) and isinstance(body.inner, Properties)
    ):
        return Group((*head, Group((" ", doc_of(body)))))
    end = (COMMA, SOFT) if last else ()
    if isinstance(
        body, Conditional
    ):  # the space before it takes a column of the line that it is broken from, too
        parts = (IfBroken("", "("), Indent((SOFT, doc_of(body))), IfBroken("", ")"), *end)
        return Group((*head, " ", Group(parts)))
    inner = flat_binary(body) if isinstance(body, Binary) else doc_of(body)
    return Group((*head, Group((Indent((LINE, inner)), *end))))


# --- operators ------------------------------------------------------------------------------------------


def _inlines(node: Binary) -> bool:
    """Whether what stands right of `&&`, `||`, `??` stays on its line: it has brackets of its own."""
    if node.sign not in LOGICAL:
        return False
    right = node.right
    return (isinstance(right, Properties) and bool(right.pairs)) or (
        isinstance(right, Items) and bool(right.items)
    )


def operands(node: Binary, *, within: bool = False, parent: str = "") -> list[Doc]:
    """Operands of one strength are parts of one group; `within` the parentheses of a statement they have no other.

    What stands right of the sign is a group of its own, but beside operators of its kind, which `parent` may be.
    """
    left, kind = node.left, _kind(node)
    parts: list[Doc]
    if isinstance(left, Binary) and left.sign == node.sign and node.sign in (*LOGICAL, "+"):
        parts = operands(left, within=within, parent=kind)
    else:
        before = _operand(left, kind)
        parts = [before if isinstance(before, str) else Group(before)]
    between = " " if _inlines(node) else LINE
    right: Doc = (node.sign, between, _operand(node.right, kind))
    joins = within and kind == "logical"  # a comparison is a group even there
    alone = not joins and kind not in (parent, _kind(left), _kind(node.right))
    return [*parts, " ", Group(right) if alone else right]


def _operand(node: Node, parent: str) -> Doc:
    if isinstance(node, Grouped) and isinstance(node.inner, Binary):
        return ("(", _chain(node.inner, parent), ")")
    return _chain(node, parent) if isinstance(node, Binary) else doc_of(node)


def _chain(node: Binary, parent: str = "") -> Doc:
    """Operands that are indented below the first, unless the last one has brackets of its own."""
    first, *rest = operands(node, parent=parent)
    return Group((first, *rest)) if _inlines(node) else Group((first, Indent(tuple(rest))))


def _kind(node: Node) -> str:
    """Which of the two kinds of operators: those of conditions, or of comparisons and sums; empty for neither."""
    inner = node.inner if isinstance(node, Grouped) else node
    if not isinstance(inner, Binary):
        return ""
    return "logical" if inner.sign in LOGICAL else "other"


def flat_binary(node: Binary) -> Doc:
    """Operands that are not indented: what is around them is."""
    return Group(tuple(operands(node)))


def returned(node: Node) -> Doc:
    """What is returned or thrown: operands in parentheses of their own, where they do not fit."""
    if isinstance(node, Binary):
        parts = tuple(operands(node))
        return Group((IfBroken("("), Indent((SOFT, Group(parts))), SOFT, IfBroken(")")))
    return doc_of(node)


# --- arguments ------------------------------------------------------------------------------------------


def _arguments(nodes: tuple[Node, ...]) -> Doc:
    """All on one line; or the last one held in the arms of the call; or each on a line of its own."""
    if not nodes:
        return "()"
    docs = [doc_of(node) for node in nodes]
    apart = Group(("(", Indent((SOFT, commas(docs), COMMA)), SOFT, ")"), broken=True)
    if _composes(nodes):
        return apart
    if _holds_last(nodes):
        *before, _ = docs
        if any(map(will_break, before)):
            return apart
        last = _arrow(nodes[-1], last=True) if isinstance(nodes[-1], Arrow) else docs[-1]
        head: tuple[Doc, ...] = tuple((doc, ", ") for doc in before)
        hugging: Doc = ("(", *head, Group(last, broken=True), ")")
        if will_break(last):
            return (Break(), Group(hugging, states=(hugging, apart)))
        plain: Doc = ("(", *head, last, ")")
        return Group(plain, states=(plain, hugging, apart))
    inner = commas(docs)
    return Group(("(", Indent((SOFT, inner, COMMA)), SOFT, ")"), broken=any(map(will_break, docs)))


def _composes(nodes: tuple[Node, ...]) -> bool:
    """Two functions, or a call that is given one, beside others: function composition."""
    if len(nodes) < 2:
        return False
    if sum(isinstance(node, Arrow) for node in nodes) > 1:
        return True
    calls = [node for node in nodes if isinstance(node, Call) and not node.makes]
    return any(isinstance(argument, Arrow) for call in calls for argument in call.arguments)


def _holds_last(nodes: tuple[Node, ...]) -> bool:
    *before, last = nodes
    if not _can_be_held(last) or (before and type(before[-1]) is type(last)):
        return False
    if len(nodes) == 2 and isinstance(before[0], Arrow) and isinstance(last, Items):
        return False
    return not (before and isinstance(last, Items) and _is_numbers(last.items))


def _can_be_held(node: Node) -> bool:
    match node:
        case Properties(pairs):
            return bool(pairs)
        case Items(items):
            return bool(items)
        case As(of):
            return _can_be_held(of)
        case Arrow(body=None):
            return True
        case Arrow(body=body):
            inner = body.inner if isinstance(body, Grouped) else body
            while isinstance(inner, Member) and inner.text == "!":
                inner = inner.of
            if isinstance(inner, Call):
                return not inner.makes
            return isinstance(inner, (Items, Properties, Conditional))
    return False
