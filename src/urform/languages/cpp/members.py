"""The checks of values in C++, accessors and setters."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.told import Told
from urform.declaration.types import (
    BOOLEAN,
    DATE,
    DURATION,
    INSTANT,
    INTEGER,
    REAL,
    TEXT,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    Type,
    innermost,
)
from urform.languages.cpp.context import Context
from urform.languages.cpp.expressions import TEXTS, is_copied, moved, text_literal, told_literal
from urform.languages.naming.names import spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import field_doc
from urform.languages.rendering.text_patterns import forms_of
from urform.plan.model import Bound, Field, Limit, asked_first, is_unique

Lines = Iterator[str]


# --- checks -------------------------------------------------------------------------------------------------


def checks(context: Context, field: Field, value: str) -> Lines:
    """Statements that throw for a value outside a limit, in the order of the limits."""
    if not context.code.field_fails(field):
        return
    if not field.may_be_absent:
        yield from _value_checks(context, field, value)
        return
    yield f"if ({value}) {{"
    yield from (f"    {line}" for line in _value_checks(context, field, f"*{value}"))
    yield "}"


def _value_checks(context: Context, field: Field, value: str) -> Lines:
    for limit in asked_first(field.limits):
        yield from _check(context, field, field.type, value, limit, "")
    yield from _elements(context, field, field.type, value, _element(context, field))
    if is_unique(field.limits):
        yield from _unique_check(field, value)


def _unique_check(field: Field, value: str) -> Lines:
    """That no element stands twice is asked once each is known to be good."""
    assert isinstance(field.type, Collection)
    at = f'"{field.owner}", "{field.name}", "unique"'
    if field.secret:
        yield f"if (detail::first_repeated({value}) != nullptr) {{"
        yield f"    throw LimitError({at});"
    else:
        yield f"if (const auto *twice = detail::first_repeated({value})) {{"
        yield f"    throw LimitError({at}, {{}}, {told_element(field.type.element, '*twice')});"
    yield "}"


def told_element(type_: Type, element: str) -> str:
    """What an error tells of an element."""
    return f"std::string(to_string({element}))" if isinstance(type_, ChoiceType) else element


def element_checks(context: Context, field: Field, value: str) -> Lines:
    """The same for one element of a collection."""
    assert isinstance(field.type, Collection)
    element = field.type.element
    for limit in field.each:
        yield from _check(context, field, element, value, limit, "each.")
    yield from _elements(context, field, element, value, f"{value.rstrip('_')}_in")


def _element(context: Context, field: Field) -> str:
    """A name for the elements that hides no parameter and no member."""
    names = context.names
    fields = context.plan.products[field.owner].fields
    taken = {name for one in fields for name in (names.local(one.name), names.stored(one.name))}
    wanted = (names.local(field.item or "each"), "each", f"each_of_{field.name}")
    return next(
        (n for n in wanted if not {n, f"{n.rstrip('_')}_key", f"{n.rstrip('_')}_in"} & taken), wanted[-1]
    )


def _elements(context: Context, field: Field, type_: Type, value: str, element: str) -> Lines:
    """A loop over the elements of a collection, if there is something to look at in them, at every level."""
    if not isinstance(type_, Collection):
        return
    lines: list[str] = []
    for limit in field.each:
        if type_ == field.type or limit.bound is None:  # declared limits are about the outermost elements
            lines += _check(context, field, type_.element, element, limit, "each.")
    lines += _elements(context, field, type_.element, element, f"{element.rstrip('_')}_in")
    if lines:
        if isinstance(type_, MapOf):
            yield f"for (const auto &[{element.rstrip('_')}_key, {element}] : {value}) {{"
        else:
            yield f"for (const auto &{element} : {value}) {{"
        yield from (f"    {line}" for line in lines)
        yield "}"


def _check(context: Context, field: Field, type_: Type, value: str, limit: Limit, within: str) -> Lines:
    bound = limit.bound
    shown = _number(bound)
    size = f"{value}.size()" if isinstance(type_, Collection) else f"detail::length({value})"
    shown = told_literal(bound) if isinstance(bound, Told) else shown
    fails = {
        **dict.fromkeys(("time", "decimal", "uuid"), ""),  # their types hold nothing else
        "date": f"!detail::is_date({value})" if type_ == DATE else "",
        "instant": f"!detail::is_instant({value})" if type_ == INSTANT else "",
        "duration": f"!detail::is_duration({value})" if type_ == DURATION else "",
        "finite": f"!std::isfinite({value})" if type_ == REAL else "",
        "choice": "",
        "min": f"{value} < {shown}",
        "max": f"{value} > {shown}",
        "above": f"{value} <= {shown}",
        "below": f"{value} >= {shown}",
        "not_blank": f"detail::is_blank({value})",
        "min_length": _too_short(type_, value, size, bound, unless_empty=limit.unless_empty),
        "max_length": "true" if _is_below_all(bound, 0) else f"{size} > {shown}",
        "one_of": f"{_one_of(bound, value)}",
        **{form.name: f"!{context.code.pattern(form)}({value})" for form in forms_of([limit])},
    }[limit.name]
    if fails:
        told = f"static_cast<std::int64_t>({size})" if isinstance(type_, Collection) else value
        told = f"{TEXTS[type_]}({value})" if type_ in TEXTS else told
        named = [f'"{field.owner}"', f'"{field.name}"', f'"{within}{limit.name}"']
        yield f"if ({fails}) {{"
        yield f"    {_thrown(field, type_, bound, named, told)};"
        yield "}"


def _thrown(field: Field, type_: Type, bound: Bound, named: list[str], told: str) -> str:
    """The statement that refuses a value. Numbers go by value to a function: an error made in place takes registers always."""
    is_numeric = isinstance(bound, (int, float)) and (
        type_ in (INTEGER, REAL) or isinstance(type_, Collection)
    )
    data = bound_as_data(bound)
    if (is_numeric or type_ == REAL) and not isinstance(bound, tuple):
        return f"detail::refuse({', '.join([*named, *([data] if data else []), told])})"
    if field.secret and type_ == TEXT:
        return f"throw LimitError({', '.join([*named, *([data] if data else [])])})"
    return f"throw LimitError({', '.join([*named, data or '{}', told])})"


def _too_short(type_: Type, value: str, size: str, bound: object, *, unless_empty: bool) -> str:
    """Whether a length is below a limit, in as few words as there are."""
    if _is_below_all(bound, 1):
        return ""
    if unless_empty:
        return f"!{value}.empty() && {size} < {bound}"
    return f"{value}.empty()" if bound == 1 and isinstance(type_, Collection) else f"{size} < {bound}"


def _is_below_all(bound: object, least: int) -> bool:
    """Whether a length is below what any length can be told from."""
    return isinstance(bound, int) and bound < least


def _number(bound: object) -> str:
    return repr(bound + 0.0) if isinstance(bound, float) else str(bound)


def _one_of(bound: object, value: str) -> str:
    if not isinstance(bound, tuple):
        return ""
    return " && ".join(f"{value} != {_word(word)}" for word in bound)


def _word(word: str | int) -> str:
    if isinstance(word, int):
        return str(word)
    return (
        text_literal(word) if "\0" not in word else f"std::string({text_literal(word)}, {len(word.encode())})"
    )


def bound_as_data(bound: object) -> str:
    """The bound of a limit as data of an error; empty where there is none."""
    match bound:
        case None | True:
            return ""
        case str(text) | Told(_, text):
            return f"std::string({_word(text)})"
        case tuple() if isinstance(bound[0], str):
            return f"std::vector<std::string>{{{', '.join(map(_word, bound))}}}"
        case tuple():
            return f"std::vector<std::int64_t>{{{', '.join(map(_word, bound))}}}"
    return _number(bound)


# --- accessors and setters ------------------------------------------------------------------------------------


def said(field: Field) -> str:
    """The documentation of an accessor."""
    if field.type == BOOLEAN and not field.may_be_absent:
        otherwise = f"Reports whether it is {spoken(field.name)}."
    else:
        otherwise = f"Returns the {spoken(field.name)}{', if it was given' if field.may_be_absent else ''}."
    return plain(field_doc(field, otherwise))


def is_pointer(context: Context, field: Field) -> bool:
    """Whether a product that is always there is held behind a pointer, because only its base is known."""
    inner = context.plan.products.get(str(field.type))
    return inner is not None and inner.abstract and not context.code.shared(field) and not field.may_be_absent


def out_type(context: Context, field: Field) -> str:
    """The type that an accessor returns."""
    if is_copied(field.type):
        return context.code.stored(field)
    if is_pointer(context, field):
        return f"const {context.names.type(str(field.type))} &"
    return f"const {context.code.stored(field)} &"


def moved_type(context: Context, field: Field) -> str:
    """The type that the accessor of a temporary returns, into which a reference would dangle; nothing if it is a value anyway."""
    return "" if is_copied(field.type) or is_pointer(context, field) else context.code.stored(field)


def handed_out(context: Context, field: Field) -> str:
    """The expression that an accessor returns."""
    stored = context.names.stored(field.name)
    return f"*{stored}" if is_pointer(context, field) else stored


def is_span(context: Context, field: Field) -> bool:
    """Whether the owned parts of a list are handed out as they stand in it: they are no pointers to a base."""
    inner = context.plan.products.get(str(field.type.element)) if isinstance(field.type, ListOf) else None
    return inner is not None and not inner.abstract


def inner_type(context: Context, field: Field) -> str:
    """The type of an owned part that a product hands out to be changed: product by product, so that lengths stay."""
    inner = context.names.type(str(innermost(field.type)))
    if is_span(context, field):
        return f"std::span<{inner}>"
    if isinstance(field.type, Collection):
        return f"std::vector<{inner} *>"
    return f"{inner} *" if field.may_be_absent else f"{inner} &"


def inner_lines(context: Context, field: Field) -> Lines:
    """The body of the member that does so."""
    stored = context.names.stored(field.name)
    if not isinstance(field.type, Collection):
        pointer = context.code.boxed(field) or context.plan.products[str(field.type)].abstract
        if not field.may_be_absent:
            yield f"return {'*' if pointer else ''}{stored};"
        else:
            yield f"return {stored} ? &{'**' if pointer else '*'}{stored} : nullptr;"
        return
    if is_span(context, field):
        yield f"return {stored};"
        return
    abstract = context.plan.products[str(innermost(field.type))].abstract
    yield f"{inner_type(context, field)} found;"
    yield from _leaves(field.type, stored, "each", abstract)
    yield "return found;"


def _leaves(type_: Type, value: str, each: str, abstract: bool) -> Lines:
    assert isinstance(type_, Collection)
    named = f"auto &[{each}_key, {each}]" if isinstance(type_, MapOf) else f"auto &{each}"
    yield f"for ({named} : {value}) {{"
    if isinstance(type_.element, Collection):
        yield from (f"    {line}" for line in _leaves(type_.element, each, f"{each}_in", abstract))
    else:
        yield f"    found.push_back(&{'*' if abstract else ''}{each});"
    yield "}"


def setter_lines(context: Context, field: Field) -> Lines:
    """The body of a setter."""
    local = context.names.local(field.name)
    yield from checks(context, field, local)
    yield f"{context.names.stored(field.name)} = {kept(context, field, local)};"


def kept(context: Context, field: Field, value: str) -> str:
    """The value that a product keeps: a negative zero becomes a plain one, and no product in it was moved from."""
    if innermost(field.type) == REAL:
        return f"detail::plain_zero({moved(field, value)})"
    return whole(context, field, value)


def whole(context: Context, field: Field, value: str) -> str:
    """A value that is passed on for good, unless a product in it was moved from."""
    passed = moved(field, value)
    return f"detail::whole({passed})" if context.code.owns(field) else passed


def kept_element(context: Context, field: Field, value: str) -> str:
    """The same of one element of a collection."""
    assert isinstance(field.type, Collection)
    passed = value if is_copied(field.type.element) else f"std::move({value})"
    if innermost(field.type) == REAL:
        return f"detail::plain_zero({passed})"
    return f"detail::whole({passed})" if context.code.owns(field) else passed
