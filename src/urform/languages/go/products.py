"""Products as Go structs behind constructors, and abstract ones as interfaces over an embedded struct."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.told import Told
from urform.declaration.types import (
    BOOLEAN,
    DATE,
    DURATION,
    INSTANT,
    INTEGER,
    NOTHING,
    REAL,
    TEXT,
    TIME,
    UUID,
    ChoiceType,
    Collection,
    ProductType,
    Type,
)
from urform.declaration.values import Text, Word
from urform.languages.go.access import accesses
from urform.languages.go.changes import said, signature
from urform.languages.go.context import Context
from urform.languages.go.copies import copies_of_fields, methods
from urform.languages.go.expressions import Test, options_type, text_literal
from urform.languages.go.members import (
    accessors,
    comparison,
    equality,
    out_type,
    setter_fails,
)
from urform.languages.go.refusals import element_loop, refusals
from urform.languages.go.views import joined, types_of
from urform.languages.layout.columns import TAB
from urform.languages.naming.names import camel, pascal, spoken
from urform.languages.rendering.comments import plain, wrapped
from urform.languages.rendering.entries import entry
from urform.languages.rendering.fields import field_doc
from urform.plan.model import Field, Operation, Product
from urform.prose import with_article

LONGEST_NOTE = 40
COPIES: dict[Type, str] = {
    REAL: "zeroedCopy",
    INSTANT: "utcCopy",
}  # of an optional value that is held otherwise than it is given
WITHOUT_POINTER = (BOOLEAN, INTEGER, REAL, DATE, TIME, DURATION, UUID)
ALONE = f"_{TAB}*byte{TAB}// a pointer, so that it shares no block of memory and is collected by itself"


def abstract_text(context: Context, product: Product) -> str:
    """An interface, the options and the embedded struct of its kinds."""
    names = context.names
    fields = context.fields_type(product)
    struct = [f"{names.stored(f.name)}{TAB}{context.code.stored(f)}" for f in product.fields]
    fails = base_fails(context, product)
    body = list(_base_body(context, product, fields, fails))
    typed, result = _base_parameters(context, product), f"({fields}, error)" if fails else fields
    return context.templates.render(
        "abstract",
        product.name,
        p={
            "type": names.type(product.name),
            "doc": _doc(context, product, f"one of {', '.join(names.type(v) for v in product.variants)}."),
            "methods": list(_interface(context, product)),
            "options": _options(context, product),
            "fields": fields,
            "open": product.is_open,
            "embedded": names.embedded(product.name),
            "new": f"{'New' if product.is_open else 'new'}{pascal(product.name)}Fields",
            "copies": list(copies_of_fields(context, product)) if product.is_open else [],
            "struct": struct,
            "fails": fails,
            "parameters": joined(typed),
            "calls": f"New{pascal(product.name)}Fields{types_of(typed)} {result}",
            "result": result,
            "body": body,
            "accessors": list(accessors(context, product, fields)),
            "letter": camel(product.name)[0],
            "equal": comparison(context, list(product.fields), camel(product.name)[0]),
        },
    )


def product_text(context: Context, product: Product) -> str:
    """A concrete product: struct, options, constructor, accessors, answers, equality."""
    names, code = context.names, context.code
    type_ = names.type(product.name)
    base = context.plan.products[product.base] if product.base else None
    own = list(product.own_fields)
    struct = [context.names.embedded(base.name)] if base is not None and base.fields else []
    struct += [f"{names.stored(f.name)}{TAB}{code.stored(f)}" for f in own]
    struct += [ALONE] if _shares_memory(context, product) else []
    fails = code.fallible(product)
    letter = camel(product.name)[0]
    closed = f"is{pascal(base.name)}" if base is not None and base.closed else ""
    pointer = f"*{type_}"
    result = f"({pointer}, error)" if fails else pointer
    return context.templates.render(
        "product",
        product.name,
        p={
            "type": type_,
            "a": with_article(type_),
            "doc": _doc(
                context,
                product,
                f"{with_article(names.type(base.name))}." if base is not None else f"{spoken(product.name)}.",
            ),
            "key": text_literal(product.key) if product.key else None,
            "struct": struct,
            "options": _options(context, product),
            "new_doc": f"{context.constructor(product)} returns {with_article(type_)}"
            + (", or an error with the reason why there is none." if fails else "."),
            "parameters": context.parameters(product),
            "hidden": context.hidden(product),
            "result": result,
            "calls": f"{context.constructor(product)}{types_of(context.typed(product))} {result}",
            "body": list(_body(context, product, fails)),
            "accessors": list(accessors(context, product, type_)),
            "closed": closed,
            "receiver": f"*{type_}",
            "letter": letter,
            "receiver_named": f"{letter} *{type_}",
            "operations": list(operations(context, product)),
            "equal_doc": f"Equal reports whether other is {with_article(type_)} with the same content.",
            "equal_type": names.type(base.name) if base is not None else f"*{type_}",
            "equal": list(equality(context, product, letter)),
            "copies": list(methods(context, product)),
            "shown": _shown(context, product, letter),
            "constructor": context.constructor(product),
        },
    )


def _shares_memory(context: Context, product: Product) -> bool:
    """Whether a weak pool would not know when nobody holds a product any longer.

    Go's allocator puts what is below 16 bytes and holds no pointer side by side with other such values, a pool's own keys among
    them, and collects a block as a whole.
    """
    pool = context.plan.pool_of(product.name)
    if pool is None or not pool.weak:
        return False
    return all(field.type in WITHOUT_POINTER and not field.may_be_absent for field in product.fields)


def _doc(context: Context, product: Product, otherwise: str) -> str:
    type_ = context.names.type(product.name)
    return f"{type_}: {product.doc}" if product.doc else f"{type_} is {otherwise}"


def _shown(context: Context, product: Product, letter: str) -> str:
    """The expression that `String` returns: the type and every field."""
    if not product.fields:
        return f'"{product.name}{{}}"'
    verbs, values = [], []
    for field in product.fields:
        stored = f"{letter}.{context.names.stored(field.name)}"
        pointer = field.may_be_absent and context.code.is_pointer(field)
        verbs.append(f"{field.name}: {'%q' if field.type == TEXT and not pointer else '%v'}")
        if field.may_be_absent and isinstance(field.type, ChoiceType):
            stored = f'firstOf({stored}, "none")'
        values.append(f"orNone({stored})" if pointer else stored)
    return f'fmt.Sprintf("{product.name}{{{", ".join(verbs)}}}", {", ".join(values)})'


def operations(context: Context, product: Product) -> Iterator[dict[str, str]]:
    """The methods of a product that give declared answers."""
    taken = context.taken(product)
    for operation in product.operations:
        if operation.answer is None and not operation.once:
            continue
        name, parameters, returns = context.signature(operation, taken)
        receiver = context.letter(product, operation)
        is_written = operation.answer is None
        doc = "does what is written for all kinds." if not returns else "returns the declared answer."
        typed = [("", context.code.type(p.type)) for p in operation.takes]
        yield {
            "receiver": f"{f'{receiver} ' if is_written else ''}*{context.names.type(product.name)}",
            "name": name,
            "member": operation.name,
            "calls": f"{context.names.type(product.name)}.{name}{types_of(typed)}{returns}",
            "parameters": parameters,
            "returns": returns,
            "body": f"{{ {body} }}" if (body := _method_body(context, operation, receiver)) else "{}",
            "doc": f"{name}: {operation.doc}" if operation.doc else f"{name} {doc}",
        }


def _method_body(context: Context, operation: Operation, receiver: str) -> str:
    """What an operation does: its declared answer, or a call of what is written once for all kinds."""
    gives = operation.returns != NOTHING
    if operation.answer is not None:
        return f"return {context.code.answer(operation.answer, operation.returns)}" if gives else ""
    passed = ", ".join([receiver, *(context.names.local(p.name) for p in operation.takes)])
    return f"{'return ' if gives else ''}{context.written_once(operation)}({passed})"


def _interface(context: Context, product: Product) -> Iterator[dict[str, object]]:
    """The methods: which embedded fields have, and which each kind has of its own."""
    type_ = context.names.type(product.name)

    def method(
        signature: str, doc: str = "", member: str = "", calls: str = "", *, own: bool = False
    ) -> dict[str, object]:
        lines = wrapped(plain(doc), 90) if doc else []
        calls = f"{type_}.{calls or signature}"
        return {"signature": signature, "doc": lines, "member": member, "calls": calls, "own": own}

    taken = context.taken(product)
    yield method("Key() string", "Key is the type code; it never changes.", own=True)
    for field in product.fields:
        name = context.names.exported(field.name, taken)
        doc = f"{name}: {doc}" if (doc := field_doc(field)) else ""
        yield method(f"{name}() {out_type(context, field)}", doc, field.name)
        if product.closed:  # who adds a kind to an open one would have to write them all
            for access in accesses(context, product, field, ""):
                yield method(access.signature, access.doc, field.name)
        if product.mutable:
            parameter, typed = context.names.local(field.name), context.code.type(field.type)
            fails = " error" if setter_fails(context, field) else ""
            name = f"Set{pascal(field.name)}"
            yield method(
                f"{name}({parameter} {typed}){fails}", member=field.name, calls=f"{name}({typed}){fails}"
            )
            if field.may_be_absent:
                yield method(f"Clear{pascal(field.name)}()", member=field.name)
    for change in product.changes:
        yield method(signature(context, product, change), said(context, product, change), change.field.name)
    for operation in product.operations:
        name, parameters, returns = context.signature(operation, taken)
        types = types_of([("", context.code.type(p.type)) for p in operation.takes])
        yield method(
            f"{name}({parameters}){returns}",
            f"{name}: {operation.doc}" if operation.doc else "",
            operation.name,
            f"{name}{types}{returns}",
            own=True,
        )
    yield method(
        f"Equal(other {type_}) bool", "Equal reports whether other has the same type and content.", own=True
    )
    for copying in methods(context, product):
        yield method(f"{copying['name']}() {copying['type']}", str(copying["doc"]), own=True)
    if product.closed:
        closing = method(f"is{pascal(product.name)}()", "No other package can add a kind.")
        yield {**closing, "member": False}


# --- options ------------------------------------------------------------------------------------------------


def _options(context: Context, product: Product) -> dict[str, object] | None:
    selection = context.plan.selection_of(product.name)
    own = [field for field in product.optional if field.owner == product.name]
    if selection is not None:
        own = list(selection.optional)
    if not own or context.plan.selected_by(product) is not None:
        return None
    type_, base = options_type(context.plan, context.names, product)
    redefined = {field.name for field in context.plan.redefined(product)}
    lines = [base] if base is not None else []
    for field in own:
        note = "the kind's default" if field.name in redefined else _note(context, field)
        empty = "empty" if isinstance(field.type, (ChoiceType,)) else "nil"
        name, held = pascal(field.name), context.code.optional(field)
        line = f"{name}{TAB}{held}{TAB}// {note} when {empty}"
        lines.append(line + entry("option", field.name, calls=f"{type_}.{name} {held}"))
    return {"type": type_, "lines": lines}


def _note(context: Context, field: Field) -> str:
    """A short note on the default of an optional field."""
    if field.default is None:
        return "empty" if isinstance(field.type, Collection) else "none"
    text = field.default.text if isinstance(field.default, Text) else context.code.value(field.default)
    if isinstance(field.default, Word):
        text = field.default.word
    if isinstance(field.default, Told):
        text = field.default.text
    short = plain(text)
    return short if short and len(short) <= LONGEST_NOTE and "nil" not in short else "the declared default"


# --- constructors -------------------------------------------------------------------------------------------


def _base_parameters(context: Context, product: Product) -> list[tuple[str, str]]:
    typed = [(context.names.local(field.name), context.code.type(field.type)) for field in product.required]
    if context.hidden(product):
        typed += [
            (context.option(product, field), context.code.optional(field)) for field in product.optional
        ]
    elif product.optional:
        typed.append(("opts", f"{context.names.type(product.name)}Options"))
    typed += [(f"{camel(f.name)}Default", context.code.stored(f)) for f in context.plan.redefined(product)]
    return typed


def base_fails(context: Context, base: Product) -> bool:
    """Whether making what all kinds embed can fail; who embeds it elsewhere may give nil for a product."""
    fails = any(context.code.field_fails(field) for field in base.fields)
    return fails or (base.is_open and any(isinstance(f.type, ProductType) for f in base.required))


def _base_body(context: Context, product: Product, fields: str, fails: bool) -> Iterator[str]:
    if product.is_open:
        yield from _missing(context, product, f"{fields}{{}}")
    redefined = {field.name: f"{camel(field.name)}Default" for field in context.plan.redefined(product)}
    yield from _built(context, product, list(product.fields), redefined, fields, "", fails, pointer=False)


def _body(context: Context, product: Product, fails: bool) -> Iterator[str]:
    type_ = context.names.type(product.name)
    base = context.plan.products[product.base] if product.base else None
    yield from _missing(context, product)
    base_literal = ""
    if base is not None and base.fields:
        base_literal = f"{context.names.embedded(base.name)}: base"
        call = base_call(context, product, base)
        if base_fails(context, base):
            yield f"base, err := {call}"
            yield from ("if err != nil {", "\treturn nil, err", "}")
        else:
            yield f"base := {call}"
    yield from _built(
        context, product, list(product.own_fields), {}, type_, base_literal, fails, pointer=True
    )


def base_call(context: Context, product: Product, base: Product) -> str:
    """The call that makes what all kinds have, with the arguments of a kind's constructor and its own defaults."""
    passed = [context.names.local(field.name) for field in base.required]
    if context.hidden(base):
        passed += [context.option(base, field) for field in base.optional]
    elif base.optional:
        _, embedded = options_type(context.plan, context.names, product)
        passed.append(f"opts.{embedded}" if embedded else "opts")
    passed += [_default_passed(context, product.field(f.name)) for f in context.plan.redefined(base)]
    new = "New" if base.is_open else "new"
    return f"{context.code.at}{new}{pascal(base.name)}Fields({', '.join(passed)})"


def _missing(context: Context, product: Product, nothing: str = "nil") -> Iterator[str]:
    """One error for every required product that is nil."""
    needed = [field for field in product.required if isinstance(field.type, ProductType)]
    if context.hidden(product):
        return  # a factory by values refuses what is missing before it calls a constructor
    names = [context.names.local(field.name) for field in needed]
    if len(needed) == 1:
        error = f'&MissingError{{Owner: "{product.name}", Fields: []string{{"{needed[0].name}"}}}}'
        yield from (f"if {names[0]} == nil {{", f"\treturn {nothing}, {error}", "}")
    elif needed:
        given = ", ".join(
            f'given{{"{f.name}", {name} != nil}}' for f, name in zip(needed, names, strict=True)
        )
        yield f'if err := missing("{product.name}", {given}); err != nil {{'
        yield from (f"\treturn {nothing}, err", "}")


def _default_passed(context: Context, field: Field) -> str:
    """A variant's default for an inherited field, as the base's constructor takes it."""
    if field.default is None:
        return '""' if isinstance(field.type, ChoiceType) else "nil"
    text = context.code.value(field.default)
    if field.may_be_absent and context.code.is_pointer(field):
        return context.code.pointer(field, text)
    return text


def _built(
    context: Context,
    product: Product,
    fields: list[Field],
    redefined: dict[str, str],
    type_: str,
    base: str,
    fails: bool,
    *,
    pointer: bool,
) -> Iterator[str]:
    """The rest of a constructor: locals, what is refused, and the struct."""
    none = "nil" if pointer else f"{type_}{{}}"
    if product.mutable:
        yield from _set_all(context, product, fields, redefined, type_, base, fails, none, pointer)
        return
    pairs = [base] if base else []
    tests: list[Test] = []
    declared: list[str] = []
    blocks: list[str] = []

    def flush() -> None:
        blocks.extend(declared)
        blocks.extend(refusals(tests, none))
        declared.clear()
        tests.clear()

    for field in fields:
        value, declaration = _given(context, product, field, redefined.get(field.name))
        declared.extend(declaration)
        present = f"{value} != nil" if context.code.is_pointer(field) else f'{value} != ""'
        absent = field.may_be_absent and not isinstance(field.type, ProductType)
        inner = f"*{value}" if absent and context.code.is_pointer(field) else value
        for test in context.code.tests(field, inner):
            guard = f"{present} && " if absent else ""
            tests.append(Test(f"{guard}{test.fails}", test.error))
        loop = list(element_loop(context, field, value, none))
        if loop:
            flush()
            blocks.extend(loop)
        tests.extend(context.code.later_tests(field, value))
        pairs.append(f"{context.names.stored(field.name)}: {_own_value(context, field, value)}")
    flush()
    yield from blocks
    literal = f"{'&' if pointer else ''}{type_}{{{', '.join(pairs)}}}"
    yield f"return {literal}{', nil' if fails else ''}"


def _given(context: Context, product: Product, field: Field, redefined: str | None) -> tuple[str, list[str]]:
    """The expression for what was given, and the local variable that it may need."""
    local = context.names.local(field.name)
    if field.required:
        return local, []
    option = context.option(product, field)
    default = redefined or (context.code.value(field.default) if field.default is not None else None)
    if field.may_be_absent and redefined is None and default is None:
        return option, []
    if default is None:
        return option, []
    if isinstance(field.type, Collection):
        return local, [f"{local} := {option}", f"if {local} == nil {{", f"\t{local} = {default}", "}"]
    if not context.code.is_pointer(field) or field.may_be_absent:
        pointer = field.may_be_absent and context.code.is_pointer(field)
        if isinstance(field.type, ProductType) or pointer:
            kept = context.code.pointer(field, default) if pointer and redefined is None else default
            return local, [f"{local} := {option}", f"if {local} == nil {{", f"\t{local} = {kept}", "}"]
        return local, [f"{local} := firstOf({option}, {default})"]
    return local, [f"{local} := orElse({option}, {default})"]


def _own_value(context: Context, field: Field, value: str) -> str:
    if field.may_be_absent and context.code.is_pointer(field):
        return f"{COPIES.get(field.type, 'copyOf')}({value})"
    return context.code.own_value(field.type, value)


# --- mutable products ---------------------------------------------------------------------------------------


def _set_all(
    context: Context,
    product: Product,
    fields: list[Field],
    redefined: dict[str, str],
    type_: str,
    base: str,
    fails: bool,
    none: str,
    pointer: bool,
) -> Iterator[str]:
    yield f"made := &{type_}{{{base}}}" if pointer else f"made := {type_}{{{base}}}"
    for field in fields:
        value, declared = _given(context, product, field, redefined.get(field.name))
        yield from declared
        setter = f"made.Set{pascal(field.name)}"
        absent = field.may_be_absent
        scalar = absent and context.code.is_pointer(field)
        call = f"{setter}({'*' if scalar else ''}{value})"
        lines = [call]
        if setter_fails(context, field) and not context.code.field_fails(
            field
        ):  # nil alone, which it is not here
            lines = [f"made.{context.names.stored(field.name)} = {context.code.own_value(field.type, value)}"]
        elif setter_fails(context, field):
            lines = [f"if err := {call}; err != nil {{", f"\treturn {none}, err", "}"]
        if absent:
            present = f'{value} != ""' if isinstance(field.type, ChoiceType) else f"{value} != nil"
            lines = [f"if {present} {{", *(f"\t{line}" for line in lines), "}"]
        yield from lines
    yield f"return made{', nil' if fails else ''}"
