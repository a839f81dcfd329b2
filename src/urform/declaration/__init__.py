"""The first stage: from a file to a typed, frozen declaration that knows its places, or to problems."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

from urform.dataclasses import dataclass
from urform.declaration.catalogue.files import TOO_MANY_PROBLEMS
from urform.declaration.document import Document, MappingNode, read_file, read_text
from urform.declaration.model import Declaration
from urform.declaration.problems import MOST_PROBLEMS, Problem, Problems, TooManyProblems


@dataclass(frozen=True, slots=True)
class Reading:
    """The result of reading one file: the declaration, unless there are problems; and advice."""

    file: str
    document: Document
    declaration: Declaration | None
    problems: tuple[Problem, ...]
    advice: tuple[Problem, ...]


def read(path: Path) -> Reading:
    """Read and check a declaration file. Never raises for what is in the file."""
    problems = Problems()
    return _read(read_file(path, problems), str(path), problems)


def read_string(text: str, name: str = "declaration.urform.yaml") -> Reading:
    """Read and check a declaration's text."""
    problems = Problems()
    return _read(read_text(text, name, problems), name, problems)


def _read(document: Document, file: str, problems: Problems) -> Reading:
    declaration = None
    if document.root is not None:
        with suppress(TooManyProblems):
            declaration = _checked(document, document.root, problems)
    errors = [p for p in problems.sorted() if not p.advice]
    if problems.too_many:
        last = max(problem.place for problem in problems.sorted())
        errors.append(TOO_MANY_PROBLEMS.at(last, most=MOST_PROBLEMS))
    advice = [p for p in problems.sorted() if p.advice and not _kept(document, p)]
    return Reading(file, document, None if errors else declaration, tuple(errors), tuple(advice))


def _checked(document: Document, root: MappingNode, problems: Problems) -> Declaration:
    from urform.declaration.checks import check
    from urform.declaration.grammar import DECLARATION
    from urform.declaration.reader import ModelReader
    from urform.declaration.shape import checked

    declaration = ModelReader(document, checked(root, DECLARATION, problems), problems).declaration()
    check(declaration, problems)
    return declaration


def _kept(document: Document, advice: Problem) -> bool:
    """`# urform: keep SLUG` on the line quiets one piece of advice."""
    line = document.lines[advice.place.line - 1]
    _, mark, slugs = line.partition("# urform: keep ")
    return bool(mark) and advice.slug in slugs.replace(",", " ").split()
