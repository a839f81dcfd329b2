"""The checks of values in Rust, accessors and setters."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.told import Told
from urform.declaration.types import (
    BOOLEAN,
    REAL,
    TEXT,
    TOLD,
    ChoiceType,
    Collection,
    MapOf,
    Type,
    innermost,
)
from urform.languages.naming.names import spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import field_doc
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import is_copied, text_literal, told_bound, told_literal
from urform.plan.model import Field, Limit, asked_first, is_unique

Lines = Iterator[str]
SIGNS = {"min": "<", "max": ">", "above": "<=", "below": ">="}  # of what breaks a limit


@dataclass(frozen=True, slots=True)
class Place:
    """Where a value stands: the expression, whether it is the value itself or a reference to it, and if it is a text, whether
    that is a `String` or a `str`.
    """

    text: str
    owned: bool
    string: bool = True

    @property
    def reference(self) -> str:
        return f"&{self.text}" if self.owned else self.text


# --- checks -------------------------------------------------------------------------------------------------


def checks(context: Context, field: Field, place: Place, *, optional: bool = False) -> Lines:
    """Statements that return an error for a value outside a limit, in the order of the limits."""
    if not context.code.field_fails(field):
        return
    if not optional:
        yield from _value_checks(context, field, place)
        return
    local = context.names.local(field.name)
    inner = list(_value_checks(context, field, Place(local, is_copied(field.type), place.string)))
    if not inner:  # a least length of 0, which every length keeps
        return
    given = place.text if is_copied(field.type) or not place.owned else f"&{place.text}"
    yield f"if let Some({local}) = {given} {{"
    yield from (f"    {line}" for line in inner)
    yield "}"


def _value_checks(context: Context, field: Field, place: Place) -> Lines:
    for limit in asked_first(field.limits):
        yield from _check(context, field, field.type, place, limit, "")
    element = context.names.local(field.item or "each")
    yield from _elements(context, field, field.type, place, element if element != place.text else "each")
    if is_unique(field.limits):
        yield from _unique_check(field, place)


def _unique_check(field: Field, place: Place) -> Lines:
    """That no element stands twice is asked once each is known to be good."""
    assert isinstance(field.type, Collection)
    at = f'"{field.owner}", "{field.name}", "unique", Bound::None'
    if field.secret:
        yield f"if repeated({place.reference}).is_some() {{"
        yield f"    return Err(outside({at}, Found::None));"
    else:
        yield f"if let Some(twice) = repeated({place.reference}) {{"
        yield f"    return Err(outside({at}, {told_element(field.type.element, 'twice')}));"
    yield "}"


def told_element(type_: Type, element: str) -> str:
    """What an error tells of an element, which is a reference."""
    if isinstance(type_, ChoiceType):
        return f"{element}.as_str()"
    return f"*{element}" if is_copied(type_) else element


def element_checks(context: Context, field: Field, place: Place) -> Lines:
    """The same for one element of a collection."""
    assert isinstance(field.type, Collection)
    element = field.type.element
    for limit in field.each:
        yield from _check(context, field, element, place, limit, "each.")
    yield from _elements(context, field, element, place, f"{place.text.rstrip('_')}_in")


def _elements(context: Context, field: Field, type_: Type, place: Place, element: str) -> Lines:
    """A loop over the elements of a collection, if there is something to look at in them, at every level."""
    if not isinstance(type_, Collection):
        return
    copied = is_copied(type_.element)
    inside = Place(element, copied)
    lines: list[str] = []
    for limit in field.each:
        if type_ == field.type or limit.bound is None:  # declared limits are about the outermost elements
            lines += _check(context, field, type_.element, inside, limit, "each.")
    lines += _elements(context, field, type_.element, inside, f"{element.rstrip('_')}_in")
    if lines:
        source = f"{place.text}.values()" if isinstance(type_, MapOf) else place.reference
        yield f"for {'&' if copied else ''}{element} in {source} {{"
        yield from (f"    {line}" for line in lines)
        yield "}"


def _check(context: Context, field: Field, type_: Type, place: Place, limit: Limit, within: str) -> Lines:
    value, bound = place.text, limit.bound
    size = f"{value}.len()" if isinstance(type_, Collection) else f"{value}.chars().count()"
    if limit.name == "one_of":
        yield f"let allowed: {_allowed_type(bound)} = {_allowed(bound)};"
        sought = f"&{value}.as_str()" if type_ == TEXT and place.string else f"&{value}"
        fails, data = f"!allowed.contains({sought})", "allowed"
    elif isinstance(bound, Told):
        data = told_bound(bound)
        fails = f"{value} {SIGNS[limit.name]} {told_literal(bound)}"
    elif limit.form is not None:
        data = text_literal(bound) if isinstance(bound, str) else "Bound::None"
        fails = f"!{context.code.pattern(limit)}.accepts({place.reference})"
    else:
        data = "Bound::None" if bound is None or bound is True else _number(bound)
        fails = {
            "finite": f"!{value}.is_finite()" if type_ == REAL else "",
            "choice": "",
            **dict.fromkeys(map(str, TOLD), ""),
            "min": f"{value} < {data}",
            "max": f"{value} > {data}",
            "above": f"{value} <= {data}",
            "below": f"{value} >= {data}",
            "not_blank": f"is_blank({place.reference})",
            "min_length": ""
            if _is_below_all(bound, 1)
            else f"{f'!{value}.is_empty() && ' if limit.unless_empty else ''}{size} < {data}"
            if bound != 1 or type_ == TEXT
            else f"{value}.is_empty()",
            "max_length": "true"
            if _is_below_all(bound, 0)
            else f"{size} > {data}"
            if bound != 0 or type_ == TEXT
            else f"!{value}.is_empty()",
        }[limit.name]
    if fails:
        at = f'"{field.owner}", "{field.name}", "{within}{limit.name}", {data}'
        yield f"if {fails} {{"
        if isinstance(type_, Collection):
            yield f"    return Err(outside_length({at}, {size}));"
        else:
            told = "Found::None" if field.secret else value if type_ != TEXT else place.reference
            told = f"&{value}.to_string()" if type_ in TOLD else told
            yield f"    return Err(outside({at}, {told}));"
        yield "}"


def _is_below_all(bound: object, least: int) -> bool:
    """Whether a length is below what any length can be told from."""
    return isinstance(bound, int) and bound < least


def _number(bound: object) -> str:
    return repr(bound + 0.0) if isinstance(bound, float) else str(bound)


def _allowed_type(bound: object) -> str:
    assert isinstance(bound, tuple)
    return f"&'static [{'&str' if isinstance(bound[0], str) else 'i64'}]"


def _allowed(bound: object) -> str:
    assert isinstance(bound, tuple)
    return f"&[{', '.join(text_literal(word) if isinstance(word, str) else str(word) for word in bound)}]"


# --- accessors and setters ------------------------------------------------------------------------------------


def said(field: Field) -> str:
    """The documentation of an accessor."""
    if field.type == BOOLEAN and not field.may_be_absent:
        otherwise = f"Reports whether it is {spoken(field.name)}."
    else:
        otherwise = f"Returns the {spoken(field.name)}{', if it was given' if field.may_be_absent else ''}."
    return plain(field_doc(field, otherwise))


def out_type(context: Context, field: Field) -> str:
    """The type that an accessor returns."""
    type_ = context.code.borrowed(field.type, shared=context.code.shared(field))
    return f"Option<{type_}>" if field.may_be_absent else type_


def handed_out(context: Context, field: Field, stored: str) -> str:
    """The body of an accessor."""
    if is_copied(field.type):
        return stored
    inner = context.plan.products.get(str(field.type))
    pointer = inner is not None and not context.code.shared(field) and context.code.is_open(inner)
    if not field.may_be_absent:
        return f"{stored}.as_ref()" if pointer else f"&{stored}"
    deref = field.type == TEXT or pointer or context.code.boxed(field)
    return f"{stored}.as_deref()" if deref else f"{stored}.as_ref()"


def changes_inside(context: Context, field: Field) -> bool:
    """Whether what a field holds can be changed where it is."""
    return context.plan.holds_mutable(field.type)


def inner_type(context: Context, field: Field) -> str:
    """The type of an owned part that a product hands out to be changed: product by product, so that lengths stay."""
    name = str(innermost(field.type))
    inner = context.names.type(name)
    is_open = context.code.is_open(context.plan.products[name])
    if isinstance(field.type, Collection):
        return f"impl Iterator<Item = &mut {f'Box<dyn {inner}>' if is_open else inner}>"
    if field.may_be_absent and is_open:
        return f"Option<&mut (dyn {inner} + 'static)>"
    mutable = f"&mut dyn {inner}" if is_open else f"&mut {inner}"
    return f"Option<{mutable}>" if field.may_be_absent else mutable


def inner_out(context: Context, field: Field, stored: str) -> str:
    """The body of the method that does so."""
    if isinstance(field.type, Collection):
        return f"{stored}{_leaves(field.type)}"
    is_open = context.code.is_open(context.plan.products[str(field.type)])
    if not field.may_be_absent:
        return f"{stored}.as_mut()" if is_open else f"&mut {stored}"
    return f"{stored}.as_deref_mut()" if is_open or context.code.boxed(field) else f"{stored}.as_mut()"


def _leaves(type_: Type) -> str:
    """The iterator over the innermost elements."""
    assert isinstance(type_, Collection)
    begin = ".values_mut()" if isinstance(type_, MapOf) else ".iter_mut()"
    inner = type_.element
    while isinstance(inner, Collection):
        begin += ".flat_map(|each| each.values_mut())" if isinstance(inner, MapOf) else ".flatten()"
        inner = inner.element
    return begin


def setter_parameter(context: Context, field: Field) -> str:
    """The parameter of a setter."""
    type_ = context.code.parameter(field.type, shared=context.code.shared(field))
    return f"Option<{type_}>" if field.may_be_absent else type_


def setter_lines(context: Context, field: Field) -> Lines:
    """The body of a setter."""
    local = context.names.local(field.name)
    place = Place(local, field.type != TEXT, string=False)
    yield from checks(context, field, place, optional=field.may_be_absent)
    stored = f"self.{context.names.stored(field.name)}"
    if field.type == TEXT and not field.may_be_absent:  # into the memory that it has
        yield f"{local}.clone_into(&mut {stored});"
    else:
        yield f"{stored} = {stored_value(context, field, local, given=True)};"
    if context.code.field_fails(field):
        yield "Ok(())"


def stored_value(context: Context, field: Field, value: str, *, given: bool) -> str:
    """The value that a product keeps, after its limits; `given` texts are borrowed.

    A negative zero becomes a plain one, and what would be of endless size is put behind a pointer.
    """
    value = plainly(field, value)
    if field.may_be_absent:
        value += ".map(str::to_owned)" if given and field.type == TEXT else ""
        return f"{value}.map(Box::new)" if context.code.boxed(field) else value
    if context.code.boxed(field):
        return f"Box::new({value})"
    return f"{value}.to_owned()" if given and field.type == TEXT else value


def plainly(field: Field, value: str) -> str:
    """A value of a field, or an element of it, without negative zeros."""
    return f"{value}.plain_zero()" if innermost(field.type) == REAL else value


def pair(name: str, value: str) -> str:
    """A field of a struct with its value; shorthand where they are called alike."""
    return name if value == name else f"{name}: {value}"


def mentions(lines: list[str], name: str) -> bool:
    """Whether code mentions a name."""
    return any(re.search(rf"\b{name}\b", line) for line in lines)
