"""Makes a draft valid: what a declaration refuses is changed as little as that takes, and told as a loss."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

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
    raise NotFitting(f"{problem.place.line}: {problem.slug}: {problem.message}")


def _end(draft: Draft) -> None:
    """A required field that leads back to its own product can never be given: it becomes optional."""
    products = _Products(draft)
    for product in draft.every():
        for field in product.carried:
            if products.never_end(field) and products.leads(field.type, product.name):
                field.required = False
                field.losses.append(
                    Loss("endless", "that it has to be given, for it leads back to its own product")
                )
                products.grow()


class _Products:
    """Which products can be made: those whose required fields end, or of whose variants one does."""

    def __init__(self, draft: Draft) -> None:
        self._products = {each.name: each for each in draft.every()}
        self._base_of = {variant.name: base for base in draft.products for variant in base.variants}
        self._ends: set[str] = set()
        self.grow()

    def grow(self) -> None:
        """Find those that end by now."""
        while more := {name for name in self._products if name not in self._ends and self._does_end(name)}:
            self._ends |= more

    def _does_end(self, name: str) -> bool:
        variants = self._products[name].variants
        if variants:
            return any(each.name in self._ends for each in variants)
        return not any(self._open(name))

    def never_end(self, field: DraftField) -> bool:
        """Whether a field has to be given that cannot be made."""
        return field.required and field.type in self._products and field.type not in self._ends

    def _open(self, name: str) -> Iterator[str]:
        """What has to be made before a product that cannot be made yet."""
        product, base = self._products[name], self._base_of.get(name)
        for field in (*(base.carried if base is not None else ()), *product.carried):
            if self.never_end(field):
                yield field.type
        yield from (each.name for each in product.variants if each.name not in self._ends)

    def leads(self, start: str, goal: str) -> bool:
        """Whether what has to be made before one thing leads to another."""
        waiting, seen = [start], {start}
        while waiting:
            name = waiting.pop()
            if name == goal:
                return True
            more = set(self._open(name)) - seen
            seen |= more
            waiting.extend(more)
        return False


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
