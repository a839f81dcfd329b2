"""Methods that read one element of a collection, or count them, where the accessor would copy all of it."""

from __future__ import annotations

from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.declaration.types import Collection, MapOf, SetOf
from urform.languages.go.context import Context
from urform.languages.naming.names import pascal, spoken, unique
from urform.plan.model import Field, Product


@dataclass(frozen=True, slots=True)
class Access:
    """A method: `LegsAt(index int) *Leg`, what it is for, and its body."""

    signature: str
    doc: str
    lines: tuple[str, ...]


def accesses(context: Context, product: Product, field: Field, stored: str) -> Iterator[Access]:
    """Those of a field; none when it is no collection, and none that would meet a declared name."""
    if not isinstance(field.type, Collection):
        return
    code, names = context.code, context.names
    name = names.exported(field.name, context.taken(product))
    taken = _declared(context, product)
    said = spoken(field.name)
    length = unique(f"{name}Len", taken, "_")
    yield Access(
        f"{length}() int", f"{length} returns how many {said} there are.", (f"return len({stored})",)
    )
    element = code.type(field.type.element)
    match field.type:
        case MapOf(key, inner):
            at = unique(f"{name}At", taken, "_")
            out = code.handed_out(inner, "value")
            yield Access(
                f"{at}(key {code.type(key)}) (value {element}, ok bool)",
                f"{at} returns what stands in the {said} under a key, and whether there is such a key.",
                (f"value, ok = {stored}[key]", f"return {out}, ok"),
            )
        case SetOf():
            has = unique(f"{name}Has", taken, "_")
            yield Access(
                f"{has}(value {element}) bool",
                f"{has} reports whether a value is among the {said}.",
                (f"_, ok := slices.BinarySearch({stored}, value)", "return ok"),
            )
        case _:
            at = unique(f"{name}At", taken, "_")
            yield Access(
                f"{at}(index int) {element}",
                f"{at} returns one of the {said}, counted from 0; it panics beyond the last.",
                (f"return {code.handed_out(field.type.element, f'{stored}[index]')}",),
            )


def _declared(context: Context, product: Product) -> frozenset[str]:
    """The methods of a product, of its kinds and of its base."""
    plan = context.plan
    base = plan.products[product.base] if product.base is not None else product
    kin = [base, *(plan.products[name] for name in base.variants)]
    names = {pascal(f.name) for each in kin for f in each.fields}
    return frozenset(names | {pascal(o.name) for each in kin for o in each.operations}).union(
        *(context.taken(each) for each in kin)
    )
