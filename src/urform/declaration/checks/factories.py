"""Factories: forms that fit the variants, and the conditions of `by_values`."""

from __future__ import annotations

from urform.declaration import conditions
from urform.declaration.catalogue import factories as catalogue
from urform.declaration.catalogue.values import NOT_A_VARIANT
from urform.declaration.model import Declaration, Factory, Product, Use, WrittenCondition
from urform.declaration.problems import Problems, did_you_mean
from urform.declaration.reader import UNREAD
from urform.declaration.selection import may_be_absent, parameters
from urform.prose import listing


def check(declaration: Declaration, problems: Problems) -> None:
    """Note what is wrong with the factories."""
    for product in declaration.products.values():
        if product.factory is None or product.factory.form == UNREAD:
            continue
        if not product.abstract:
            problems.add(catalogue.FACTORY_WITHOUT_VARIANTS, product.factory.place, product=product.name)
        elif product.factory.form == "by_values":
            _by_values(declaration, product, product.factory, problems)
        else:
            _by_key(declaration, product, product.factory, problems)


def _use(product: Product, use: Use, problems: Problems) -> None:
    if use.name not in product.variants:
        hint = did_you_mean(use.name, product.variants)
        names = tuple(product.variants)
        problems.add(NOT_A_VARIANT, use.place, name=use.name, product=product.name, names=names, hint=hint)


def _by_key(declaration: Declaration, product: Product, factory: Factory, problems: Problems) -> None:
    for key, place in (("refuse", factory.refuse_place), ("choose", factory.choose_place)):
        if place is not None:
            problems.add(catalogue.MISPLACED_FACTORY_KEY, place, key=key, form=factory.form)
    if isinstance(factory.unknown, Use):
        _use(product, factory.unknown, problems)
    for variant in product.variants.values() if declaration.records is None else ():
        needed = [field.name for field in variant.fields.values() if field.required]
        if needed:
            problems.add(
                catalogue.FACTORY_NEEDS_MORE,
                variant.fields[needed[0]].place,
                variant=variant.name,
                fields=listing(needed),
                product=product.name,
                form=factory.form,
            )


def _by_values(declaration: Declaration, product: Product, factory: Factory, problems: Problems) -> None:
    if factory.unknown_place is not None:
        problems.add(catalogue.MISPLACED_FACTORY_KEY, factory.unknown_place, key="unknown", form=factory.form)
    for entry in factory.choose:
        _use(product, entry.use, problems)
    _order_of_choices(factory, problems)
    used = {entry.use.name for entry in factory.choose}
    for variant in product.variants.values() if factory.choose else ():
        if variant.name not in used:
            problems.add(catalogue.NEVER_CHOSEN, variant.place, name=variant.name)
    _same_types(declaration, product, factory, problems)
    subjects = {
        field.name: conditions.Subject(
            field.type, may_be_absent(field.required, field.default is not None, field.type)
        )
        for field in parameters(declaration, product)
    }
    words = {
        choice.name: tuple(word.name for word in choice.words) for choice in declaration.choices.values()
    }
    checker = conditions.ConditionChecker(subjects, words, problems)
    written: list[WrittenCondition] = [refusal.when for refusal in factory.refuse]
    written += [entry.when for entry in factory.choose if entry.when is not None]
    for condition in written:
        parsed = conditions.parse(condition, problems)
        if parsed is not None:
            checker.check(parsed)


def _order_of_choices(factory: Factory, problems: Problems) -> None:
    if not factory.choose:
        problems.add(catalogue.NOTHING_TO_CHOOSE, factory.choose_place or factory.place)
        return
    for entry in factory.choose[:-1]:
        if entry.when is None:
            problems.add(catalogue.CHOICE_WITHOUT_CONDITION, entry.use.place, name=entry.use.name)
    last = factory.choose[-1]
    if last.when is not None:
        problems.add(catalogue.LAST_CHOICE_HAS_CONDITION, last.when.place, name=last.use.name)


def _same_types(declaration: Declaration, product: Product, factory: Factory, problems: Problems) -> None:
    seen: dict[str, str] = {}
    for entry in factory.choose:
        variant = product.variants.get(entry.use.name)
        for field in declaration.all_fields(variant) if variant else ():
            first = seen.setdefault(field.name, str(field.type))
            if first != str(field.type):
                problems.add(
                    catalogue.PARAMETER_TYPES,
                    field.type_place,
                    field=field.name,
                    first=first,
                    second=field.type,
                )
