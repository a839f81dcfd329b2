"""The methods of Go products: accessors, setters, equality, copies; and what refuses a value."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.declaration.types import BOOLEAN, ChoiceType, ProductType
from urform.languages.go.access import accesses
from urform.languages.go.changes import changes
from urform.languages.go.context import Context
from urform.languages.go.refusals import element_loop, refusals
from urform.languages.go.views import comment
from urform.languages.naming.names import camel, pascal, spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.entries import entry
from urform.languages.rendering.fields import field_doc
from urform.plan.model import Field, Product

ONE_LINE = 90  # columns up to which a method stands on one line


def setter_fails(context: Context, field: Field) -> bool:
    """Whether the setter of a field returns an error."""
    refuses_nil = isinstance(field.type, ProductType) and not field.may_be_absent
    return context.code.field_fails(field) or refuses_nil


def out_type(context: Context, field: Field) -> str:
    """The type of an accessor: a value, or a value and whether there is one."""
    type_ = context.code.type(field.type)
    return f"({type_}, bool)" if field.may_be_absent else type_


def accessors(context: Context, product: Product, type_: str) -> Iterator[dict[str, str]]:
    """An accessor per field, and the setters of a mutable product."""
    taken = context.taken(product)
    letter = camel(product.name)[0]
    receiver = f"{letter} *{type_}"
    own = list(product.own_fields)
    for field in own:
        name = context.names.exported(field.name, taken)
        getter = entry("getter", field.name, calls=f"{name}() {out_type(context, field)}")
        stored = f"{letter}.{context.names.stored(field.name)}"
        out = _handed_out(context, field, stored)
        said = _getter_comment(name, field)
        header = f"func ({receiver}) {name}() {out_type(context, field)}"
        yield {"text": f"{comment(said, 0)}\n{_method(header, [f'return {out}'], getter)}"}
        for access in accesses(context, product, field, stored):
            header = f"func ({receiver}) {access.signature}"
            of_access = entry("access", field.name, calls=access.signature)
            yield {"text": f"{comment(access.doc, 0)}\n{_method(header, access.lines, of_access)}"}
        if product.mutable:
            yield {"text": _setter(context, field, receiver, letter)}
    yield from ({"text": text} for text in changes(context, product, receiver))


def _getter_comment(name: str, field: Field) -> str:
    """What a getter returns, then what the declaration says of its field."""
    spoken_name = spoken(field.name)
    if field.may_be_absent:
        returned = f"returns the {spoken_name}, and reports whether there is one."
    elif field.type == BOOLEAN:
        returned = f"reports whether {spoken_name} is set."
    else:
        returned = f"returns the {spoken_name}."
    return f"{name} {returned} {plain(field_doc(field))}".rstrip()


def _method(header: str, lines: Sequence[str], said: str) -> str:
    """A method, on one line where that is short; its first line says that it is an entry."""
    one_line = f"{header} {{ {lines[0]} }}"
    if len(lines) == 1 and len(one_line) <= ONE_LINE:
        return f"{one_line}{said}"
    return "\n\t".join([f"{header} {{{said}", *lines]) + "\n}"


def _handed_out(context: Context, field: Field, stored: str) -> str:
    if not field.may_be_absent:
        return context.code.handed_out(field.type, stored)
    if context.code.is_pointer(field):
        return f"deref({stored})"
    return f'{stored}, {stored} != ""' if isinstance(field.type, ChoiceType) else f"{stored}, {stored} != nil"


def _setter(context: Context, field: Field, receiver: str, letter: str) -> str:
    """`SetCrew`, and `ClearCrew` for what may be absent."""
    code, names = context.code, context.names
    local = names.local(field.name)
    local = "value" if local == letter else local
    stored = f"{letter}.{names.stored(field.name)}"
    fails = setter_fails(context, field)
    lines: list[str] = []
    if isinstance(field.type, ProductType) and not field.may_be_absent:
        error = f'&MissingError{{Owner: "{field.owner}", Fields: []string{{"{field.name}"}}}}'
        lines += [f"if {local} == nil {{", f"\treturn {error}", "}"]
    if isinstance(field.type, ProductType) and field.may_be_absent and context.plan.holds_mutable(field.type):
        lines += [f"if {local} == nil {{", f"\t{letter}.Clear{pascal(field.name)}()", "\treturn", "}"]
    lines += refusals(list(code.tests(field, local)), "")
    lines += element_loop(context, field, local, "")
    lines += refusals(list(code.later_tests(field, local)), "")
    value = code.own_value(field.type, local)
    if field.may_be_absent and code.is_pointer(field):
        value = f"&{local}" if value == local else f"Some({value})"
    lines.append(f"{stored} = {value}")
    if fails:
        lines.append("return nil")
    name = pascal(field.name)
    doc = f"// Set{name} changes the {spoken(field.name)}."
    body = "".join(f"\t{line}\n" for line in lines)
    typed, error = code.type(field.type), " error" if fails else ""
    setter = entry("setter", field.name, calls=f"Set{name}({typed}){error}")
    head = f"func ({receiver}) Set{name}({local} {typed}){error}"
    text = f"{doc}\n{head} {{{setter}\n{body}}}"
    if field.may_be_absent:
        empty = '""' if isinstance(field.type, ChoiceType) else "nil"
        head = f"func ({receiver}) Clear{name}()"
        clears = f"{head} {{ {stored} = {empty} }}{entry('clear', field.name, calls=f'Clear{name}()')}"
        text += f"\n\n// Clear{name} removes the {spoken(field.name)}.\n{clears}"
    return text


def comparison(context: Context, fields: list[Field], letter: str) -> list[str]:
    """The body that compares all of some fields."""
    pairs = [
        context.code.equal(
            f, f"{letter}.{context.names.stored(f.name)}", f"other.{context.names.stored(f.name)}"
        )
        for f in fields
    ]
    return _all_of("return ", pairs)


def equality(context: Context, product: Product, letter: str) -> Iterator[str]:
    """The body of `Equal`."""
    own = list(product.own_fields)
    type_ = context.names.type(product.name)
    base = context.plan.products[product.base] if product.base else None
    if base is None:
        pairs = [
            context.code.equal(
                f, f"{letter}.{context.names.stored(f.name)}", f"other.{context.names.stored(f.name)}"
            )
            for f in own
        ]
        yield f"if {letter} == other || {letter} == nil || other == nil {{"
        yield f"\treturn {letter} == other"
        yield "}"
        yield from _all_of("return ", pairs) if pairs else ["return true"]
        return
    pairs = []
    if base.fields:
        fields = context.names.embedded(base.name)
        equal = "EqualFields" if base.is_open else "equal"
        pairs.append(f"{letter}.{fields}.{equal}(&that.{fields})")
    pairs += [
        context.code.equal(
            f, f"{letter}.{context.names.stored(f.name)}", f"that.{context.names.stored(f.name)}"
        )
        for f in own
    ]
    yield f"that, ok := other.(*{type_})"
    yield f"if !ok || that == nil || {letter} == nil {{"
    yield f"\treturn ok && that == {letter}"
    yield "}"
    yield from _all_of("return ", pairs) if pairs else ["return true"]


def _all_of(head: str, conditions: list[str]) -> list[str]:
    """Conditions that all have to hold: on one line if they fit, else broken after each `&&`."""
    line = head + " && ".join(conditions)
    if len(line) <= ONE_LINE:
        return [line]
    first, *others = conditions
    lines = [head + first]
    for condition in others:
        if len(lines[-1]) + len(condition) + 4 <= ONE_LINE:
            lines[-1] += f" && {condition}"
        else:
            lines[-1] += " &&"
            lines.append(f"\t{condition}")
    return lines
