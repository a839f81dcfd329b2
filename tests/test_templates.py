"""Compiled templates that are kept: rendered alike with and without them, and nothing depends on the folder."""

from __future__ import annotations

import marshal
import os
from pathlib import Path
from types import CodeType

import jinja2
import pytest

from urform.languages.rendering.compiled import MOST, Compiled


class Counting(jinja2.Environment):
    """Counts how often a template is compiled."""

    compiled = 0

    def _compile(self, source: str, filename: str) -> CodeType:
        self.compiled += 1
        return super()._compile(source, filename)


def environment(folder: Path, text: str = "a {{ b }}", *, keeps: bool = True) -> Counting:
    return Counting(loader=jinja2.DictLoader({"one": text}), bytecode_cache=Compiled(folder, keeps=keeps))


def rendered(made: Counting) -> str:
    return made.get_template("one").render(b=1)


def test_a_template_is_compiled_once(tmp_path: Path) -> None:
    first, second = environment(tmp_path), environment(tmp_path)
    assert (rendered(first), first.compiled) == ("a 1", 1)
    assert (rendered(second), second.compiled) == ("a 1", 0)


def test_another_text_of_the_same_name_is_another_template(tmp_path: Path) -> None:
    """As where a flaw is made in it; both are kept."""
    texts = {"a {{ b }}": "a 1", "c {{ b }}": "c 1"}
    for text, said in texts.items():
        assert rendered(environment(tmp_path, text)) == said
    for text, said in texts.items():
        again = environment(tmp_path, text)
        assert (rendered(again), again.compiled) == (said, 0)


def test_what_is_not_to_be_kept_is_compiled_each_time(tmp_path: Path) -> None:
    for _ in range(2):
        made = environment(tmp_path, keeps=False)
        assert (rendered(made), made.compiled) == ("a 1", 1)
    assert list(tmp_path.iterdir()) == []


@pytest.fixture
def damaged(tmp_path: Path) -> Path:
    """A file that is no compiled template stands where one is looked for."""
    rendered(environment(tmp_path))
    (file,) = tmp_path.iterdir()
    return file


@pytest.mark.parametrize("content", [b"", b"\0", b"j2", marshal.dumps("no code")])
def test_a_damaged_file_is_as_good_as_none(damaged: Path, content: bytes) -> None:
    damaged.write_bytes(content)
    assert rendered(environment(damaged.parent)) == "a 1"


def test_a_folder_that_cannot_be_made_does_no_harm(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("mine", encoding="utf-8")
    assert rendered(environment(tmp_path / "file" / "folder")) == "a 1"
    assert (tmp_path / "file").read_text(encoding="utf-8") == "mine"


def test_the_oldest_go(tmp_path: Path) -> None:
    for number in range(MOST):
        (tmp_path / f"{number}").touch()
        os.utime(tmp_path / f"{number}", (number, number))
    rendered(environment(tmp_path))
    left = {path.name for path in tmp_path.iterdir()}
    assert (len(left), "0" in left, "1" in left) == (MOST, False, True)
