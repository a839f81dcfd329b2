"""Products as Python classes: frozen dataclasses, mutable ones that check each assignment, single ones."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from urform.declaration.types import NOTHING, UUID, Collection, innermost
from urform.declaration.values import Made
from urform.languages.naming.names import snake
from urform.languages.python.changes import changes
from urform.languages.python.context import Context
from urform.languages.python.copies import copies
from urform.languages.python.expressions import text_literal
from urform.languages.python.views import FieldView, natural
from urform.languages.python.words import HARD_KEYWORDS as KEYWORDS
from urform.languages.rendering.fields import field_doc
from urform.plan.model import Field, Operation, Product
from urform.plan.whole import Plan

FEW = 2  # fields that are looked at one by one
FITS = 70  # characters of a formatted text that can follow `return`
LONG = 73  # and of one on a line of its own, in parentheses
SEVERAL = 4  # required fields that are compared with None before all are looked at


def _decorator(product: Product, *, hidden: bool, weak: bool) -> str:
    """The arguments of the dataclass decorator."""
    words = ["frozen=True", "slots=True", *(["init=False"] if hidden else []), "kw_only=True"]
    return ", ".join([*words, *(["weakref_slot=True"] if weak else [])])


def _guarded(field: Field, value: str, plain: tuple[str, ...], lines: list[str]) -> Iterator[str]:
    """Lines for a value that is there and not plainly in order."""
    conditions = [f"{value} is not None"] if field.may_be_absent else []
    match plain:
        case ():
            pass
        case (one,) if one.startswith("type("):
            conditions.append(one.replace(" is ", " is not ", 1))
        case (one,):
            conditions.append(f"not {one}")
        case _:
            conditions.append(f"not ({' and '.join(plain)})")
    if not conditions:
        yield from lines
    elif lines:
        yield f"if {' and '.join(conditions)}:"
        yield from (f"    {line}" for line in lines)


class ProductWriter:
    """Writes the classes of products."""

    def __init__(self, context: Context) -> None:
        self.context = context
        self.plan = context.plan
        self.names = context.names
        self.code = context.code
        self.templates = context.templates

    def union(self, base: Product) -> str:
        """The union of the variants of a closed base, which has no others."""
        types = [self.names.type(variant) for variant in base.variants]
        return self.templates.render(
            "union", base.name, u={"name": self.names.value(base.name), "types": types}
        )

    def product(self, product: Product) -> str:
        """The class of a product."""
        hidden = (
            self.plan.selected_by(product) is not None or self.plan.selection_of(product.name) is not None
        )
        entry = self.names.function(product.base or product.name)
        pool = self.plan.pool_of(product.name)
        view = {
            "type": self.names.type(product.name),
            "value": self.names.value(product.name),
            "base": self.names.type(product.base) if product.base else None,
            "abstract": product.abstract,
            "has_key": product.abstract,
            "key": text_literal(product.key) if product.key else None,
            "doc": product.doc,
            "single": product.single,
            "constant": self.constant(product),
            "mutable": product.mutable,
            "field_docs": []
            if product.mutable
            else [f"{self.names.field(f.name)}: {doc}" for f in product.own_fields if (doc := field_doc(f))],
            "own": [self._field(field) for field in self._declared_here(product)],
            "parameters": ", ".join(self._parameter(field, hidden) for field in product.fields),
            "keywords": [
                (self.names.field(f.name), self.code.field_type(f), f.required) for f in product.fields
            ],
            "open": product.is_open,
            "init": self._lines(self._init_body(product), 8),
            "slots": self._slots(product, weak=pool is not None and pool.weak),
            "equal": self._equal(product),
            "shown": (shown := list(self._shown(product))),
            "shown_apart": len(shown) > 1 or FITS < len(shown[0]) - 3 <= LONG,
            "properties": [self._property(f) for f in product.fields if f.owner == product.name],
            "changes": list(changes(self.context, product)),
            "pooled": pool is not None,
            "dataclass": _decorator(product, hidden=hidden, weak=pool is not None and pool.weak),
            "hidden": hidden,
            "initializer": "_fill" if product.abstract and hidden else "__init__",
            "entry": entry,
            "puts": [self.names.field(f.name) for f in product.fields],
            "copies": list(copies(self.context, product)),
            "hidden_defaults": list(self._hidden_defaults(product)),
            "post_init": self._lines(self._post_init(product), 8),
            "checked": self._is_checked(product),
            "operations": [
                self.operation(product, operation) for operation in self._operations_here(product)
            ],
            "methods": bool(list(self._operations_here(product))),
        }
        return self.templates.render("product", product.name, p=view)

    def constant(self, product: Product) -> str:
        """Where the one instance of a single product is kept."""
        return f"_{snake(product.name).upper()}"

    def _lines(self, lines: Iterable[str], margin: int) -> str:
        indented = [" " * margin + line for line in lines]
        return "\n".join([*indented, ""]) if indented else ""

    def _declared_here(self, product: Product) -> Iterator[Field]:
        """Own fields, and inherited ones whose default is another."""
        base = self.plan.products[product.base] if product.base else None
        for field in product.fields:
            own = base is None or field.owner == product.name
            if own or (not product.mutable and self._redefines(product, field)):
                yield field

    def _redefines(self, product: Product, field: Field) -> bool:
        """Whether a variant gives an inherited field another default."""
        return field.default != self.plan.products[product.base or ""].field(field.name).default

    def _field(self, field: Field) -> FieldView:
        name = self.names.field(field.name)
        default = self.code.default(field)
        is_call = isinstance(field.default, Made) or field.type == UUID
        if is_call and field.default is not None:  # ruff's RUF009: not a call in the body of the class
            default = f"field(default_factory=lambda: {default})"
        return FieldView(name, self.code.field_type(field), default)

    def _parameter(self, field: Field, hidden: bool) -> str:
        if hidden and not field.required:  # None is what a factory passes on that was not given itself
            return f"{self.names.field(field.name)}: {self.code.type(field.type)} | None = None"
        default = self._init_default(field)
        optional = " | None" if default == "None" and not field.may_be_absent else ""
        return f"{self.names.field(field.name)}: {self.code.field_type(field)}{optional}" + (
            f" = {default}" if default is not None else ""
        )

    def _init_default(self, field: Field) -> str | None:
        """What the parameter shows; a product is made anew for each call, and so is what only a call makes."""
        is_made = self.plan.product_in(field.type) is not None or innermost(field.type) == UUID
        if field.default is not None and is_made:
            return "None"
        return self.code.default(field)

    def _post_init(self, product: Product) -> Iterator[str]:
        base = self.plan.products[product.base] if product.base else None
        own = [field for field in product.fields if field.owner == product.name]
        if (
            base is not None
            and not any(f.required for f in own)
            and self.names.type(product.name) == product.name
        ) or self.plan.selected_by(product) is not None:
            needed: list[Field] = []
        else:
            needed = [field for field in product.fields if field.required]
        if needed:
            owner = f'"{product.name}"' if not product.abstract else "type(self).__name__"
            yield from self.all_given(owner, needed, self._own)
        defaults = [f for f in self._declared_here(product) if not f.required and not f.absent_by_default]
        yield from self._unless_given(defaults)
        checks = [line for field in own for line in self._check(field)]
        if base is not None and (needed or defaults or checks) and self._checks_anything(base):
            yield f"{self.names.type(base.name)}.__post_init__(self)"
        yield from checks

    def _unless_given(self, fields: list[Field]) -> Iterator[str]:
        """None counts as not given: one or two fields inline, which is faster, more by a call."""
        pairs = [(self.names.field(field.name), self.code.default(field)) for field in fields]
        if len(pairs) > FEW:
            yield f"unless_given(self, {', '.join(f'{name}={default}' for name, default in pairs)})"
            return
        for name, default in pairs:
            yield f"if self.{name} is None:"
            yield f'    put(self, "{name}", {default})'

    def all_given(self, owner: str, fields: list[Field], value_of: Callable[[Field], str]) -> Iterator[str]:
        """Refuses what is missing; a few fields are compared first, which is faster than a call."""
        given = self.given(owner, fields, value_of)
        if len(fields) > SEVERAL:
            yield given
            return
        yield f"if {' or '.join(f'{value_of(field)} is None' for field in fields)}:"
        yield f"    {given}"

    def given(self, owner: str, fields: list[Field], value_of: Callable[[Field], str]) -> str:
        """The call that refuses what is missing; names that had to be escaped are told as they were declared."""
        if not any(field.name in KEYWORDS for field in fields):
            return f"given({', '.join([owner, *(f'{field.name}={value_of(field)}' for field in fields)])})"
        pairs = ", ".join(f'"{field.name}": {value_of(field)}' for field in fields)
        return f"given({owner}, **{{{pairs}}})"

    def _own(self, field: Field) -> str:
        return f"self.{self.names.field(field.name)}"

    def as_parameter(self, field: Field) -> str:
        """A field as a function takes it."""
        return self.names.field(field.name)

    def _is_checked(self, product: Product) -> bool:
        """Whether a product has a `__post_init__`, of its own or from its base."""
        bases = [self.plan.products[product.base]] if product.base is not None else []
        return any(self._checks_anything(each) for each in (product, *bases))

    def _checks_anything(self, product: Product) -> bool:
        return bool(list(self._post_init(product)))

    def _check(self, field: Field) -> Iterator[str]:
        """The checks of one field of an immutable product, once all fields are there."""
        name = self.names.field(field.name)
        checked = self.code.checked_value(field, f"self.{name}")
        if checked is None:
            return
        line = f'put(self, "{name}", {checked})' if self.code.changes(field) else checked
        plain = self.code.plain(field, f"self.{name}")
        known = self.code.known(field, f"self.{name}")
        if known is not None:  # it is copied, be it in order or not
            yield from _guarded(field, f"self.{name}", plain, [known])
            plain = ()
        yield from _guarded(field, f"self.{name}", plain, [line])

    def _init_body(self, product: Product) -> Iterator[str]:
        """Of a mutable product: every field through its setter."""
        if not product.mutable:
            return
        base = self.plan.products[product.base] if product.base else None
        required = [field for field in product.fields if field.required]
        if required and self.plan.selected_by(product) is None:
            owner = "type(self).__name__" if product.abstract else f'"{product.name}"'
            yield from self.all_given(owner, required, self.as_parameter)
        if base is not None and base.fields:
            inherited = [self._passed_on(product, f) for f in product.fields if f.owner == base.name]
            initializer = "_fill" if self.plan.selection_of(base.name) is not None else "__init__"
            yield f"{self.names.type(base.name)}.{initializer}(self, {', '.join(inherited)})"
        for field in product.fields:
            if field.owner == product.name:
                name = self.names.field(field.name)
                yield f"self.{name} = {self._given_or_default(product, field)}"

    def _passed_on(self, product: Product, field: Field) -> str:
        name = self.names.field(field.name)
        inherited = self.plan.products[field.owner].field(field.name)
        same = inherited.default == field.default
        return f"{name}={name if same else self._given_or_default(product, field)}"

    def _given_or_default(self, product: Product, field: Field) -> str:
        name = self.names.field(field.name)
        if field.required or field.absent_by_default:
            return name
        default = f"self._default_{name}()" if self._is_hidden(product, field) else self.code.default(field)
        return f"{default} if {name} is None else {name}"

    def _is_hidden(self, product: Product, field: Field) -> bool:
        """Whether some parameter of a constructor hides a function that makes a default."""
        parameters = {self.names.field(each.name) for each in product.fields}
        return product.mutable and not parameters.isdisjoint(self.code.functions_in(field.default))

    def _hidden_defaults(self, product: Product) -> Iterator[dict[str, str]]:
        """Those defaults, each as a method, in which the name is that of the module again."""
        for field in product.fields:
            if self._is_hidden(product, field):
                type_ = self.code.field_type(field)
                yield {
                    "name": self.names.field(field.name),
                    "type": type_,
                    "value": self.code.default(field) or "",
                }

    def _slots(self, product: Product, *, weak: bool) -> str:
        names = [self.names.slot(field.name) for field in product.fields if field.owner == product.name]
        names += ["__weakref__"] if weak else []
        listed = ", ".join(f'"{name}"' for name in sorted(names, key=natural))
        return f"({listed}{',' if len(names) == 1 else ''})"

    def _equal(self, product: Product) -> str:
        """Whether a mutable product holds what another one holds."""
        attributes = [self.context.attribute(product, field) for field in product.fields]
        return " and ".join(f"self.{name} == other.{name}" for name in attributes)

    def _shown(self, product: Product) -> Iterator[str]:
        """The representation of a mutable product, a text or several that are one."""
        fields = [
            f"{self.names.field(f.name)}={{self.{self.context.attribute(product, f)}!r}}"
            for f in product.fields
        ]
        *others, last = fields or [""]
        parts = [f"{self.names.type(product.name)}(", *(f"{field}, " for field in others), f"{last})"]
        text = parts[0]
        for part in parts[1:]:
            if len(text) + len(part) > LONG:
                yield f'f"{text}"'
                text = ""
            text += part
        yield f'{"f" if fields else ""}"{text}"'

    def _property(self, field: Field) -> dict[str, str]:
        """A field of a mutable product: what reads it, and what sets it."""
        return {
            "name": self.names.field(field.name),
            "type": self.code.field_type(field),
            "held": self.code.held_type(field),
            "slot": self.names.slot(field.name),
            "doc": field_doc(field),
            "checks": self._lines(self._setter(field), 8),
            "kept": self._kept(field),
        }

    def _kept(self, field: Field) -> str:
        """The value that a setter keeps, after its limits."""
        copied = self.code.checked_value(field, "value") if self.code.known(field, "value") else None
        if copied is None:
            return "value"
        return f"value and {copied}" if field.may_be_absent else copied

    def _setter(self, field: Field) -> Iterator[str]:
        """The statements of a setter before it keeps a value."""
        checked = self.code.checked_value(field, "value")
        known = self.code.known(field, "value")
        plain = self.code.plain(field, "value")
        missing = [] if field.may_be_absent else [self.given(f'"{field.owner}"', [field], lambda _: "value")]
        if missing and (not plain or isinstance(field.type, Collection)):  # others are seldom not in order
            missing = ["if value is None:", f"    {missing[0]}"]
        if not plain:
            yield from missing
            missing = []
        check = known or (f"value = {checked}" if self.code.changes(field) else checked)
        yield from _guarded(field, "value", plain, [*missing, *([check] if check else [])])

    # --- operations -----------------------------------------------------------------------------------

    def _operations_here(self, product: Product) -> Iterator[Operation]:
        """What the class itself defines: abstract on a base, the whole of it on a concrete product."""
        for operation in product.operations:
            if (
                product.abstract
                or product.base is None
                or operation.owner == product.name
                or not product.abstract
            ):
                yield operation

    def operation(self, product: Product, operation: Operation) -> dict[str, object]:
        return {
            "name": self.names.field(operation.name),
            "abstract": product.abstract,
            "doc": operation.doc
            if product.abstract or product.base is None or operation.owner == product.name
            else "",
            "parameters": [
                f"{self.names.parameter(p.name)}: {self.code.type(p.type)}" for p in operation.takes
            ],
            "returns": self.code.type(operation.returns),
            "body": self._body(product, operation),
            "function": operation_function(self.plan, product, operation),
        }

    def _body(self, product: Product, operation: Operation) -> str:
        """What an operation does: its declared answer, or a call of the user's function."""
        gives = operation.returns != NOTHING
        if operation.answer is not None:
            return f"return {self.code.answer(operation.answer)}" if gives else "pass"
        function = operation_function(self.plan, product, operation)
        arguments = ", ".join(["self", *(self.names.parameter(p.name) for p in operation.takes)])
        called = f"{self.operations_module(product)}.{function}({arguments})"
        return f"return {called}" if gives else called

    def operations_module(self, product: Product) -> str:
        return f"{snake(product.base or product.name)}_operations"


def operation_function(plan: Plan, product: Product, operation: Operation) -> str:
    """The user's own function: `buoy_range_from`."""
    return f"{snake(plan.written_on(product, operation).name)}_{operation.name}"
