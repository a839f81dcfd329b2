"""The pages about generated code: every block is what the demo's generated file has, found by its first line."""

from __future__ import annotations

import re
import textwrap
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.conftest import DEMO, ROOT, emitted, planned
from urform.languages import target

PAGES = sorted((ROOT / "docs/generated").glob("*.md"))
_BLOCK = re.compile(r"^```(?P<language>\w+) (?P<path>\S+)\n(?P<code>.*?)^```$", re.DOTALL | re.MULTILINE)


def files_of(name: str) -> dict[str, str]:
    """Everything that the target generates for the demo, the walk-through included."""
    files = (*emitted(DEMO, name).files, *target(name).example(planned(DEMO)[0]))
    return {file.path: file.text for file in files}


def blocks(page: Path) -> Iterator[re.Match[str]]:
    return _BLOCK.finditer(page.read_text(encoding="utf-8"))


def taken(text: str, first: str) -> str:
    """The piece of a file that begins with a line, as far as its indentation goes, and its closing brace."""
    lines = text.split("\n")
    begin = next((number for number, line in enumerate(lines) if line.strip() == first), None)
    assert begin is not None, f"no line {first!r}"
    margin = len(lines[begin]) - len(lines[begin].lstrip())
    end = begin + 1
    while end < len(lines):
        inside = not lines[end].strip() or len(lines[end]) - len(lines[end].lstrip()) > margin
        inside = inside or lines[end].strip() in ("public:", "private:", "protected:")
        closing = lines[end].strip() in ("}", "};", "} as const;", ")", ") {") or lines[
            end
        ].strip().startswith(") ->")
        if not inside and not closing:
            break
        end += 1
        if closing and not inside and lines[end - 1].strip() in ("}", "};", "} as const;"):
            break
    return textwrap.dedent("\n".join(lines[begin:end])).rstrip() + "\n"


@pytest.mark.parametrize("page", PAGES, ids=lambda page: page.stem)
def test_blocks_are_taken_from_generated_files(page: Path, request: pytest.FixtureRequest) -> None:
    """`--renew` takes them anew."""
    files = files_of(page.stem)

    def renewed(match: re.Match[str]) -> str:
        code = taken(files[match["path"]], match["code"].split("\n")[0].strip())
        return f"```{match['language']} {match['path']}\n{code}```"

    text = page.read_text(encoding="utf-8")
    fresh = _BLOCK.sub(renewed, text)
    if request.config.getoption("--renew"):
        page.write_text(fresh, encoding="utf-8")
    assert fresh == page.read_text(encoding="utf-8")


def test_every_target_has_a_page(target_name: str) -> None:
    (page,) = [page for page in PAGES if page.stem == target_name]
    assert len(list(blocks(page))) >= 14
