"""Operations in C++: constant answers, and members that the user defines in a source of their own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.types import NOTHING, MaybeOf, ProductType, Type, present
from urform.declaration.values import Absent, Made
from urform.languages.cpp.context import Context
from urform.languages.cpp.sources import Sources
from urform.languages.cpp.views import comment, laid_out
from urform.languages.naming.names import snake
from urform.languages.rendering.comments import plain
from urform.languages.rendering.prose import of_operation
from urform.languages.target import File, Stub
from urform.plan.model import Operation, Product

View = dict[str, object]


def operation_views(context: Context, product: Product) -> Iterator[View]:
    """How a product's operations are declared and answered."""
    base = context.plan.products[product.base] if product.base is not None else None
    inherited = {o.name for o in base.operations} if base is not None else set()
    written = {o.name for on, o in context.plan.to_write(product) if on is product}
    for operation in product.operations:
        if operation.once and operation.answer is None and base is not None:
            continue  # it is the base's
        gives = operation.returns != NOTHING
        typed = _typed(context, operation)
        yield {
            "name": context.method(product, operation.name),
            "member": operation.name,
            "doc": plain(operation.doc) or of_operation(operation),
            "gives": gives,
            "pure": product.abstract and operation.name not in written,
            "declared": ", ".join(f"{type_}{name}" for type_, name in typed),
            "unnamed": ", ".join(type_.rstrip() for type_, _ in typed),
            "returns": returned(context, operation),
            "answered": operation.answer is not None,
            "answer": _answer(context, operation),
            "inherited": operation.name in inherited,
        }


def _answer(context: Context, operation: Operation) -> str:
    """The declared answer, of the type that is returned."""
    returns = present(operation.returns)
    if operation.answer is None or returns == NOTHING:
        return ""
    if isinstance(operation.answer, Absent):
        return "nullptr" if is_behind_pointer(context, operation.returns) else "std::nullopt"
    value = context.code.value(operation.answer, returns)
    product = context.plan.products.get(str(returns))
    if product is None or not product.abstract or context.plan.selection_of(product.name) is not None:
        return value
    assert isinstance(operation.answer, Made)
    return f"std::make_unique<{context.names.type(operation.answer.product)}>({value})"


def returned(context: Context, operation: Operation) -> str:
    """The type that an operation returns: a product of which only the base is known behind a pointer."""
    type_ = operation.returns
    if type_ == NOTHING:
        return "void"
    if isinstance(type_, MaybeOf):
        inner = returned(context, replace(operation, returns=type_.element))
        return inner if is_behind_pointer(context, type_) else f"std::optional<{inner}>"
    if isinstance(type_, ProductType):
        return context.code.owned_type(context.plan.products[type_.name])
    return context.code.type(type_)


def is_behind_pointer(context: Context, type_: Type) -> bool:
    """Whether what may be absent is a pointer, which is null then."""
    inner = present(type_)
    return isinstance(inner, ProductType) and context.plan.products[inner.name].abstract


def _typed(context: Context, operation: Operation) -> list[tuple[str, str]]:
    """The types of parameters, each so that a name can follow it, and their names."""
    typed = []
    for parameter in operation.takes:
        type_ = context.code.borrowed(parameter.type)
        typed.append((type_ if type_.endswith("&") else f"{type_} ", context.names.local(parameter.name)))
    return typed


def operations_file(sources: Sources, base: Product) -> Iterator[File]:
    """The user's own source: operations without an answer."""
    stubs = [_stub(sources, product, operation) for product, operation in sources.context.plan.to_write(base)]
    if stubs:
        context = sources.context
        head = (
            f"// Operations of {context.names.type(base.name)}, yours to write; Urform made this file once,\n"
            f"// from {plain(context.plan.source)}.\n\n"
            f'#include "{context.folder}/{sources.module_of(base)}.hpp"\n\n#include <stdexcept>\n'
        )
        text = laid_out(head + "".join(f"\n{stub.text}" for stub in stubs))
        yield File(f"src/{snake(base.name)}_operations.cpp", text, users=True, stubs=tuple(stubs))


def _stub(sources: Sources, product: Product, operation: Operation) -> Stub:
    context = sources.context
    type_ = context.names.type(product.name)
    method = context.method(product, operation.name)
    takes = ", ".join(f"{type_.rstrip()} /* {name} */" for type_, name in _typed(context, operation))
    doc = comment(operation.doc or f"{operation.name} of {product.name} is yours to write.", 0, "//")
    returns = sources.full(returned(context, operation))
    head = f"{returns} {context.namespace}::{type_}::{method}({takes}) const"
    said = f'throw std::logic_error("{product.name}.{operation.name} is yours to write");'
    text = laid_out(f"{doc}\n{head} {{\n    {said}\n}}\n")
    return Stub(f"{product.name}.{operation.name}", text, rf"\b{type_}::{method}\(", head)
