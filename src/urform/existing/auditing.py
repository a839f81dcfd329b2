"""What is found in a code base: files read in parallel, the facts of a language taken together, the worst findings first."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from urform.dataclasses import dataclass
from urform.existing.files import source_files
from urform.existing.findings.finding import LEVELS, Finding, Kind
from urform.existing.sources import (
    cpp_code,
    go_code,
    java_code,
    python_code,
    rust_code,
    trees,
    typescript_code,
)
from urform.existing.sources.code import CodeGrammar, code_facts
from urform.existing.sources.code_facts import Code, FileFacts
from urform.existing.sources.facts import TypeFact
from urform.existing.sources.reading import LANGUAGES, LARGEST_FILE, placed

CODES: Mapping[str, CodeGrammar] = {
    "python": python_code.CODE,
    "java": java_code.CODE,
    "typescript": typescript_code.CODE,
    "go": go_code.CODE,
    "rust": rust_code.CODE,
    "cpp": cpp_code.CODE,
}
SUFFIXES = {suffix: name for name in CODES for suffix in LANGUAGES[name].suffixes}
AT_ONCE = 40  # files that one process takes
ALONE = 60  # files that are not worth more processes
KEEP = "urform: keep "
# What generators say of their files in the first lines: nobody mends those by hand.
_GENERATED = re.compile(rb"@generated|Code generated|DO NOT EDIT|Generated [Bb]y|automatically generated")
_HEAD = 1000  # bytes

Progress = Callable[[int, int], None]  # files that were read, of how many


@dataclass(frozen=True, slots=True)
class Audit:
    """Findings, the worst first; how many files and bytes were read, those that were broken or too large, and how many
    findings a person keeps, or had before."""

    findings: tuple[Finding, ...]
    files: int
    size: int
    broken: tuple[str, ...]
    kept: int
    known: int


@dataclass(frozen=True, slots=True)
class _Read:
    language: str
    facts: FileFacts
    size: int
    broken: str = ""


def sources_of(paths: Sequence[Path]) -> list[Path]:
    """The files that can be read, without tests."""
    return source_files(paths, SUFFIXES)


def audit(
    files: Sequence[Path], kinds: Sequence[Kind], known: frozenset[str], progress: Progress = lambda *_: None
) -> Audit:
    """What is found in some files. Raises GrammarMissing. `known` are fingerprints that are left out."""
    for name in {SUFFIXES[path.suffix.lower()] for path in files}:
        trees.root_of(b"", *LANGUAGES[name].grammar)  # said before any process begins
    reads = list(_read_all(files, progress))
    found = list(_found(reads, kinds))
    ranks = {kind.id: number for number, kind in enumerate(kinds)}
    found.sort(
        key=lambda each: (-LEVELS.index(each.level), ranks[each.id], each.region.file, each.region.line)
    )
    lines = _Lines()
    unkept = [each for each in found if not lines.keep(each)]
    new = [each for each in unkept if each.fingerprint not in known]
    return Audit(
        findings=tuple(new),
        files=len(files),
        size=sum(each.size for each in reads),
        broken=tuple(each.broken for each in reads if each.broken),
        kept=len(found) - len(unkept),
        known=len(unkept) - len(new),
    )


def _read_all(files: Sequence[Path], progress: Progress) -> Iterator[_Read]:
    names = [str(path) for path in files]
    if len(names) <= ALONE:
        for number, name in enumerate(names, 1):
            yield _read(name)
            progress(number, len(names))
        return
    with ProcessPoolExecutor() as pool:
        for number, each in enumerate(pool.map(_read, names, chunksize=AT_ONCE), 1):
            yield each
            progress(number, len(names))


def _read(name: str) -> _Read:
    """The facts of one file; its tree is dropped."""
    path = Path(name)
    language = SUFFIXES[path.suffix.lower()]
    try:
        source = path.read_bytes()
    except OSError as error:
        return _Read(language, FileFacts(), 0, f"{name}: {error.strerror}")
    if len(source) > LARGEST_FILE:
        return _Read(language, FileFacts(), 0, f"{name} is larger than {LARGEST_FILE >> 20} MiB")
    if _GENERATED.search(source[:_HEAD]):
        return _Read(language, FileFacts(), len(source))
    reader = LANGUAGES[language]
    root = trees.root_of(reader.prepared(source), *reader.grammar)
    types = [placed(each, name) for each in reader.facts(root, name)]
    facts = code_facts(root, name, CODES[language], types)
    broken = f"{name} is not whole {language}: what could be read was" if root.has_error else ""
    return _Read(language, facts, len(source), broken)


def _found(reads: Sequence[_Read], kinds: Sequence[Kind]) -> Iterator[Finding]:
    for language in CODES:
        files = tuple(each.facts for each in reads if each.language == language)
        if not files:
            continue
        types: dict[str, tuple[TypeFact, ...]] = {}
        for file in files:
            for fact in file.types:
                types[fact.name] = (*types.get(fact.name, ()), fact)
        code = Code(language, types, files)
        for kind in kinds:
            yield from kind.find(code)


class _Lines:
    """The lines of files, read where there is a finding: `urform: keep ID` on its line, or on the one above, keeps it."""

    def __init__(self) -> None:
        self._files: dict[str, list[str]] = {}

    def keep(self, finding: Finding) -> bool:
        """Whether a person keeps what was found."""
        line = finding.region.line
        return any(
            self._keeps(each, finding.id) for each in self.of(finding.region.file)[max(0, line - 2) : line]
        )

    def of(self, file: str) -> list[str]:
        """The lines of a file."""
        if file not in self._files:
            text = Path(file).read_text(encoding="utf-8", errors="replace")
            self._files[file] = text.splitlines()
        return self._files[file]

    def _keeps(self, line: str, id_: str) -> bool:
        _, mark, ids = line.partition(KEEP)
        return bool(mark) and id_ in ids.replace(",", " ").split()
