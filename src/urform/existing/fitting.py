"""Makes a draft valid: what a declaration refuses is changed as little as that takes, and told as a loss."""

from __future__ import annotations

import re
from collections.abc import Callable

from urform.declaration import Reading, read_string
from urform.declaration.problems import Problem
from urform.existing.draft import Draft, DraftField, DraftProduct
from urform.existing.losses import Loss
from urform.existing.writing import Written, written

_NAMES = re.compile(r"[A-Z]\w*")  # of products and choices, in a type
MOST_ROUNDS = 40  # of mending what was read; each mends all that one reading tells


class NotFitting(Exception):
    """A draft that no change made valid: a defect of ours. It has the text, and the first problem."""


def fit(draft: Draft, compose: Callable[[Draft], Written] = written) -> Written:
    """Change the draft until it is valid as `compose` writes it; its text. Raises NotFitting."""
    _end(draft)
    _own(draft)
    for _ in range(MOST_ROUNDS):
        text = compose(draft)
        reading = read_string(text.text, "draft.urform.yaml")
        if not reading.problems:
            return text
        if not _mend(reading, text):
            break
    problem = reading.problems[0]
    raise NotFitting(f"{problem.place.line}: {problem.slug}: {problem.message}\n{text.text}")


def _end(draft: Draft) -> None:
    """A required field that leads back to its own product can never be given: it becomes optional."""
    products = {each.name: each for each in draft.every()}
    base_of = {variant.name: product for product in draft.products for variant in product.variants}
    ends: set[str] = set()

    def is_ended(field: DraftField) -> bool:
        return not field.required or field.type not in products or field.type in ends

    def fields(product: DraftProduct) -> list[DraftField]:
        base = base_of.get(product.name)
        return [*(base.carried if base is not None else ()), *product.carried]

    def grow() -> None:
        while True:
            more = [
                each.name
                for each in products.values()
                if each.name not in ends
                and (
                    any(variant.name in ends for variant in each.variants)
                    if each.variants
                    else all(map(is_ended, fields(each)))
                )
            ]
            if not more:
                return
            ends.update(more)

    grow()
    for product in products.values():
        for field in product.carried if product.name not in ends else ():
            if not is_ended(field):
                field.required = False
                field.losses.append(
                    Loss("endless", "that it has to be given, for it leads back to its own product")
                )
                grow()


def _own(draft: Draft) -> None:
    """What owns something mutable is mutable itself."""
    base_of = {variant.name: product for product in draft.products for variant in product.variants}
    mutable = {each.name for each in draft.every() if base_of.get(each.name, each).mutable}
    grows = bool(mutable)
    while grows:
        grows = False
        for product in draft.every():
            owner = base_of.get(product.name, product)
            if not owner.mutable and any(
                mutable & set(_NAMES.findall(field.type)) for field in product.carried
            ):
                owner.mutable = grows = True
                owner.losses.append(Loss("owns-mutable", "that it is immutable, for what it owns is not"))
                mutable |= {owner.name, *(each.name for each in owner.variants)}


def _mend(reading: Reading, text: Written) -> bool:
    """Take back what each problem is about; whether anything was."""
    about: dict[int, tuple[DraftField | DraftProduct, Problem]] = {}
    for problem in reading.problems:
        thing = text.about.get(problem.place.line)
        if thing is not None:
            about.setdefault(id(thing), (thing, problem))
    for thing, problem in about.values():
        if isinstance(thing, DraftField):
            _take_back(thing, problem)
    return any(isinstance(thing, DraftField) for thing, _ in about.values())


def _take_back(field: DraftField, problem: Problem) -> None:
    """The default, then the limits, then the field itself."""
    tries: tuple[Callable[[str], bool], ...] = (lambda key: key == "default", lambda key: key != "as")
    for concerns in tries:
        if keys := [key for key in field.options if concerns(key)]:
            for key in keys:
                field.losses.append(Loss("refused", f"{key} {field.options.pop(key)}: {problem.message}"))
            return
    field.leave_out(Loss("refused", problem.message))
