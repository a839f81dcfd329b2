"""Products as TypeScript classes: frozen ones with readonly properties, mutable ones that check each assignment, single ones."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from urform.declaration.types import (
    NOTHING,
    TOLD,
    ChoiceType,
    Collection,
    ListOf,
    MapOf,
    MaybeOf,
    ProductType,
    SetOf,
    Type,
)
from urform.languages.naming.names import article, camel, snake, spoken
from urform.languages.rendering.fields import field_doc, option_doc
from urform.languages.rendering.prose import clone_sentences
from urform.languages.typescript.changes import changes
from urform.languages.typescript.context import Context
from urform.languages.typescript.expressions import SCALARS, listed, text_literal
from urform.languages.typescript.plain import plainly
from urform.plan.model import Field, Operation, Product, Selection
from urform.plan.whole import Plan

View = dict[str, object]


def union_text(context: Context, base: Product) -> str:
    """The union of the variants of a closed base, which has no others."""
    names = context.names
    types = [names.type(variant) for variant in base.variants]
    union = {"name": names.value(base.name), "types": types, "spoken": spoken(base.name)}
    return context.templates.render("union", base.name, u=union)


def product_text(context: Context, product: Product) -> str:
    """The class of a product, with the interface of what makes it."""
    names = context.names
    base = context.plan.products[product.base] if product.base else None
    view = {
        "type": names.type(product.name),
        "value": names.value(product.name),
        "stem": names.stem(product.name),
        "doc": product.doc,
        "abstract": product.abstract,
        "base": names.type(base.name) if base is not None else None,
        "key": text_literal(product.key) if product.key else None,
        "single": product.single,
        "mutable": product.mutable,
        "exported": product.abstract or not context.hidden(product),
        "fields": _fields_view(context, product),
        "open": product.is_open,
        "bare": not (product.required or product.single or product.abstract or context.hidden(product)),
        "keywords": [] if product.single or context.hidden(product) else keywords(context, product.fields),
        "own": [_field(context, field) for field in product.own_fields],
        "elements": [each for each in map(context.code.element, product.own_fields) if each is not None],
        "constructor": _constructor(context, product, base),
        "changes": list(changes(context, product)),
        "copies": list(_copies(context, product)),
        "operations": [operation_view(context, product, each) for each in product.operations],
        "equals": _equals(context, product, base),
        "shows": _shows(context, product),
        "json": _json(context, product),
        "shown_as": f"{'override ' if base is not None else ''}toString",
    }
    text = context.templates.render("product", product.name, p=view)
    return text.replace("\n\n}\n", "\n}\n")  # after the last member, whichever that is


# --- what makes a product -----------------------------------------------------------------------------------


def fields_type(context: Context, product: Product) -> str:
    """The type of what a constructor is given: of a variant, that of its base, unless it has fields of its own."""
    selection = context.plan.selected_by(product) or context.plan.selection_of(product.name)
    if selection is not None and not _takes_others(product, selection):
        whole = f"{context.names.stem(selection.product)}Fields"
        if len(product.fields) == len(selection.parameters):
            return whole
        named = [text_literal(context.names.member(f.name)) for f in product.fields]
        return f"Pick<{whole}, {' | '.join(named)}>"
    if selection is None and product.base is not None and not product.own_fields:
        return f"{context.names.stem(product.base)}Fields"
    return f"{context.names.stem(product.name)}Fields"


def _takes_others(product: Product, selection: Selection) -> bool:
    """Whether a hidden product has fields that its factory does not take, for it is never chosen."""
    taken = {field.name for field in selection.parameters}
    return any(field.name not in taken for field in product.fields)


def parameters(context: Context, product: Product) -> str:
    """The parameter of a constructor, with its default where nothing has to be given; empty where there are no fields."""
    if not product.fields:
        return ""
    return f"fields: {fields_type(context, product)}" + ("" if product.required else " = {}")


def keywords(context: Context, fields: Iterable[Field]) -> list[tuple[str, str, bool]]:
    """What is given by name: the name, the type, whether it has to be given."""
    return [(context.names.member(f.name), context.code.type(f.type), f.required) for f in fields]


def declared_parameters(context: Context, product: Product) -> str:
    """The same in an interface, which shows no defaults."""
    if not product.fields:
        return ""
    return f"fields{'' if product.required else '?'}: {fields_type(context, product)}"


def _fields_view(context: Context, product: Product) -> View | None:
    fields = _fields_here(context, product)
    if not fields or product.single:
        return None
    base = context.plan.products[product.base] if product.base else None
    inherits = base is not None and base.fields and context.plan.selected_by(product) is None
    default = "the default of its kind" if product.abstract else "its default"
    optional = any(not field.required for field in fields)
    return {
        "doc": f"The fields of {article(product.name)}"
        + (f"; a field that is left out takes {default}." if optional else "."),
        "extends": f" extends {context.names.stem(base.name)}Fields" if base is not None and inherits else "",
        "own": [
            {
                "doc": option_doc(field, of_any_kind=product.abstract),
                "name": context.names.member(field.name),
                "type": context.code.type(field.type),
                "required": field.required,
            }
            for field in fields
        ],
    }


def _fields_here(context: Context, product: Product) -> tuple[Field, ...]:
    """The fields of the interface that stands before a class."""
    selection = context.plan.selection_of(product.name)
    if selection is not None:
        return selection.parameters
    selection = context.plan.selected_by(product)
    if selection is not None:
        return product.fields if _takes_others(product, selection) else ()
    return product.own_fields


def _field(context: Context, field: Field) -> View:
    return {
        "name": context.names.member(field.name),
        "member": field.name,
        "stored": context.names.stored(field.name),
        "doc": field_doc(field),
        "type": context.code.held_type(field),
        "set_lines": list(_set_lines(context, field)),
    }


def default(context: Context, field: Field) -> str | None:
    """The default of an optional field; None where it is absent then, or required."""
    if field.required:
        return None
    if field.default is not None:
        return context.code.value(field.default)
    match field.type:
        case ListOf():
            return "[]"
        case SetOf() | MapOf():
            return f"new {context.code.mutable_type(field.type)}()"
    return None


# --- constructors -------------------------------------------------------------------------------------------


def _constructor(context: Context, product: Product, base: Product | None) -> View | None:
    if product.single:
        return {"modifier": "private ", "parameters": "", "lines": _single_lines(product)}
    defaults = _redefined_parameters(context, product) if product.abstract else []
    lines = list(_lines(context, product, base))
    if not lines or lines in (["super();"], ["super(fields);"]):
        return None  # what a class has by itself
    told = ["product: string = new.target.name"] if _tells_its_kind(context, product) else []
    given = [*filter(None, [parameters(context, product)]), *defaults, *told]
    return {"modifier": "", "parameters": ", ".join(given), "lines": lines}


def _single_lines(product: Product) -> list[str]:
    return [*(["super();"] if product.base is not None else []), "Object.freeze(this);"]


def _lines(context: Context, product: Product, base: Product | None) -> Iterator[str]:
    required = [] if context.hidden(product) else list(product.required)
    own_needs = any(field.owner == product.name for field in required)
    told_as_declared = context.names.type(product.name) == product.name
    if required and (base is None or own_needs or not told_as_declared):
        owner = "product" if product.abstract else f'"{product.name}"'
        yield from missing_lines(context, owner, required)
    if base is not None:
        yield _super(context, product, base)
    for field in product.own_fields:
        yield _taken(context, product, field)
    if not product.abstract and not product.mutable:
        yield "Object.freeze(this);"


def _tells_its_kind(context: Context, product: Product) -> bool:
    """Whether the constructor of an abstract product says whose fields are missing."""
    return product.abstract and bool(product.required) and not context.hidden(product)


def missing_lines(context: Context, owner: str, fields: list[Field]) -> list[str]:
    """The statement that refuses what is missing, all of it at once."""
    given = {field.name: f"fields.{context.names.member(field.name)}" for field in fields}
    return [
        f"if ({' || '.join(f'{value} == null' for value in given.values())}) {{",
        f"  throw missing({owner}, {listed(f'{name}: {value}' for name, value in given.items())});",
        "}",
    ]


def _super(context: Context, product: Product, base: Product) -> str:
    """The arguments of the base's constructor: the fields, and the variant's own defaults where some variant has another one."""
    passed = ["fields"] if base.fields else []
    passed += [_own_default(context, product, f) for f in context.plan.redefined(base)]
    if _tells_its_kind(context, base):
        passed.append(f'"{product.name}"')  # a bundler may give the class another name
    while passed and passed[-1] == "undefined":
        passed.pop()
    return f"super({', '.join(passed)});"


def _own_default(context: Context, product: Product, field: Field) -> str:
    """The default that a variant gives its base, where it is another one."""
    own = product.field(field.name)
    return default(context, own) or "undefined" if own.default != field.default else "undefined"


def _redefined_parameters(context: Context, product: Product) -> list[str]:
    parameters = []
    for field in context.plan.redefined(product):
        name, type_ = default_name(context, field), context.code.type(field.type)
        usual = default(context, field)
        if usual is not None and isinstance(field.type, (SetOf, MapOf)):  # the annotation tells its type
            usual = context.code.untold(field.type, usual)
        is_seen = field.type in SCALARS and field.type not in TOLD  # by the compiler, from the default
        told = "" if is_seen else f": {type_}"
        parameters.append(f"{name}{told} = {usual}" if usual is not None else f"{name}?: {type_}")
    return parameters


def default_name(context: Context, field: Field) -> str:
    """The parameter by which a variant gives its own default to its base."""
    return f"{context.names.member(field.name)}ByDefault"


def _taken(context: Context, product: Product, field: Field) -> str:
    """The statement by which a constructor takes a field."""
    name = context.names.member(field.name)
    given = f"fields.{name}"
    redefined = product.abstract and field in context.plan.redefined(product)
    otherwise = default_name(context, field) if redefined else default(context, field)
    if product.mutable:
        return f"this.{name} = {_or_else(given, otherwise)};"
    return f"this.{name} = {_checked_value(context, field, given, otherwise)};"


def _or_else(given: str, otherwise: str | None) -> str:
    return given if otherwise is None else f"{given} ?? {otherwise}"


def _checked_value(context: Context, field: Field, given: str, otherwise: str | None) -> str:
    """The expression that checks a value; nothing is checked of one that is absent."""
    value = _or_else(given, otherwise)
    if not field.may_be_absent:
        return context.code.checked_value(field, value) or value
    if otherwise is None:  # asked in place: a closure for each check costs a sixth of a constructor
        checked = context.code.checked_value(field, given)
        return f"{given} ?? undefined" if checked is None else f"{given} == null ? undefined : {checked}"
    name = context.names.parameter(field.name)
    checked = context.code.checked_value(field, name)
    return f"{value} ?? undefined" if checked is None else f"ifGiven({value}, ({name}) => {checked})"


def _set_lines(context: Context, field: Field) -> Iterator[str]:
    """A setter; the check of a type refuses null where a field cannot be absent."""
    checked = context.code.checked_value(field, "value")
    plain = "" if field.may_be_absent else plainly(field, "value", context.code.bound)
    if field.may_be_absent:
        taken = f"value == null ? undefined : {checked}" if checked is not None else "value ?? undefined"
    else:
        taken = f"{plain} ? value : {checked}" if plain else checked or "value"
    yield f"this.{context.names.stored(field.name)} = {taken};"


# --- copies -------------------------------------------------------------------------------------------------


def _copies(context: Context, product: Product) -> Iterator[View]:
    """The method that copies a product on the way in, and the one that clones it, unless one serves for both."""
    plan, names = context.plan, context.code.copying
    cloned = product.name in plan.cloned or (product.base or "") in plan.cloned
    copied = product.name in plan.owned or (product.base or "") in plan.owned
    if copied and not (cloned and names.copy(product) == names.clone(product)):
        yield _copying(context, product, names.copy(product), clones=False)
    if cloned:
        yield _copying(context, product, names.clone(product), clones=True)


def _copying(context: Context, product: Product, name: str, *, clones: bool) -> View:
    again = [field.name for field in product.fields if field.copy == "fresh"] if clones else []
    said = f"Returns {clone_sentences(again, mutable=product.mutable)}"
    lines, result = ([], "") if product.abstract else _copy(context, product, clones=clones)
    return {
        "name": name,
        "doc": said,
        "clones": "clone" if clones else "",
        "lines": lines,
        "result": result,
        "override": product.base is not None,
    }


def _copy(context: Context, product: Product, *, clones: bool) -> tuple[list[str], str]:
    """The statements that copy a product, and what they return; its constructor copies what it owns."""
    type_ = context.names.type(product.name)
    if not product.mutable and not (clones and context.plan.restarts(product)):
        return [], "this"
    if not product.fields:
        return [], f"new {type_}()"
    # All fields are named, though the constructor would take the product itself: V8 reads a plain object faster.
    kept = [field for field in product.fields if not clones or field.copy != "fresh"]
    below = [field for field in kept if clones and _restarts(context, field)]
    apart = [field for field in below if _sets_apart(product)]
    given = {f.name: _cloned(context, product, f, clones=clones) for f in kept}
    for field in apart:  # or the constructor would copy it, and all below it, once a level
        if not field.required:
            del given[field.name]
        elif isinstance(field.type, ListOf) and all(each.name != "min_length" for each in field.limits):
            given[field.name] = "[]"
    call = f"new {type_}({context.code.fields(given)})"
    if not apart:
        return [], call
    lines = [f"const made = {call};"]
    for field in apart:  # past the setter, which would copy the clone
        name = context.names.stored(field.name)
        lines.append(f"made.{name} = {_clone_below(context, field, f'this.{name}', frozen=True)};")
    return lines, "made"


def _sets_apart(product: Product) -> bool:
    """Whether a clone can reach the private fields of what it makes: they are those of its own class."""
    return product.mutable and product.base is None


def _restarts(context: Context, field: Field) -> bool:
    """Whether a clone of what a field owns differs from a copy of it."""
    inner = context.plan.product_in(field.type)
    return inner is not None and field.copy == "deep" and context.plan.restarts(inner)


def _cloned(context: Context, product: Product, field: Field, *, clones: bool) -> str:
    value = f"this.{context.names.member(field.name)}"
    if not clones or not _restarts(context, field) or _sets_apart(product):
        return value
    return _clone_below(context, field, value)


def _clone_below(context: Context, field: Field, value: str, *, frozen: bool = False) -> str:
    """The expression that clones what a field owns; `frozen` where no constructor takes it over."""
    inner = context.plan.product_in(field.type)
    assert inner is not None
    method = context.code.copying.clone(inner)
    return _clone_of(field.type, value, method, field.may_be_absent, frozen=frozen)


def _clone_of(
    type_: Type, value: str, method: str, may_be_absent: bool = False, *, frozen: bool, depth: int = 1
) -> str:
    each = "each" if depth == 1 else f"each{depth}"
    match type_:
        case ListOf(element):
            inner = _clone_of(element, each, method, frozen=frozen, depth=depth + 1)
            mapped = f"{value}.map(({each}) => {inner})"
            return f"Object.freeze({mapped})" if frozen else mapped
        case MapOf(_, element):
            inner = _clone_of(element, each, method, frozen=frozen, depth=depth + 1)
            return f"{'frozenValues' if frozen else 'mapValues'}({value}, ({each}) => {inner})"
    return f"{value}{'?' if may_be_absent else ''}.{method}()"


# --- content ------------------------------------------------------------------------------------------------


def _equals(context: Context, product: Product, base: Product | None) -> View | None:
    type_ = context.names.type(product.name)
    if base is not None and not product.own_fields:
        return None
    if base is not None:
        parts = ["super.equals(other)", f"other instanceof {type_}"]
    elif product.abstract:
        parts = [f"other instanceof {type_}", "other.constructor === this.constructor"]
    else:
        parts = ["other === this" if product.single else f"other instanceof {type_}"]
    for field in product.own_fields:
        name = context.names.member(field.name)
        direct = context.code.compared_directly(field)
        parts.append(f"this.{name} === other.{name}" if direct else f"same(this.{name}, other.{name})")
    return {"text": " && ".join(parts), "override": base is not None}


def _shows(context: Context, product: Product) -> str | None:
    if product.abstract:
        return None
    if not product.fields:
        return f'"{product.name}"'
    pairs = [f"{field.name}: this.{context.names.member(field.name)}" for field in product.fields]
    return f'shown("{product.name}", {listed(pairs)})'


def _json(context: Context, product: Product) -> str | None:
    """What `JSON.stringify` is given: the fields, and before them the type code of a kind."""
    if product.abstract:
        return None
    pairs = [f"{field.name}: this.{context.names.member(field.name)}" for field in product.fields]
    if product.base is not None and not any(field.name == "kind" for field in product.fields):
        pairs.insert(0, "kind: this.key")
    return f"json({listed(pairs)})"


# --- operations ---------------------------------------------------------------------------------------------


def operation_view(context: Context, product: Product, operation: Operation) -> View:
    """The view of an operation that the template of a class shows."""
    names = [context.names.parameter(parameter.name) for parameter in operation.takes]
    types = [context.code.type(parameter.type) for parameter in operation.takes]
    parameters = [f"{name}: {type_}" for name, type_ in zip(names, types, strict=True)]
    body = ""
    if operation.answer is not None:
        body = context.code.answer(operation.answer)
    elif not product.abstract:
        called = (
            f"{context.operations_module(product)}.{operation_function(context.plan, product, operation)}"
        )
        body = f"{called}({', '.join(['this', *names])})"
    if operation.returns != NOTHING:
        body = f"return {body};"
    else:
        body = f"{body};" if operation.answer is None else "// There is nothing to do."
    shown = product.abstract or product.base is None or operation.owner == product.name
    return {
        "name": context.names.member(operation.name),
        "member": operation.name,
        "calls": f"({', '.join(types)}): {context.code.type(operation.returns)}",
        "doc": operation.doc if shown else "",
        "abstract": product.abstract,
        "override": product.base is not None and operation.owner != product.name,
        "parameters": ", ".join(parameters),
        "listed": parameters,
        "returns": context.code.type(operation.returns),
        "body": body,
    }


def operation_function(plan: Plan, product: Product, operation: Operation) -> str:
    """The user's own function: `buoyRangeFrom`."""
    return camel(f"{snake(plan.written_on(product, operation).name)}_{operation.name}")


def types_in(type_: Type) -> Iterator[str]:
    """The choices and products that a type names."""
    if isinstance(type_, (ChoiceType, ProductType)):
        yield type_.name
    elif isinstance(type_, MaybeOf):
        yield from types_in(type_.element)
    elif isinstance(type_, Collection):
        yield from types_in(type_.element)
        if isinstance(type_, MapOf):
            yield from types_in(type_.key)
