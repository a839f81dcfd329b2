"""Text of a declaration as comments and docstrings, with every end that could end them."""

from __future__ import annotations

import ast
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from urform.languages.cpp.views import comment as cpp
from urform.languages.go.views import comment as go
from urform.languages.java.views import javadoc
from urform.languages.python.views import docstring
from urform.languages.rust.views import comment as rust
from urform.languages.typescript.views import jsdoc

ENDS = [
    '"',
    "'",
    "\\",
    "*/",
    "/*",
    '"""',
    "'''",
    "--",
    "{@",
    "#}",
    "«",
    "%%",
    "`",
    "\\u002a/",
    "//",
    "-->",
    "%}",
]
TEXTS = st.lists(st.one_of(st.sampled_from(ENDS), st.sampled_from([" ", "a", "mark "])), max_size=14).map(
    "".join
)


@given(TEXTS, st.sampled_from([0, 4, 8]))
@pytest.mark.parametrize(
    "before", ["", "A mark of the fairway, in so many words that they take more than one line. "]
)
def test_a_docstring_is_one_text(before: str, doc: str, margin: int) -> None:
    """It parses, it is all there is, and it says what the declaration says, blanks aside."""
    text = docstring(before + doc, margin, otherwise="Nothing.")
    (statement,) = ast.parse(f"if True:\n{' ' * 4}{text}\n" if margin else text).body
    value = statement.body[0].value if isinstance(statement, ast.If) else statement.value  # type: ignore[attr-defined]
    assert isinstance(value, ast.Constant)
    assert isinstance(value.value, str)
    said = "".join(value.value.split())
    assert said == ("".join((before + doc).split()) or "Nothing.")


@given(TEXTS)
def test_block_comments_end_where_they_end(doc: str) -> None:
    for text in (javadoc(doc, 4), jsdoc(doc, 2)):
        assert text.startswith("/**")
        assert text.index("*/") == len(text) - 2
        assert text.find("/*", 2) == -1
        assert not re.search(r"\\u+[0-9a-fA-F]{4}", text) or (
            text.startswith("/** ") and "\\u" not in javadoc(doc, 4)
        )


@given(TEXTS)
def test_every_line_of_a_line_comment_is_one(doc: str) -> None:
    for text, mark in ((go(doc, 0), "//"), (cpp(doc, 0), "///"), (rust(doc, 0), "///")):
        lines = text.split("\n")
        assert all(line.startswith(mark) for line in lines)
        assert not any(line.endswith("\\") for line in cpp(doc, 0).split("\n")), (
            "a line that draws the next one in"
        )
