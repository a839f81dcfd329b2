"""Operations in Rust: constant answers, and functions in a file of the user's own."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from urform.declaration.types import TEXT, ListOf, ProductType, Type
from urform.languages.naming.names import beside, snake
from urform.languages.rendering.comments import plain
from urform.languages.rust.expressions import is_copied
from urform.languages.target import File, Stub
from urform.plan.model import Operation, Product

if TYPE_CHECKING:
    from urform.languages.rust.emitter import Emitter


def operation_views(
    emitter: Emitter, product: Product, operations: tuple[Operation, ...]
) -> Iterator[dict[str, object]]:
    """How a product's operations are declared, called and answered."""
    for operation in operations:
        names = [emitter.names.local(p.name) for p in operation.takes]
        types = [taken_type(emitter, p.type) for p in operation.takes]
        answered = operation.answer is not None
        answer = ""
        if operation.answer is not None:
            answer = emitter.code.value(operation.answer, operation.returns)
        shown = [f"{'_' if answered else ''}{n}: {t}" for n, t in zip(names, types, strict=True)]
        yield {
            "name": emitter.method(product, operation.name),
            "doc": plain(operation.doc) or ("Gives the declared answer." if answered else "Yours to answer."),
            "parameters": "".join(f", {each}" for each in shown),
            "declared": "".join(f", {n}: {t}" for n, t in zip(names, types, strict=True)),
            "passed": ", ".join(names),
            "returns": emitter.code.type(operation.returns),
            "answer": answer if answered else _call(emitter, product, operation, names),
        }


def taken_type(emitter: Emitter, type_: Type) -> str:
    """The type by which an operation takes a value: borrowed."""
    return emitter.code.borrowed(type_)


def is_borrowed(type_: Type) -> bool:
    """Whether an operation takes a reference."""
    return not is_copied(type_)


def _module(emitter: Emitter, product: Product) -> str:
    return f"{snake(product.base or product.name)}_operations"


def _function(product: Product, operation: Operation) -> str:
    return f"{snake(product.name)}_{operation.name}"


def _call(emitter: Emitter, product: Product, operation: Operation, names: list[str]) -> str:
    arguments = ", ".join(["self", *names])
    return f"crate::{_module(emitter, product)}::{_function(product, operation)}({arguments})"


def operations_file(emitter: Emitter, base: Product, variants: tuple[Product, ...]) -> Iterator[File]:
    """The user's own file: operations without an answer."""
    stubs = [
        _stub(emitter, product, operation)
        for product in variants or (base,)
        for operation in product.operations
        if operation.answer is None
    ]
    if stubs:
        head = (
            f"//! Operations of [`crate::{emitter.names.type(base.name)}`], yours to write; "
            f"Urform made this file once,\n//! from {plain(emitter.plan.source)}.\n"
        )
        text = emitter.laid_out(head + "".join(f"\n{stub.text}" for stub in stubs))
        yield File(f"src/{_module(emitter, base)}.rs", text, users=True, stubs=tuple(stubs))


def _stub(emitter: Emitter, product: Product, operation: Operation) -> Stub:
    type_ = emitter.names.type(product.name)
    name = _function(product, operation)
    named = [emitter.names.local(p.name) for p in operation.takes]
    own = beside(emitter.names.local(snake(product.name)), set(named))
    takes = [f"_{own}: &{type_}"]
    takes += [f"_{n}: {_full(emitter, p.type)}" for n, p in zip(named, operation.takes, strict=True)]
    doc = emitter.comment(operation.doc or f"{operation.name} of {product.name} is yours to write.", 0)
    said = f'todo!("{product.name}.{operation.name} is yours to write")'
    takes[0] = takes[0].replace(f"&{type_}", f"&crate::{type_}")
    returns = _owned_full(emitter, operation.returns)
    text = f"{doc}\npub(crate) fn {name}({', '.join(takes)}) -> {returns} {{\n    {said}\n}}\n"
    return Stub(
        f"{product.name}.{operation.name}", emitter.laid_out(text), rf"^pub(?:\(crate\))? fn {name}\b"
    )


def _full(emitter: Emitter, type_: Type) -> str:
    """A type in a file without imports."""
    return emitter.full(emitter.code.borrowed(type_))


def _owned_full(emitter: Emitter, type_: Type) -> str:
    return emitter.full(emitter.code.type(type_))


__all__ = ["TEXT", "ListOf", "ProductType", "operation_views", "operations_file", "taken_type"]
