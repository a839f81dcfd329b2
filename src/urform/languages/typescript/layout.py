"""Logical lines broken as prettier breaks them, at its defaults: 80 columns, two blanks, trailing commas.

Each rule is named after what prettier's own documentation and source (3.x) call it; `documents.py` prints what comes of it.
"""

from __future__ import annotations

import re
from functools import lru_cache

from urform.languages.documents import (
    LINE,
    SOFT,
    Break,
    Doc,
    Fill,
    Group,
    IfBroken,
    Indent,
    IndentIfBroken,
    Page,
    joined,
    will_break,
)
from urform.languages.layout import Style, columns
from urform.languages.signs import elements_of, outside
from urform.languages.typescript.parsing import (
    Arrow,
    As,
    Assign,
    Atom,
    Binary,
    Call,
    CannotRead,
    Grouped,
    Items,
    Member,
    Node,
    Properties,
    Reader,
    Unary,
)

STYLE = Style(width=80, indent="  ")
SHORT_KEY = 5  # columns: a value never starts a line below so short a key
LONE_ARGUMENT = STYLE.width * 0.25  # columns: a call of one shorter argument is not broken within
_COMMA = IfBroken(",")
_ASSIGNMENT = re.compile(
    r"(?P<left>(?:export )?(?:const|let) [\w$]+(?:: (?P<type>.+?))?|(?:[\w#.]|\[\d\]|!)+|"
    r"(?:(?:readonly|private|static|override) )*#?[\w$]+(?:: .+?)?) (?P<sign>=|\?\?=|\+=) (?P<right>.+);"
)
_RETURNS = re.compile(r"(?:: (?P<type>.*?))?(?P<end> \{|;)")
_BLOCK = re.compile(r"(?P<before>(?:\} else )?(?:if|switch|while) \()(?P<inner>.*)(?P<after>\) \{)")
_LOOP = re.compile(r"(?P<before>for \((?:const|let) [\w\[\], ]+ of )(?P<inner>.*)(?P<after>\) \{)")
_NAMES = re.compile(r"(?P<before>(?:import|export)(?: type)?) \{ (?P<names>.*) \}(?P<after>.*;)")
_FUNCTION = re.compile(r"(?:export |abstract |static |override |get |set |async |function )*#?[\w$]+\(")
_PROPERTY = re.compile(
    r"(?P<before>(?:(?:readonly|abstract|static|override) )*#?[\w$]+\??!?: )(?P<type>[^=(]*);"
)
_ALIAS = re.compile(r"(?P<before>export type [\w$]+) = (?P<type>.*);")
_KEPT = ("//", "/*", "*", "test(", "import * ")


def lay_out(text: str) -> str:
    """The text with every line broken that is too long, or that has what never shares a line."""
    return "\n".join(_line(line) for line in text.split("\n"))


@lru_cache(maxsize=4096)
def _line(line: str) -> str:
    stripped = line.lstrip(" ")
    if stripped.startswith(_KEPT) or (
        columns(line, STYLE) <= STYLE.width and "[[" not in line and "[{" not in line
    ):
        return line
    level = (len(line) - len(stripped)) // len(STYLE.indent)
    try:
        doc = _statement(stripped)
    except CannotRead:
        return line
    page = Page(STYLE.width, STYLE.indent, lambda part: columns(part, STYLE))
    return STYLE.indent * level + page.text(doc, level)


# --- statements -----------------------------------------------------------------------------------------------


def _statement(line: str) -> Doc:
    names = _NAMES.fullmatch(line)
    if names is not None:
        listed = joined((",", LINE), elements_of(names["names"]))
        return Group((f"{names['before']} {{", Indent((LINE, listed, _COMMA)), LINE, "}", names["after"]))
    block = _BLOCK.fullmatch(line) or _LOOP.fullmatch(line)
    if block is not None:
        inner = _expression(block["inner"])
        negated = _negated(inner)
        if negated is not None:
            parts = tuple(_operands(negated, within=True))
            return Group((block["before"], "!(", Indent((SOFT, parts)), SOFT, ")", block["after"]))
        doc = tuple(_operands(inner, within=True)) if isinstance(inner, Binary) else _doc(inner)
        if _LOOP.fullmatch(line):
            return (block["before"], doc, block["after"])
        return Group((block["before"], Group((Indent((SOFT, doc)), SOFT)), block["after"]))
    alias = _ALIAS.fullmatch(line)
    if alias is not None:
        return _alias(alias["before"], alias["type"])
    for word in ("return ", "throw "):
        if line.startswith(word):
            return (word, _returned(_expression(_without_end(line[len(word) :]))), ";")
    function = _function(line) if _FUNCTION.match(line) else None
    if function is not None:
        return function
    typed = _PROPERTY.fullmatch(line)
    if typed is not None:
        return (typed["before"], _type(typed["type"]), ";")
    assigned = _ASSIGNMENT.fullmatch(line)
    if assigned is not None:
        return (_assignment(assigned["left"], f" {assigned['sign']}", _expression(assigned["right"])), ";")
    if line.endswith(" => {"):
        return _assigned_function(line)
    return (_doc(_expression(_without_end(line))), ";")


def _negated(node: Node) -> Binary | None:
    """The condition that is negated as a whole."""
    inner = node.of if isinstance(node, Unary) and node.sign == "!" else None
    return inner.inner if isinstance(inner, Grouped) and isinstance(inner.inner, Binary) else None


def _without_end(line: str) -> str:
    if not line.endswith(";"):
        raise CannotRead(line)
    return line[:-1]


def _expression(text: str) -> Node:
    reader = Reader(text)
    found = reader.expression()
    if reader.peek():
        raise CannotRead(text)
    return found


def _assigned_function(line: str) -> Doc:
    left, _, right = line.partition(" = ")
    return _assignment(left, " =", _expression(right))


def _function(line: str) -> Doc | None:
    """Parameters on one line, or each on its own. What is returned is not broken for them."""
    start = line.index("(")
    end = next(at for at, char in enumerate(outside(line[start:]), start) if char == ")")
    rest = _RETURNS.fullmatch(line, end + 1)
    if rest is None or (rest["end"] == ";" and rest["type"] is None):
        return None  # a call
    listed = list(elements_of(line[start + 1 : end]))
    given: Doc = ("(", Indent((SOFT, joined((",", LINE), map(_parameter, listed)), _COMMA)), SOFT, ")")
    result: Doc = (": ", _type(rest["type"])) if rest["type"] else ""
    return (line[:start], Group((given if listed else "()", result)), rest["end"])


def _parameter(text: str) -> Doc:
    name, colon, type_ = text.partition(": ")
    type_, equals, default = type_.partition(" = ")
    if not colon:
        return text
    return (name, colon, _type(type_), equals, _doc(_expression(default)) if default else "")


def _alias(before: str, type_: str) -> Doc:
    parts = _union(type_)
    function = re.fullmatch(r"\((.*)\) => (.*)", type_)
    if function is not None:
        listed = joined((",", LINE), map(_parameter, elements_of(function[1])))
        given: Doc = ("(", Indent((SOFT, listed, _COMMA)), SOFT, ")") if function[1] else "()"
        return Group((before, " = ", Group((given, " => ", _type(function[2]))), ";"))
    if len(parts) == 1:
        return (before, " =", Group(Indent((LINE, _type(type_)))), ";")
    return Group((before, " =", Group(Indent((LINE, _alternatives(parts)))), ";"))


# --- types ----------------------------------------------------------------------------------------------------


def _union(type_: str) -> list[str]:
    parts, depth, begin = [], 0, 0
    for at, char in enumerate(type_):
        depth += (char in "([{<") - (char in ")]}" or (char == ">" and type_[at - 1] != "="))
        if depth == 0 and type_[at : at + 3] == " | ":
            parts.append(type_[begin:at])
            begin = at + 3
    return [*parts, type_[begin:]]


def _alternatives(parts: list[str]) -> Doc:
    first, *others = parts
    return Group((IfBroken("| "), _type(first), *((LINE, "| ", _type(part)) for part in others)))


def _type(type_: str) -> Doc:
    parts = _union(type_)
    if len(parts) > 1:
        return Group(Indent((SOFT, _alternatives(parts))))
    generic = re.fullmatch(r"((?:readonly )?[\w$.]+)<(.*)>((?:\[\])*)", type_)
    if generic is None:
        return type_
    arguments = list(elements_of(generic[2]))
    if len(arguments) == 1:
        return (f"{generic[1]}<", _type(arguments[0]), f">{generic[3]}")
    inner = joined((",", LINE), map(_argument_type, arguments))
    return (f"{generic[1]}<", Group((Indent((SOFT, inner)), SOFT)), f">{generic[3]}")


def _argument_type(type_: str) -> Doc:
    """An argument of a generic type: a union is not indented once more."""
    parts = _union(type_)
    return _alternatives(parts) if len(parts) > 1 else _type(type_)


# --- assignments ----------------------------------------------------------------------------------------------


def _assignment(left: str, sign: str, right: Node, *, short_key: bool = False) -> Doc:
    """prettier's layouts `break-after-operator`, `never-break-after-operator` and `fluid`."""
    left_doc = _left(left)
    value = _flat_binary(right) if isinstance(right, Binary) else _doc(right)
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
    arguments = list(elements_of(generic[1])) if generic is not None else []
    return len(arguments) > 1 and any(re.fullmatch(r"[\w$.]+<.*>", argument) for argument in arguments)


def _left(left: str) -> Doc:
    before, colon, type_ = left.partition(": ")
    return (before, colon, _type(type_)) if colon else left


def _breaks_after_operator(right: Node, *, short_key: bool) -> bool:
    if isinstance(right, Binary):
        return not _inlines(right)
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


# --- expressions ----------------------------------------------------------------------------------------------


def _doc(node: Node) -> Doc:
    match node:
        case Atom(text):
            return text
        case Call():
            new = "new " if node.makes else ""
            return (new, _doc(node.callee), node.types, _arguments(node.arguments))
        case Member(of, text):
            return (_doc(of), text)
        case Items(items):
            return _array(items)
        case Properties(pairs):
            return _object(pairs)
        case Arrow():
            return _arrow(node)
        case Binary() if _inlines(node):
            return _flat_binary(node)
        case Binary():
            first, *rest = _operands(node)
            return Group((first, Indent(tuple(rest))))
        case Unary(sign, Grouped(Binary() as inner)):
            return (sign, "(", Group((Indent((SOFT, *_operands(inner))), SOFT)), ")")
        case Unary(sign, of):
            return (sign, " " if sign.isalpha() else "", _doc(of))
        case As(of, type_):
            return (_doc(of), f" as {type_}")
        case Assign(left, right):
            value = _flat_binary(right) if isinstance(right, Binary) else _doc(right)
            if _breaks_after_operator(right, short_key=False):
                return Group((_doc(left), " =", Group(Indent((LINE, value)))))
            return (_doc(left), " = ", value)
        case Grouped(inner):
            return ("(", _doc(inner), ")")


def _array(items: tuple[Node, ...]) -> Doc:
    if not items:
        return "[]"
    if _is_numbers(items):
        parts: list[Doc] = []
        for number, item in enumerate(items):
            last = number == len(items) - 1
            parts += [(_doc(item), "" if last else ","), *([] if last else [LINE])]
        comma = IfBroken(",", name="array")
        return Group(("[", Indent((SOFT, Fill((*parts[:-1], (parts[-1], comma))))), SOFT, "]"), name="array")
    inner = joined((",", LINE), (Group(_doc(item)) for item in items))
    return Group(("[", Indent((SOFT, inner, _COMMA)), SOFT, "]"), broken=_is_matrix(items))


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


def _object(pairs: tuple[tuple[str, Node | None], ...]) -> Doc:
    if not pairs:
        return "{}"
    return Group(
        ("{", Indent((LINE, joined((",", LINE), (_pair(*pair) for pair in pairs)), _COMMA)), LINE, "}")
    )


def _pair(key: str, value: Node | None) -> Doc:
    if value is None:
        return key
    if not key:
        return _doc(value)
    return _assignment(key, ":", value, short_key=columns(key, STYLE) < SHORT_KEY)


def _arrow(node: Arrow, *, last: bool = False) -> Doc:
    """`last`: it is the last argument of a call, which holds it in its arms."""
    listed = map(_parameter, node.parameters)
    if not node.parameters:
        given: Doc = "()"
    elif last:
        given = ("(", joined(", ", listed), ")")
    else:
        given = ("(", Indent((SOFT, joined((",", LINE), listed), _COMMA)), SOFT, ")")
    head = (Group((given, node.returns)), " =>")
    body = node.body
    if body is None:
        return Group((*head, Group(" {")))
    if isinstance(body, (Items, Properties)) or (
        isinstance(body, Grouped) and isinstance(body.inner, Properties)
    ):
        return Group((*head, Group((" ", _doc(body)))))
    inner = _flat_binary(body) if isinstance(body, Binary) else _doc(body)
    return Group((*head, Group((Indent((LINE, inner)), *((_COMMA, SOFT) if last else ())))))


# --- operators ------------------------------------------------------------------------------------------------


def _inlines(node: Binary) -> bool:
    """Whether what stands right of `&&`, `||`, `??` stays on its line: it has brackets of its own."""
    if node.sign not in ("&&", "||", "??"):
        return False
    right = node.right
    return (isinstance(right, Properties) and bool(right.pairs)) or (
        isinstance(right, Items) and bool(right.items)
    )


def _operands(node: Binary, *, within: bool = False) -> list[Doc]:
    """Operands of one strength are parts of one group; `within` the parentheses of a statement they have no other."""
    left = node.left
    parts: list[Doc]
    if isinstance(left, Binary) and left.sign == node.sign and node.sign in ("&&", "||", "??", "+"):
        parts = _operands(left, within=within)
    else:
        parts = [Group(_doc(left))]
    right: Doc = (node.sign, " ", _doc(node.right)) if _inlines(node) else (node.sign, LINE, _doc(node.right))
    alone = not within and not _is_binary(left) and not _is_binary(node.right)
    return [*parts, " ", Group(right) if alone else right]


def _is_binary(node: Node) -> bool:
    return isinstance(node.inner if isinstance(node, Grouped) else node, Binary)


def _flat_binary(node: Binary) -> Doc:
    return Group(tuple(_operands(node)))


def _returned(node: Node) -> Doc:
    if isinstance(node, Binary):
        parts = tuple(_operands(node))
        return Group((IfBroken("("), Indent((SOFT, Group(parts))), SOFT, IfBroken(")")))
    return _doc(node)


# --- arguments ------------------------------------------------------------------------------------------------


def _arguments(nodes: tuple[Node, ...]) -> Doc:
    """All on one line; or the last one held in the arms of the call; or each on a line of its own."""
    if not nodes:
        return "()"
    docs = [_doc(node) for node in nodes]
    apart = Group(("(", Indent((SOFT, joined((",", LINE), docs), _COMMA)), SOFT, ")"), broken=True)
    if _composes(nodes):
        return apart
    if _holds_last(nodes):
        *before, _ = docs
        if any(map(will_break, before)):
            return apart
        last = _arrow(nodes[-1], last=True) if isinstance(nodes[-1], Arrow) else docs[-1]
        head: tuple[Doc, ...] = tuple((doc, ", ") for doc in before)
        held: Doc = ("(", *head, Group(last, broken=True), ")")
        if will_break(last):
            return (Break(), Group(held, states=(held, apart)))
        plain: Doc = ("(", *head, last, ")")
        return Group(plain, states=(plain, held, apart))
    inner = joined((",", LINE), docs)
    return Group(("(", Indent((SOFT, inner, _COMMA)), SOFT, ")"), broken=any(map(will_break, docs)))


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
            return isinstance(inner, (Items, Properties)) or (isinstance(inner, Call) and not inner.makes)
    return False
