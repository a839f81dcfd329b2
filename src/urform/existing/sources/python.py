"""Types in Python: dataclasses, named tuples, typed dictionaries, classes with annotations or an `__init__`, enumerations."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.existing.sources import trees
from urform.existing.sources.facts import (
    ALIAS,
    CHOICE,
    LITERAL,
    NULL,
    RECORD,
    UNION,
    UNKNOWN,
    Constant,
    FieldFact,
    Spelled,
    Spellings,
    TypeFact,
)
from urform.existing.sources.trees import Node, text

GRAMMAR = ("tree_sitter_python", "language")
SPELLINGS = Spellings(
    scalars={
        "str": "text",
        "int": "integer",
        "float": "real",
        "bool": "boolean",
        "date": "date",
        "datetime": "instant",
        "time": "time",
        "timedelta": "duration",
        "Decimal": "decimal",
        "UUID": "uuid",
    },
    lists=frozenset(("list", "List", "Sequence", "MutableSequence", "Iterable", "Collection", "tuple of")),
    sets=frozenset(("set", "Set", "frozenset", "FrozenSet", "AbstractSet", "MutableSet")),
    maps=frozenset(("dict", "Dict", "Mapping", "MutableMapping", "OrderedDict")),
    maybe=frozenset(("Optional",)),
    plain=frozenset(
        ("Annotated", "Final", "Required", "ReadOnly", "InitVar", "Unpack")
    ),  # ClassVar is no field
    any=frozenset(("Any", "object")),
    functions=frozenset(("Callable",)),
    tuples=frozenset(("tuple", "Tuple")),
)
_CONSTANT = "Final"  # with a value, of a class and not of what is made of it
_ENUMS = {"Enum", "StrEnum", "IntEnum", "Flag", "IntFlag"}
_BASES = {"ABC", "Protocol"}
_BODIES = frozenset(("function_definition", "lambda"))
# What an assignment makes an alias of: other names could be those of values.
_ALIASED = {*SPELLINGS.lists, *SPELLINGS.sets, *SPELLINGS.maps, *SPELLINGS.maybe, *SPELLINGS.functions, UNION}
_ABSENT = "NotRequired"
_NOT_PLAIN = ("interpolation", "escape_sequence")  # in a string


def facts(root: Node, _: str) -> Iterator[TypeFact]:
    """All classes of a file, and aliases of types; none of those that a function has."""
    for node in trees.everywhere(root, "class_definition", but_in=_BODIES):
        yield _class(node)
    for statement in trees.named(root, "expression_statement", "type_alias_statement"):
        yield from _alias(statement)


def _alias(statement: Node) -> Iterator[TypeFact]:
    """`Name = Union[…]`, `Name = A | B`, `Name: TypeAlias = …`, `type Name = …`."""
    node = trees.first(statement, "assignment") or statement
    left = node.child_by_field_name("left")
    right = node.child_by_field_name("right") or node.child_by_field_name("value")
    if left is None or right is None or not text(left).isidentifier():
        return
    is_said = (
        statement.type == "type_alias_statement"
        or _last(text(node.child_by_field_name("type"))) == "TypeAlias"
    )
    spelled = (
        _spelled(right) if is_said or right.type in ("subscript", "binary_operator") else Spelled(UNKNOWN)
    )
    if is_said or _last(spelled.name) in _ALIASED:
        yield TypeFact(text(left), ALIAS, trees.line(statement), of=spelled)


def _class(node: Node) -> TypeFact:
    name = text(node.child_by_field_name("name"))
    body = node.child_by_field_name("body")
    arguments = node.child_by_field_name("superclasses")
    bases = [_last(text(each)) for each in trees.named(arguments, "identifier", "attribute")]
    doc = _docstring(body)
    if _ENUMS & set(bases):
        words = tuple(_words(body))
        return TypeFact(name, CHOICE, trees.line(node), doc=doc, words=words)
    decorators = _decorators(node)
    is_dataclass = any("dataclass" in each or "define" in each or "attr" in each for each in decorators)
    fields = [each for each in _annotated(body) if is_dataclass or each.type.name != _CONSTANT]
    if not fields and not is_dataclass:
        fields = list(_parameters(body))
    if "total=False" in text(arguments).replace(" ", ""):
        fields = [_left_out(each) for each in fields]
    generic = [
        each
        for each in trees.named(arguments, "subscript")
        if _last(text(each.child_by_field_name("value"))) in ("Generic", "Protocol")
    ]
    parameters = [text(each) for base in generic for each in base.children_by_field_name("subscript")]
    return TypeFact(
        name,
        RECORD,
        trees.line(node),
        doc=doc,
        fields=tuple(fields),
        bases=tuple(each for each in bases if each not in _BASES),
        is_base=bool(_BASES & set(bases)) or _has_abstract(body),
        mutable=_has_setter(body),
        parameters=tuple(parameters),
    )


def _last(name: str) -> str:
    return name.rpartition(".")[2]


def _decorators(node: Node) -> list[str]:
    outer = node.parent
    return [text(each) for each in trees.named(outer, "decorator")] if outer is not None else []


def _docstring(body: Node | None) -> str:
    statement = body.named_children[0] if body is not None and body.named_children else None
    string = (
        trees.first(statement, "string")
        if statement is not None and statement.type == "expression_statement"
        else None
    )
    written = text(trees.first(string, "string_content"))
    return written.split("\n\n")[0].strip()


def _words(body: Node | None) -> Iterator[str]:
    for statement in trees.named(body, "expression_statement"):
        assignment = trees.first(statement, "assignment")
        left = assignment.child_by_field_name("left") if assignment is not None else None
        if left is not None and left.type == "identifier" and not text(left).startswith("_"):
            yield text(left)


def _annotated(body: Node | None) -> Iterator[FieldFact]:
    """The annotated names in the body of a class."""
    for statement in trees.named(body, "expression_statement"):
        assignment = trees.first(statement, "assignment")
        if assignment is None or (type_ := assignment.child_by_field_name("type")) is None:
            continue
        left = assignment.child_by_field_name("left")
        spelled = _spelled(type_)
        if left is not None and left.type == "identifier" and spelled.name not in ("ClassVar", "KW_ONLY"):
            yield _with_default(
                text(left), spelled, trees.line(statement), assignment.child_by_field_name("right")
            )


def _parameters(body: Node | None) -> Iterator[FieldFact]:
    """The parameters of `__init__`."""
    for function in _functions(body):
        if text(function.child_by_field_name("name")) != "__init__":
            continue
        parameters = function.child_by_field_name("parameters")
        for node in trees.named(
            parameters, "typed_parameter", "typed_default_parameter", "default_parameter", "identifier"
        ):
            name = node.child_by_field_name("name") or (
                node if node.type == "identifier" else node.named_children[0]
            )
            if name.type == "identifier" and text(name) not in ("self", "cls"):
                type_ = node.child_by_field_name("type")
                spelled = _spelled(type_) if type_ is not None else Spelled(UNKNOWN)
                yield _with_default(text(name), spelled, trees.line(node), node.child_by_field_name("value"))


def _functions(body: Node | None) -> Iterator[Node]:
    for each in trees.named(body, "function_definition", "decorated_definition"):
        function = each if each.type == "function_definition" else trees.first(each, "function_definition")
        if function is not None:
            yield function


def _has_abstract(body: Node | None) -> bool:
    return any("abstractmethod" in each for node in _functions(body) for each in _decorators(node))


def _has_setter(body: Node | None) -> bool:
    return any(each.endswith(".setter") for node in _functions(body) for each in _decorators(node))


def _with_default(name: str, spelled: Spelled, at: int, value: Node | None) -> FieldFact:
    name = name.strip("_")
    if spelled.name == _ABSENT and spelled.of:
        return FieldFact(name, spelled.of[0], at, optional=True)
    if value is None:
        return FieldFact(name, spelled, at)
    if value.type == "call" and _last(text(value.child_by_field_name("function"))) in ("field", "Field"):
        given = _arguments(value)
        if "default_factory" in given:
            is_empty = text(given["default_factory"]) in ("list", "dict", "set", "tuple", "frozenset")
            return FieldFact(name, spelled, at, optional=True, is_computed=not is_empty)
        inner = given.get("default")
        return _with_default(name, spelled, at, inner) if inner is not None else FieldFact(name, spelled, at)
    default, is_literal = _literal(value)
    return FieldFact(name, spelled, at, optional=True, default=default, is_computed=not is_literal)


def _arguments(call: Node) -> dict[str, Node]:
    """The named arguments of a call."""
    given = {}
    for each in trees.named(call.child_by_field_name("arguments"), "keyword_argument"):
        given[text(each.child_by_field_name("name"))] = each.child_by_field_name("value")
    return given


def _left_out(field: FieldFact) -> FieldFact:
    return FieldFact(field.name, field.type, field.line, field.doc, optional=True)


def _literal(node: Node) -> tuple[tuple[object, ...], bool]:
    """The value of a literal, as a tuple of one; whether it is one. None is no default, and neither is what is empty."""
    if node.type == "none" or text(node) in (
        "[]",
        "{}",
        "()",
        "set()",
        "dict()",
        "list()",
        "tuple()",
        "frozenset()",
    ):
        return (), True
    if node.type in ("true", "false"):
        return (node.type == "true",), True
    if node.type in ("integer", "float", "unary_operator"):
        value = trees.number(text(node).replace(" ", ""))
        return ((value,), True) if value is not None else ((), False)
    if node.type == "string" and next(trees.everywhere(node, *_NOT_PLAIN), None) is None:
        return ("".join(map(text, trees.named(node, "string_content"))),), True
    if node.type == "attribute":
        return (Constant(_last(text(node))),), True
    return (), False


def _spelled(node: Node) -> Spelled:
    """A type expression. A text is a type that is written before it is known."""
    if node.type == "type":
        return _spelled(node.named_children[0]) if node.named_children else Spelled(UNKNOWN)
    if node.type == "none":
        return Spelled(NULL)
    if node.type == "parenthesized_expression":
        return _spelled(node.named_children[0])
    if node.type in ("binary_operator", "union_type"):
        return Spelled(UNION, tuple(_flat(node)))
    if node.type in ("subscript", "generic_type"):
        return _generic(node)
    if node.type == "string":
        from_text = trees.root_of(b"x: " + text(trees.first(node, "string_content")).encode(), *GRAMMAR)
        type_ = next(trees.everywhere(from_text, "type"), None)
        return _spelled(type_) if type_ is not None else Spelled(UNKNOWN)
    return Spelled(text(node))


def _flat(node: Node) -> Iterator[Spelled]:
    for each in node.named_children:
        spelled = _spelled(each)
        yield from spelled.of if spelled.name == UNION else (spelled,)


def _generic(node: Node) -> Spelled:
    if node.type == "subscript":
        name = text(node.child_by_field_name("value"))
        arguments: Sequence[Node] = node.children_by_field_name("subscript")
        arguments = (
            arguments[0].named_children if len(arguments) == 1 and arguments[0].type == "tuple" else arguments
        )
    else:
        name = text(node.named_children[0])
        parameters = trees.first(node, "type_parameter")
        arguments = parameters.named_children if parameters is not None else ()
    bare = _last(name)
    if bare == "Literal":
        return Spelled(UNION, tuple(_words_of(arguments)))
    of = tuple(_spelled(each) for each in arguments)
    if bare == "Union":
        return Spelled(UNION, of)
    if bare in ("tuple", "Tuple"):
        return Spelled("tuple of", of[:1]) if len(of) == 2 and of[1].name == "..." else Spelled("tuple", of)
    return Spelled(bare, of)


def _words_of(arguments: Sequence[Node]) -> Iterator[Spelled]:
    for each in arguments:
        node = each.named_children[0] if each.type == "type" else each
        if node.type == "string":
            yield Spelled(LITERAL, word=text(trees.first(node, "string_content")))
        else:
            yield Spelled(NULL if node.type == "none" else text(node))
