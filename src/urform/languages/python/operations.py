"""The users' own files: operations without an answer, each a function of the product."""

from __future__ import annotations

import re
from collections.abc import Iterator

from urform.declaration.types import ChoiceType, ProductType, parts
from urform.languages.naming.modules import Module
from urform.languages.naming.names import snake
from urform.languages.python.context import Context
from urform.languages.python.products import ProductWriter
from urform.languages.python.views import identifiers, import_line
from urform.languages.target import File, Stub
from urform.plan.model import Operation, Product


def operations_files(context: Context, module: Module) -> Iterator[File]:
    """The users' own files: operations without an answer."""
    by_file: dict[str, list[tuple[Product, Operation]]] = {}
    for base in (product for product in module.products if product.base is None):
        open_ = list(context.plan.to_write(base))
        if open_:
            by_file[ProductWriter(context).operations_module(base)] = open_
    for name, open_ in by_file.items():
        views = []
        for product, operation in open_:
            self_name = context.names.parameter(snake(product.name))
            taken = {context.names.parameter(p.name) for p in operation.takes}
            views.append(
                {
                    **ProductWriter(context).operation(product, operation),
                    "doc": operation.doc,
                    "self_name": self_name if self_name not in taken else "self",
                    "type": context.names.type(product.name),
                    "label": f"{product.name}.{operation.name}",
                }
            )
        used = {context.names.type(product.name): context.home[product.name] for product, _ in open_}
        for _, operation in open_:
            for type_ in (operation.returns, *(p.type for p in operation.takes)):
                for part in parts(type_):
                    if isinstance(part, (ChoiceType, ProductType)):
                        used[context.names.value(part.name)] = context.home[part.name]
        imports = [
            import_line(f".{home}", [t for t in used if used[t] == home])
            for home in sorted(set(used.values()))
        ]
        stubs = tuple(_stub(context, view) for view in views)
        head = context.templates.render("operations", imports=_collections(context, open_) + imports)
        text = "\n\n\n".join([head.rstrip("\n"), *(stub.text.rstrip("\n") for stub in stubs)]) + "\n"
        yield File(f"{context.folder}/{name}.py", re.sub(r"[ \t]+\n", "\n", text), users=True, stubs=stubs)


def _stub(context: Context, view: dict[str, object]) -> Stub:
    parameters = view["parameters"]
    assert isinstance(parameters, list)
    takes = ", ".join([f"{view['self_name']}: {view['type']}", *parameters])
    head = f"def {view['function']}({takes}) -> {view['returns']}"
    text = context.templates.render("operation", o={**view, "head": head})
    return Stub(str(view["label"]), text, rf"^(async )?def {view['function']}\(", head)


def _collections(context: Context, open_: list[tuple[Product, Operation]]) -> list[str]:
    code = " ".join(context.code.type(t) for _, o in open_ for t in (o.returns, *(p.type for p in o.takes)))
    used = [name for name in ("Mapping", "Sequence") if name in identifiers(code)]
    lines = [import_line("collections.abc", used)] if used else []
    if "AbstractSet" in identifiers(code):
        lines.append("from collections.abc import Set as AbstractSet")
    if "datetime" in identifiers(code):
        lines.insert(0, "import datetime")
    if "Decimal" in identifiers(code):
        lines.append("from decimal import Decimal")
    if "UUID" in identifiers(code):
        lines.append("from uuid import UUID")
    return [*lines, ""] if lines else []
