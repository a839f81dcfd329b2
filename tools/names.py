"""A sweep of names: the identifiers of all targets' templates, and the words of all languages, in every position.

    .venv/bin/python tools/names.py TARGET [PART…]

PART is `members` (fields, elements, operations, parameters, roles, parts of keys, presets, exemplars, keys), `types`
(products, kinds, choices, families) or `packages` (the name of the declaration); by default all of them. Compiles,
checks and tests some thousand products a target, which takes minutes; prints what complains, and exits with 1 if
anything does.
"""

from __future__ import annotations

import builtins
import importlib
import sys
import tempfile
from collections.abc import Callable, Iterator, Sequence
from itertools import islice
from pathlib import Path

import yaml

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.batches import complaints, plan_of
from tests.data import Data
from tests.identifiers import TURNS, declared, declared_types, identifiers, one_of_each, types
from tests.targets import Project, Strictly

from urform.declaration.shape import LOWER_SNAKE
from urform.languages import known_targets, target
from urform.languages.naming.names import pascal
from urform.plan import claims_of
from urform.verification.results import HELD, PASSED
from urform.verification.verify import verify

CHUNK = 320  # names in one declaration
PACKAGES = 60  # declarations that a compiler is paid once for


def reserved() -> set[str]:
    """The words that each language has for itself, and the names that every Python program has."""
    found = set(dir(builtins))
    for name in known_targets():
        found |= importlib.import_module(f"urform.languages.{name}.names").KEYWORDS
    return found


def members() -> list[str]:
    """Every word that a field can be called."""
    words = reserved().union(*map(identifiers, known_targets()))
    found = sorted(word for word in words if LOWER_SNAKE.fullmatch(word))
    return list(
        {word.replace("_", ""): word for word in found}.values()
    )  # others become one name in some language


def type_names() -> list[str]:
    """Every word that a product can be called."""
    words = {pascal(word) for word in reserved() if word.isalpha()}.union(*map(types, known_targets()))
    return sorted({word.lower(): word for word in sorted(words)}.values())


def chunks(words: Sequence[str], size: int) -> Iterator[list[str]]:
    found = iter(words)
    while chunk := list(islice(found, size)):
        yield chunk


def told(declaration: Data, name: str) -> Iterator[str]:
    """What does not hold of one declaration."""
    plan = plan_of(yaml.safe_dump(declaration))
    result = verify(plan, list(one_of_each(claims_of(plan))), [target(name)], processes=Strictly())
    yield from (run.broke for run in result.runs if run.broke)
    for claim in result.claims:
        outcome = claim.outcomes[name]
        if outcome.state not in (PASSED, HELD):
            yield f"{claim.id}: {outcome.state}"


def sweep_members(name: str) -> Iterator[str]:
    for chunk in chunks(members(), CHUNK):
        yield from told(declared(chunk), name)


def sweep_types(name: str) -> Iterator[str]:
    for turn in range(TURNS):
        for chunk in chunks(type_names(), CHUNK):
            yield from told(declared_types(chunk, turn), name)


def sweep_packages(name: str) -> Iterator[str]:
    for chunk in chunks(members(), PACKAGES):
        found = [_project(word, name) for word in chunk]
        with tempfile.TemporaryDirectory() as folder:
            yield from complaints(name, found, Path(folder) / "batch")


def _project(word: str, name: str) -> Project:
    product = {
        "required": {"label": "text"},
        "optional": {"notes": "list<text>"},
        "mutable": True,
        "prototype": {},
    }
    module = {"go": {"module": f"batch/{word.replace('_', '')}"}}  # all of them stand in one
    declaration = {"urform": 1, "name": word, "targets": module, "products": {"Mark": product}}
    text = yaml.safe_dump(declaration)
    plan = plan_of(text)
    return Project(plan.name, text, target(name).emit(plan, claims_of(plan)))


PARTS: dict[str, Callable[[str], Iterator[str]]] = {
    "members": sweep_members,
    "types": sweep_types,
    "packages": sweep_packages,
}


def main() -> int:
    name, *parts = sys.argv[1:]
    complained = False
    for part in parts or PARTS:
        for complaint in PARTS[part](name):
            complained = True
            print(f"{part}: {complaint}", flush=True)
    print(
        f"{len(members())} members, {len(type_names())} types in {name}: {'see above' if complained else 'nothing'}"
    )
    return int(complained)


if __name__ == "__main__":
    sys.exit(main())
