"""What Go files and functions declare and mention, so that only what a test needs is compiled to try it."""

from __future__ import annotations

import re
from collections.abc import Iterable

from urform.languages.testing.pruning import Unit

_WORD = re.compile(r"[A-Za-z_]\w*")
_NOT_CODE = re.compile(r"""//[^\n]*|"(?:\\.|[^"\\\n])*"|`[^`]*`|'(?:\\.|[^'\\\n])'""")
_DECLARED = re.compile(r"^(?:func|type|var|const) (\w+)", re.MULTILINE)
_BLOCK = re.compile(r"^(?:var|const) \(\n(.*?)^\)", re.MULTILINE | re.DOTALL)
_IN_BLOCK = re.compile(r"^\t(\w+)", re.MULTILINE)
_RECEIVER = re.compile(r"^func \((?:\w+ )?\*?(\w+)(?:\[[^\]]*\])?\) ", re.MULTILINE)
_IMPORT = re.compile(r'^\t?(?:(?P<alias>\w+) )?"(?P<path>[^"]+)"$')


def unit(text: str) -> Unit:
    """The names that a piece of code declares and mentions."""
    code = _NOT_CODE.sub("", text)
    in_blocks = (name for block in _BLOCK.findall(code) for name in _IN_BLOCK.findall(block))
    return Unit(
        frozenset((*_DECLARED.findall(code), *in_blocks)) - {"_"},
        frozenset(_RECEIVER.findall(code)),
        frozenset(_WORD.findall(code)),
    )


def functions(text: str) -> tuple[str, list[str]]:
    """A file that gofmt gave its shape: what comes before its declarations, and its functions one by one."""
    if "import (\n" in text:
        head, _, rest = text.partition("\n)\n")
    else:
        match = re.search(r'^import ((?:\w+ )?"[^"]+")\n', text, re.MULTILINE)
        assert match is not None, "a test file imports testing at least"
        head, rest = f"{text[: match.start()]}import (\n\t{match[1]}", text[match.end() :]
    return head, re.split(r"(?<=\n\}\n)\n", rest)


def with_functions(head: str, kept: Iterable[str]) -> str:
    """The file with some of its functions, and the imports that they need."""
    code = "\n".join(kept)
    lines = [line for line in head.split("\n") if _is_needed(line, code)]
    return "\n".join(lines) + "\n)\n" + code


def _is_needed(line: str, code: str) -> bool:
    match = _IMPORT.match(line)
    if match is None:
        return True
    qualifier = match["alias"] or match["path"].rpartition("/")[2]
    return re.search(rf"\b{qualifier}\.", code) is not None
