"""Templates that look like the target's code: `«name»` is replaced, a line that begins with `%%` is logic.

`¦` in a template ends a cell of an aligned column. Values are never looked into: what stands in a
declaration cannot become template syntax or a column.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from urform.languages.layout.columns import TAB
from urform.languages.rendering.flaws import Flaws

if TYPE_CHECKING:
    import jinja2


_BLANK = "\x03"  # keeps a blank line after a line of logic, which Jinja would swallow
_BLANKS = re.compile(r"(?m)^([ \t]*%%.*\n)((?:[ \t]*\n)+)")


def _keep_blanks(match: re.Match[str]) -> str:
    return match[1] + match[2].replace("\n", f"{_BLANK}\n")


class Templates:
    """The templates of one target, rendered and laid out as its formatter would."""

    def __init__(
        self,
        folder: Path,
        lay_out: Callable[[str], str],
        filters: Mapping[str, Callable[..., Any]],
        flaws: Flaws | None = None,
    ) -> None:
        self._environment = _environment(folder)
        self._flaws = flaws
        self._environment.filters.update(filters)
        self._lay_out = lay_out

    def render(self, template: str, of: str | None = None, **values: object) -> str:
        """A template with its values, lines broken and columns aligned; `of` is the product or family that it is about."""
        text = self._environment.get_template(f"{template}.jinja").render(**values).replace(_BLANK, "")
        return self._lay_out(text if of is None else self.flawed(template, of, text))

    def lines(self, template: str, macro: str, view: Mapping[str, object]) -> list[str]:
        """The logical lines of one macro of a template, which takes one value."""
        macros = self._environment.get_template(f"{template}.jinja").module
        text: str = getattr(macros, macro)(view)
        return text.replace(_BLANK, "").strip("\n").split("\n")

    def flawed(self, template: str, of: str, text: str) -> str:
        """Text with the mistakes that the plan asks for; as a rule there are none."""
        return text if self._flaws is None else self._flaws.applied(template, of, text)


@cache
def _environment(folder: Path) -> jinja2.Environment:
    """One for all plans: compiling a template takes far longer than rendering it."""
    import jinja2

    class Loader(jinja2.FileSystemLoader):
        def get_source(self, environment: jinja2.Environment, template: str) -> Any:
            source, name, fresh = super().get_source(environment, template)
            return _BLANKS.sub(_keep_blanks, source.replace("¦", TAB)), name, fresh

    return jinja2.Environment(
        loader=Loader(folder),
        variable_start_string="«",
        variable_end_string="»",
        block_start_string="«%",
        block_end_string="%»",
        comment_start_string="«#",
        comment_end_string="#»",
        line_statement_prefix="%%",
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=True,
        undefined=jinja2.StrictUndefined,
        autoescape=False,
    )


@cache
def support_file(folder: Path, name: str) -> str:
    """The text of hand-written support code, copied as it is."""
    return (folder / name).read_text(encoding="utf-8")
