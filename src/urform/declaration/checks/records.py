"""Names in records: each a short text, and none twice where it is read."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from urform.declaration.catalogue import records as catalogue
from urform.declaration.checks.texts import LONGEST, is_short_text
from urform.declaration.model import Choice, Declaration, Field, Product, Use
from urform.declaration.problems import Problems

KIND = "kind"  # the name under which a record tells its kind, unless it is said otherwise
Called = tuple[str, Use]  # what it is in words, and its name in records


def check(declaration: Declaration, problems: Problems) -> None:
    """Note names that cannot be read, and those that mean two things."""
    for called in _written(declaration):
        if not is_short_text(called.name):
            problems.add(catalogue.BAD_RECORD_NAME, called.place, most=LONGEST)
    if declaration.records is None:
        return
    for choice in declaration.choices.values():
        _twice(choice.name, _words(choice), problems)
    for product in declaration.products.values():
        _twice(product.name, _names(declaration, product), problems)
        _twice(product.name, _kinds(product), problems)
        if product.factory is not None and product.factory.form == "by_values":
            _parameters(product, problems)


def _written(declaration: Declaration) -> Iterator[Use]:
    """Every name that is written for records alone."""
    if declaration.records is not None and declaration.records.kind is not None:
        yield declaration.records.kind
    for choice in declaration.choices.values():
        yield from choice.called.values()
    for product in declaration.products.values():
        owned: list[Product | Field] = [product, *product.fields.values()]
        yield from (each.called for each in owned if each.called is not None)


def _words(choice: Choice) -> Iterator[Called]:
    for word in choice.words:
        yield f"the word {word.name}", choice.called.get(word.name, word)


def _names(declaration: Declaration, product: Product) -> Iterator[Called]:
    """The fields of a product, after its kind if it is a variant."""
    if product.base is not None:
        assert declaration.records is not None
        yield "the kind", declaration.records.kind or Use(KIND, declaration.records.place)
    for field in declaration.all_fields(product):
        yield f"the field {field.name}", field.called or Use(field.name, field.place)


def _kinds(product: Product) -> Iterator[Called]:
    for variant in product.variants.values():
        for key in (variant.called,) if variant.called is not None else variant.keys:
            yield variant.name, key


def _twice(where: str, called: Iterable[Called], problems: Problems) -> None:
    first: dict[str, str] = {}
    for what, use in called:
        if use.name in first and first[use.name] != what:
            one = first[use.name]
            problems.add(
                catalogue.RECORD_NAME_TWICE, use.place, where=where, name=use.name, one=one, other=what
            )
        first.setdefault(use.name, what)


def _parameters(product: Product, problems: Problems) -> None:
    first: dict[str, tuple[str, str]] = {}
    for variant in product.variants.values():
        for field in variant.fields.values():
            use = field.called or Use(field.name, field.place)
            name, owner = first.setdefault(field.name, (use.name, variant.name))
            if name != use.name:
                problems.add(
                    catalogue.RECORD_NAMES_DIFFER,
                    use.place,
                    field=field.name,
                    one=name,
                    first=owner,
                    other=use.name,
                    second=variant.name,
                )
