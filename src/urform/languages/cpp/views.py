"""Shared by the parts of the C++ target: comments, and how code is laid out."""

from __future__ import annotations

import re
from pathlib import Path

from urform.languages.cpp.layout import lay_out
from urform.languages.rendering.comments import plain, wrapped

HERE = Path(__file__).parent
TESTING = "testing"  # the folder of what stands in for families in clients' own tests
COMMENT_WIDTH = 120
BACKSLASH = "\\"
NOT_CODE = re.compile(r"""//[^\n]*|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\\n])'""")


def comment(doc: str, margin: int, mark: str = "///") -> str:
    """A comment of whole lines; none ends in a backslash, which would draw the next line in."""
    pad = " " * margin
    lines = wrapped(plain(doc) or "Made from a declaration.", COMMENT_WIDTH - margin - len(mark) - 1)
    return "\n".join(
        f"{pad}{mark} {line}{'.' if line.endswith(BACKSLASH) else ''}".rstrip() for line in lines
    )


def laid_out(code: str) -> str:
    """Code with blank lines where they belong, and long lines broken."""
    code = re.sub(r"\n{3,}", "\n\n", code.strip("\n") + "\n")
    code = re.sub(r"(\{|public:|private:|protected:)\n\n", r"\1\n", code)
    code = re.sub(r"\n\n+( *\}|\n*(?:public|private|protected):)", r"\n\1", code)
    code = re.sub(r"\n+((?:public|private|protected):\n)", r"\n\n\1", code)
    code = re.sub(r"\{\n\n((?:public|private|protected):\n)", r"{\n\1", code)
    return lay_out(code)
