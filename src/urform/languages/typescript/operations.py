"""The users' own files: operations without an answer, each a function of the product."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.declaration.types import TOLD, parts
from urform.languages.naming.modules import Module
from urform.languages.naming.names import camel, snake
from urform.languages.target import File, Stub
from urform.languages.typescript.context import Context
from urform.languages.typescript.layout import lay_out
from urform.languages.typescript.products import operation_function, operation_view, types_in
from urform.languages.typescript.views import in_order
from urform.plan.model import Operation, Product


def operations_files(context: Context, module: Module) -> Iterator[File]:
    """A file for each product that stands for itself or its variants, and has operations to be written."""
    by_file: dict[str, list[tuple[Product, Operation]]] = {}
    for base in (product for product in module.products if product.base is None):
        open_ = list(context.plan.to_write(base))
        if open_:
            by_file[base.name] = open_
    for name, open_ in by_file.items():
        stubs = tuple(_stub(context, product, operation) for product, operation in open_)
        imports = list(_imports(context, open_))
        head = "// Yours: Urform wrote this file once and never touches it again.\n\n"
        text = head + "\n".join([*imports, ""]) + "\n" + "\n".join(stub.text for stub in stubs)
        path = f"src/{snake(name).replace('_', '-')}-operations.ts"
        yield File(path, text, users=True, stubs=stubs)


def _stub(context: Context, product: Product, operation: Operation) -> Stub:
    view = operation_view(context, product, operation)
    function = operation_function(context.plan, product, operation)
    own = context.names.parameter(camel(product.name))
    taken = {context.names.parameter(parameter.name) for parameter in operation.takes}
    label = f"{product.name}.{operation.name}"
    parameters = view["listed"]
    assert isinstance(parameters, list)
    first = f"{own if own not in taken else f'the_{own}'}: {context.names.value(product.name)}"
    head = f"export function {function}({', '.join([first, *parameters])}): {view['returns']}"
    text = context.templates.render("operation", o={"doc": operation.doc, "head": head, "label": label})
    return Stub(label, text, rf"^export (async )?(function|const) {re.escape(function)}\b", head)


def _imports(context: Context, open_: list[tuple[Product, Operation]]) -> Iterator[str]:
    used: dict[str, set[str]] = {}
    for product, operation in open_:
        names = {product.name}
        for type_ in (operation.returns, *(parameter.type for parameter in operation.takes)):
            names |= set(types_in(type_))
            for told in TOLD:
                if told in parts(type_):
                    used.setdefault(f"{told}s", set()).add(context.code.type(told))
        for name in names:
            used.setdefault(context.home[name], set()).add(context.names.value(name))
    for home in sorted(used):
        yield lay_out(f'import type {{ {", ".join(in_order(used[home]))} }} from "./{home}.js";')
