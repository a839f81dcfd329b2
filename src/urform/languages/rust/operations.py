"""Operations in Rust: constant answers, and functions in a file of the user's own."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import NOTHING, TEXT, ListOf, MaybeOf, ProductType, Type
from urform.declaration.values import Absent
from urform.languages.naming.names import beside, snake
from urform.languages.rendering.comments import plain
from urform.languages.rendering.prose import of_operation
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import is_copied
from urform.languages.rust.views import comment, laid_out
from urform.languages.target import File, Stub
from urform.plan.model import Operation, Product


def operation_views(
    context: Context, product: Product, operations: tuple[Operation, ...]
) -> Iterator[dict[str, object]]:
    """How a product's operations are declared, called and answered."""
    for operation in operations:
        names = [context.names.local(p.name) for p in operation.takes]
        types = [taken_type(context, p.type) for p in operation.takes]
        answered = operation.answer is not None
        gives = operation.returns != NOTHING
        called = _call(context, product, operation, names)
        shown = [f"{'_' if answered else ''}{n}: {t}" for n, t in zip(names, types, strict=True)]
        yield {
            "name": context.method(product, operation.name),
            "member": operation.name,
            "types": f"({', '.join(types)})",
            "doc": plain(operation.doc) or of_operation(operation),
            "parameters": "".join(f", {each}" for each in shown),
            "declared": "".join(f", {n}: {t}" for n, t in zip(names, types, strict=True)),
            "passed": ", ".join(names),
            "returns": f" -> {context.code.type(operation.returns)}" if gives else "",
            "gives": gives,
            "answer": _answer(context, operation) if answered else called if gives else f"{called};",
            "lines": list(_dispatched(context, product, operation)) if product.abstract else [],
        }


def _answer(context: Context, operation: Operation) -> str:
    """The declared answer; none of an operation that gives nothing."""
    assert operation.answer is not None
    if operation.returns == NOTHING:
        return ""
    if isinstance(operation.answer, Absent):
        return "None"
    if isinstance(operation.returns, MaybeOf):
        return f"Some({context.code.value(operation.answer, operation.returns.element)})"
    return context.code.value(operation.answer, operation.returns)


def _dispatched(context: Context, product: Product, operation: Operation) -> Iterator[str]:
    """The body of an enum's method: each kind answers, save where the user writes it once for all."""
    names = ", ".join(context.names.local(p.name) for p in operation.takes)
    method = context.method(product, operation.name)
    called = _call(context, product, operation, [names] if names else [])
    once, arms = [], []
    for kind in (context.plan.products[name] for name in product.variants):
        pattern = f"Self::{context.names.type(kind.name)}"
        if operation.once and kind.operation(operation.name).answer is None:
            once.append(f"{pattern}(_)")
        else:
            arms.append(f"    {pattern}(kind) => kind.{method}({names}),")
    if not arms:
        yield called if operation.returns != NOTHING else f"{called};"
        return
    yield "match self {"
    yield from arms
    if once:
        yield f"    {' | '.join(once)} => {called},"
    yield "}"


def taken_type(context: Context, type_: Type) -> str:
    """The type by which an operation takes a value: borrowed."""
    return context.code.borrowed(type_)


def is_borrowed(type_: Type) -> bool:
    """Whether an operation takes a reference."""
    return not is_copied(type_)


def _module(context: Context, product: Product) -> str:
    return f"{snake(product.base or product.name)}_operations"


def _function(context: Context, product: Product, operation: Operation) -> str:
    return f"{snake(context.plan.written_on(product, operation).name)}_{operation.name}"


def _call(context: Context, product: Product, operation: Operation, names: list[str]) -> str:
    arguments = ", ".join(["self", *names])
    return f"crate::{_module(context, product)}::{_function(context, product, operation)}({arguments})"


def operations_file(context: Context, base: Product) -> Iterator[File]:
    """The user's own file: operations without an answer."""
    stubs = [_stub(context, product, operation) for product, operation in context.plan.to_write(base)]
    if stubs:
        head = (
            f"//! Operations of [`crate::{context.names.type(base.name)}`], yours to write; "
            f"Urform made this file once,\n//! from {plain(context.plan.source)}.\n"
        )
        text = laid_out(head + "".join(f"\n{stub.text}" for stub in stubs))
        yield File(f"src/{_module(context, base)}.rs", text, users=True, stubs=tuple(stubs))


def _stub(context: Context, product: Product, operation: Operation) -> Stub:
    type_ = context.names.type(product.name)
    name = _function(context, product, operation)
    named = [context.names.local(p.name) for p in operation.takes]
    own = beside(context.names.local(snake(product.name)), set(named))
    takes = [f"_{own}: &{type_}"]
    takes += [f"_{n}: {_full(context, p.type)}" for n, p in zip(named, operation.takes, strict=True)]
    doc = comment(operation.doc or f"{operation.name} of {product.name} is yours to write.", 0)
    said = f'todo!("{product.name}.{operation.name} is yours to write")'
    is_open = product.abstract and context.code.is_open(product)
    takes[0] = takes[0].replace(f"&{type_}", f"&{'dyn ' if is_open else ''}crate::{type_}")
    returns = f" -> {_owned_full(context, operation.returns)}" if operation.returns != NOTHING else ""
    head = f"pub(crate) fn {name}({', '.join(takes)}){returns}"
    text = laid_out(f"{doc}\n{head} {{\n    {said}\n}}\n")
    return Stub(f"{product.name}.{operation.name}", text, rf"^pub(?:\(crate\))? fn {name}\b", head)


def _full(context: Context, type_: Type) -> str:
    """A type in a file without imports."""
    return context.full(context.code.borrowed(type_))


def _owned_full(context: Context, type_: Type) -> str:
    return context.full(context.code.type(type_))


__all__ = ["TEXT", "ListOf", "ProductType", "operation_views", "operations_file", "taken_type"]
