"""Operations in Rust: constant answers, and functions in a file of the user's own."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import TEXT, ListOf, ProductType, Type
from urform.languages.naming.names import beside, snake
from urform.languages.rendering.comments import plain
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
        answer = ""
        if operation.answer is not None:
            answer = context.code.value(operation.answer, operation.returns)
        shown = [f"{'_' if answered else ''}{n}: {t}" for n, t in zip(names, types, strict=True)]
        yield {
            "name": context.method(product, operation.name),
            "doc": plain(operation.doc) or ("Gives the declared answer." if answered else "Yours to answer."),
            "parameters": "".join(f", {each}" for each in shown),
            "declared": "".join(f", {n}: {t}" for n, t in zip(names, types, strict=True)),
            "passed": ", ".join(names),
            "returns": context.code.type(operation.returns),
            "answer": answer if answered else _call(context, product, operation, names),
        }


def taken_type(context: Context, type_: Type) -> str:
    """The type by which an operation takes a value: borrowed."""
    return context.code.borrowed(type_)


def is_borrowed(type_: Type) -> bool:
    """Whether an operation takes a reference."""
    return not is_copied(type_)


def _module(context: Context, product: Product) -> str:
    return f"{snake(product.base or product.name)}_operations"


def _function(product: Product, operation: Operation) -> str:
    return f"{snake(product.name)}_{operation.name}"


def _call(context: Context, product: Product, operation: Operation, names: list[str]) -> str:
    arguments = ", ".join(["self", *names])
    return f"crate::{_module(context, product)}::{_function(product, operation)}({arguments})"


def operations_file(context: Context, base: Product, variants: tuple[Product, ...]) -> Iterator[File]:
    """The user's own file: operations without an answer."""
    stubs = [
        _stub(context, product, operation)
        for product in variants or (base,)
        for operation in product.operations
        if operation.answer is None
    ]
    if stubs:
        head = (
            f"//! Operations of [`crate::{context.names.type(base.name)}`], yours to write; "
            f"Urform made this file once,\n//! from {plain(context.plan.source)}.\n"
        )
        text = laid_out(head + "".join(f"\n{stub.text}" for stub in stubs))
        yield File(f"src/{_module(context, base)}.rs", text, users=True, stubs=tuple(stubs))


def _stub(context: Context, product: Product, operation: Operation) -> Stub:
    type_ = context.names.type(product.name)
    name = _function(product, operation)
    named = [context.names.local(p.name) for p in operation.takes]
    own = beside(context.names.local(snake(product.name)), set(named))
    takes = [f"_{own}: &{type_}"]
    takes += [f"_{n}: {_full(context, p.type)}" for n, p in zip(named, operation.takes, strict=True)]
    doc = comment(operation.doc or f"{operation.name} of {product.name} is yours to write.", 0)
    said = f'todo!("{product.name}.{operation.name} is yours to write")'
    takes[0] = takes[0].replace(f"&{type_}", f"&crate::{type_}")
    returns = _owned_full(context, operation.returns)
    text = f"{doc}\npub(crate) fn {name}({', '.join(takes)}) -> {returns} {{\n    {said}\n}}\n"
    return Stub(f"{product.name}.{operation.name}", laid_out(text), rf"^pub(?:\(crate\))? fn {name}\b")


def _full(context: Context, type_: Type) -> str:
    """A type in a file without imports."""
    return context.full(context.code.borrowed(type_))


def _owned_full(context: Context, type_: Type) -> str:
    return context.full(context.code.type(type_))


__all__ = ["TEXT", "ListOf", "ProductType", "operation_views", "operations_file", "taken_type"]
