"""Builders in Rust: setters through `&mut self`, so that statements and chains read alike."""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping, Sequence
from typing import Any

from urform.declaration.types import TEXT, ListOf, SetOf
from urform.languages.naming.names import Words, beside, pascal, screaming, spoken
from urform.languages.rendering.comments import plain
from urform.languages.rendering.fields import option_doc
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import is_copied, is_type_default
from urform.languages.rust.layout import WIDTH, wide
from urform.languages.rust.names import BUILDER_METHODS, KEYWORDS, OPERATORS
from urform.languages.rust.products import otherwise
from urform.languages.rust.views import comment
from urform.plan.model import Builder, Field, Product
from urform.prose import with_article

View = dict[str, object]


class BuilderNames:
    """The names of a builder's methods: generated ones come first, then adders and setters."""

    def __init__(self, product: Product, builder: Builder) -> None:
        presets = {self.preset(preset.name) for preset in builder.presets}
        adders = {self.adder(field) for field in product.fields if field.item}
        adders |= {self.clearer(field) for field in product.optional}
        more = {"having", "parts", *OPERATORS} if builder.typed else set()
        self._setters = Words(KEYWORDS, BUILDER_METHODS, more, presets, adders)
        self._prefix = "" if builder.fluent else "set_"

    def setter(self, field: Field) -> str:
        """`crew`, `set_crew` where setters are statements."""
        return self._setters.escape(f"{self._prefix}{field.name}")

    def adder(self, field: Field) -> str:
        """`add_leg`."""
        return f"add_{field.item or ''}"

    def clearer(self, field: Field) -> str:
        """`clear_crew`."""
        return f"clear_{field.name}"

    def clearing(self, field: Field) -> str:
        return f".{self.clearer(field)}()"

    def preset(self, name: str) -> str:
        """`from_spring_refit`."""
        return f"from_{name}"


def build_fails(context: Context, product: Product) -> bool:
    """Whether a build can fail: of a typed builder that is not emptied, nothing can be missing."""
    builder = context.plan.builder_of(product.name)
    complete = builder is not None and builder.typed and not builder.resets
    return context.code.fallible(product) or (bool(product.required) and not complete)


def builder_text(context: Context, product: Product, builder: Builder) -> str:
    """The builder of a product; of a typed one also what its type is about."""
    if not builder.typed:
        return _parts_text(context, product, builder)
    return f"{_parts_text(context, product, builder)}\n{_typed_text(context, product, builder)}"


def _parts_text(context: Context, product: Product, builder: Builder) -> str:
    """What collects values and builds, whatever it was given."""
    names = BuilderNames(product, builder)
    type_ = context.names.type(product.name)
    fails = bool(product.required) or context.code.fallible(product)
    needed = product.required
    moves = builder.resets and not context.code.fallible(product)
    return context.templates.render(
        "builder",
        product.name,
        b={
            "type": type_,
            "name": context.names.derived(product.name, "Parts" if builder.typed else "Builder"),
            "typed": builder.typed,
            "a": with_article(type_),
            "owner": product.name,
            "fluent": builder.fluent and not builder.typed,
            "resets": builder.resets,
            "fails": fails,
            "struct": [
                {"name": context.names.stored(f.name), "type": f"Option<{context.code.owned(f)}>"}
                for f in product.fields
                if _is_apart(f)
            ],
            "options": context.code.options(product) if _together(product) else None,
            "fields": [_field(context, names, field, product) for field in product.fields],
            "result": f"Creation<{type_}>" if fails else type_,
            "needed": [f'("{f.name}", self.{context.names.stored(f.name)}.is_some())' for f in needed],
            "lines": list(_needed_lines(context, product)) if not moves else [],
            "call": _call(context, product),
            "moves": _moving(context, product) if moves else None,
            "can_fail": context.code.fallible(product),
            "like": [_like(context, f) for f in product.fields if _is_apart(f)],
            "like_options": _like_options(context, product),
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    "lines": [
                        f"builder.{_kept_in(context, product.field(n))} = {_preset(context, product.field(n), v)};"
                        for n, v in preset.values.items()
                    ],
                }
                for preset in builder.presets
            ],
        },
    )


def _typed_text(context: Context, product: Product, builder: Builder) -> str:
    """The builder whose type tells what it was given: a constant for each required field that a build asks for."""
    names, type_ = BuilderNames(product, builder), context.names.type(product.name)
    asked = [field for field in product.required if field.name not in builder.overlooked]
    name = context.names.derived(product.name, "Builder")
    constants = _constants(context, asked)
    told = [f"const {constant}: bool" for constant in constants]

    def having(given: Container[str]) -> str:
        listed = ", ".join("true" if field.name in given else "false" for field in asked)
        return f"{name}<{listed}>" if asked else name

    required = {field.name for field in asked}
    fails = build_fails(context, product)
    after = (
        "A build that succeeds empties the builder."
        if builder.resets
        else "A build leaves the builder as it is."
    )
    return context.templates.render(
        "builder_typed",
        product.name,
        t={
            "a": with_article(type_),
            "parts": context.names.derived(product.name, "Parts"),
            "asked": [
                {
                    "spoken": spoken(field.name),
                    "told": has_field(context, product, field.name),
                    "bound": bound_of(f"{has_field(context, product, field.name)}<{constant}>"),
                }
                for field, constant in zip(asked, constants, strict=True)
            ],
            "type": name,
            "declared": declared_with(name, [f"{each} = false" for each in told]),
            "implemented": implemented(name, told, constants),
            "after": f"/// {after}",
            "like": f"pub fn like(like: &{type_}) -> {having(required)} {{",
            "presets": [
                {
                    "name": names.preset(preset.name),
                    "preset": preset.name,
                    "head": f"pub fn {names.preset(preset.name)}() -> {having(preset.values)} {{",
                }
                for preset in builder.presets
            ],
            "setters": [
                call
                for field in product.fields
                for call in _typed_calls(
                    _field(context, names, field, product), name, _with(field, asked, constants)
                )
            ],
            "resets": builder.resets,
            "fails": fails,
            "result": f"Creation<{type_}>" if fails else type_,
            "errors": "`CreationError::Missing` with every missing field, or else `CreationError::Limit` for the first "
            "broken limit."
            if builder.resets
            else "`CreationError::Limit` for the first broken limit.",
            "unwraps": not fails and bool(product.required),
        },
    )


def has_field(context: Context, product: Product, field: str) -> str:
    """The type that says whether a field was given: `RefitPlanHasCrew<true>`."""
    return context.names.derived(product.name, f"Has{pascal(field)}")


def _constants(context: Context, asked: Sequence[Field]) -> list[str]:
    """The constant of each field; a type of the same name would be taken for it."""
    types = Words(map(context.names.type, context.plan.type_names))
    return [types.escape(screaming(field.name)) for field in asked]


def _with(field: Field, asked: Sequence[Field], constants: Sequence[str]) -> list[str] | None:
    """The arguments of a builder's type with a field given; None where it does not ask for the field."""
    if field not in asked:
        return None
    return ["true" if each is field else constant for each, constant in zip(asked, constants, strict=True)]


def _typed_calls(view: Mapping[str, Any], name: str, given: Sequence[str] | None) -> Iterator[View]:
    """The setter, clearer and adder of a field: those of the parts, on a builder that is handed on."""
    changed = (
        ("Self", "self") if given is None else (f"{name}<{', '.join(given)}>", f"{name}::having(self.parts)")
    )

    def call(method: str, parameter: str, doc: str) -> View:
        handed = parameter.partition(":")[0]
        before = f", {parameter}" if parameter else ""
        return {
            "doc": comment(doc, 4),
            "head": f"pub fn {method}(mut self{before}) -> {changed[0]} {{",
            "call": f"{method}({handed})",
            "returned": changed[1],
        }

    yield call(view["setter"], view["parameter"], view["doc"])
    if view["clearer"]:
        yield call(view["clearer"], "", f"Takes the {view['spoken']} back, as if it had never been set.")
    if view["adder"]:
        yield call(view["adder"], view["item"], f"Adds one {view['item_spoken']}.")


def bound_of(told: str) -> str:
    """What a build asks of a field, in two lines where it does not fit on one."""
    between = " " if wide(f"        {told}: builders::Given,") <= WIDTH else "\n            "
    return f"{told}:{between}builders::Given,"


def declared_with(name: str, parameters: Sequence[str]) -> str:
    """The header of a struct with its parameters, one a line where they do not share one with it."""
    whole = f"pub struct {name}<{', '.join(parameters)}>" if parameters else f"pub struct {name}"
    if wide(whole) <= WIDTH:
        return f"{whole}{' ' if wide(whole) + 2 <= WIDTH else chr(10)}{{"
    return f"pub struct {name}<\n" + "".join(f"    {each},\n" for each in parameters) + "> {"


def implemented(name: str, told: Sequence[str], constants: Sequence[str]) -> str:
    """The header of the implementation for all parameters."""
    if not told:
        return f"impl {name} {{"
    generic, of = f"impl<{', '.join(told)}>", f"{name}<{', '.join(constants)}>"
    if wide(f"{generic} {of} {{") <= WIDTH:
        return f"{generic} {of} {{"
    if wide(generic) > WIDTH - 5:
        generic = "impl<\n" + "".join(f"        {each},\n" for each in told) + "    >"
        if wide(f"    > {of}") <= WIDTH - 2:
            return f"{generic} {of}\n{{"
    if wide(of) + 4 > WIDTH:
        of = f"{name}<\n" + "".join(f"        {each},\n" for each in constants) + "    >"
    return f"{generic}\n    {of}\n{{"


def _kept_in(context: Context, field: Field) -> str:
    """Where a builder keeps a field."""
    if _is_apart(field):
        return context.names.stored(field.name)
    return f"options.{context.names.option(field.name)}"


def _preset(context: Context, field: Field, value: object) -> str:
    text = context.code.value(value, field.type, shared=context.code.shared(field))  # type: ignore[arg-type]
    return f"Some({text})" if _is_apart(field) or field.may_be_absent else text


def _is_apart(field: Field) -> bool:
    """Whether a builder has to know that a field was not given: what is added to is not the default."""
    grows = field.item is not None and isinstance(field.type, (ListOf, SetOf))
    return field.required or (grows and not is_type_default(field.default, field.type))


def _together(product: Product) -> list[Field]:
    """The fields that a builder keeps as options."""
    return [field for field in product.optional if not _is_apart(field)]


def _field(context: Context, names: BuilderNames, field: Field, product: Product) -> dict[str, object]:
    local = context.names.local(field.name)
    local = local if local != "builder" else "value"
    owned = f"{local}.to_owned()" if field.type == TEXT else local
    element = field.type.element if isinstance(field.type, (ListOf, SetOf)) else None
    item = context.names.local(field.item or "item")
    kept = f"self.{_kept_in(context, field)}"
    grown = f"{kept}.get_or_insert_with(Default::default)" if _is_apart(field) else kept
    shared = context.code.shared(field)
    taken = context.code.parameter(field.type, shared=shared)
    item_taken = context.code.parameter(element, shared=shared) if element is not None else ""
    return {
        "name": field.name,
        "setter": names.setter(field),
        "taken": taken,
        "parameter": f"{local}: {taken}",
        "kept": f"{kept} = {f'Some({owned})' if _is_apart(field) or field.may_be_absent else owned};",
        "doc": plain(option_doc(field, f"Sets the {spoken(field.name)}.")),
        "clearer": names.clearer(field) if not field.required else None,
        "held": _kept_in(context, field),
        "unset": "None"
        if _is_apart(field)
        else f"{context.code.options(product)}::default().{context.names.option(field.name)}",
        "spoken": spoken(field.name),
        "adder": names.adder(field) if field.item and element is not None else None,
        "item_taken": item_taken,
        "item": f"{item}: {item_taken}" if element is not None else "",
        "item_spoken": spoken(field.item or ""),
        "added": f"{grown}.{'push' if isinstance(field.type, ListOf) else 'insert'}"
        f"({f'{item}.to_owned()' if element == TEXT else item});",
    }


def _needed_lines(context: Context, product: Product) -> Iterator[str]:
    for field in product.required:
        stored, local = context.names.stored(field.name), context.names.local(field.name)
        reference = "" if is_copied(field.type) else "&"
        yield f"let Some({local}) = {reference}self.{stored} else {{"
        yield "    return Err(self.missing());"
        yield "};"


def _call(context: Context, product: Product) -> str:
    arguments = []
    for field in product.required:
        local = context.names.local(field.name)
        arguments.append(local if is_copied(field.type) or field.type == TEXT else f"{local}.clone()")
    if product.optional:
        apart = [
            f"{context.names.option(f.name)}: {otherwise(context, f, f'self.{context.names.stored(f.name)}.clone()')}"
            for f in product.optional
            if _is_apart(f)
        ]
        rest = ", ..self.options.clone()" if _together(product) else ""
        options = context.code.options(product)
        arguments.append(f"{options} {{ {', '.join(apart)}{rest} }}" if apart else "self.options.clone()")
    return f"{context.names.type(product.name)}::new({', '.join(arguments)})"


def _moving(context: Context, product: Product) -> dict[str, object]:
    """How a builder is emptied into a product that nothing can refuse: the pattern of one that is full, and the call."""
    apart = [field for field in product.optional if _is_apart(field)]
    local = {field.name: context.names.local(field.name) for field in (*product.required, *apart)}
    stored = {name: context.names.stored(name) for name in local}
    pattern = [f"{stored[f.name]}: Some({local[f.name]})" for f in product.required]
    pattern += [_bound(stored[f.name], local[f.name]) for f in apart]
    arguments = [f"&{local[f.name]}" if f.type == TEXT else local[f.name] for f in product.required]
    if product.optional:
        rest = beside("options", local.values())
        given = [f"{context.names.option(f.name)}: {otherwise(context, f, local[f.name])}" for f in apart]
        if _together(product):
            pattern.append(_bound("options", rest))
            given.append(f"..{rest}")
        arguments.append(f"{context.code.options(product)} {{ {', '.join(given)} }}" if apart else rest)
    return {
        "parts": pattern,
        "pattern": ", ".join(pattern),
        "call": f"{context.names.type(product.name)}::new({', '.join(arguments)})",
    }


def _bound(field: str, name: str) -> str:
    """A field of a pattern, which is short where its name is that of the variable."""
    return name if field == name else f"{field}: {name}"


def _like_options(context: Context, product: Product) -> list[str]:
    pairs = [_like(context, f) for f in _together(product)]
    rest = [] if len(pairs) == len(product.optional) else [f"..{context.code.options(product)}::default()"]
    return pairs + rest


def _like(context: Context, field: Field) -> str:
    stored = f"like.{context.names.stored(field.name)}"
    copied = context.code.copied(field.type, stored)
    if context.code.boxed(field):
        copied = f"{stored}.as_deref().cloned()" if field.may_be_absent else f"{stored}.as_ref().clone()"
    if _is_apart(field):
        return f"{context.names.stored(field.name)}: Some({copied})"
    return f"{context.names.option(field.name)}: {copied}"
