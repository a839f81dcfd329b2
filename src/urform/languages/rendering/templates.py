"""Templates that look like the target's code: `«name»` is replaced, a line that begins with `%%` is logic.

`¦` in a template ends a cell of an aligned column. Values are never looked into: what stands in a
declaration cannot become template syntax or a column. Marked lines are where flaws are made (`marks.py`), or public entries
(`entries.py`).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from functools import cache, lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from urform.languages.entries import Entry
from urform.languages.layout.columns import TAB
from urform.languages.rendering.entries import collected, entry, with_calls
from urform.languages.rendering.flaws import Flaws
from urform.languages.rendering.marks import DROPPED, marked

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
        self._folder = folder
        self._filters = filters
        self._flaws = flaws
        self._lay_out = lay_out
        self.entries: list[Entry] = []  # of all that was rendered, in that order

    def render(self, template: str, of: str | None = None, **values: object) -> str:
        """A template with its values, lines broken and columns aligned; `of` is the product or family that it is about."""
        text = self.rendered(template, of, **values)
        return self._lay_out(text if of is None else self.flawed(template, of, text))

    def rendered(self, template: str, of: str | None = None, **values: object) -> str:
        """A template with its values, not laid out, and without what rewrites change in it."""
        changes = self._flaws.changes(template, of) if self._flaws is not None and of is not None else None
        if changes is not None:
            values["flaw"] = changes.names
        loaded = self._template(template, changes.lines if changes is not None else ())
        text, entries = collected(loaded.render(**values).replace(_BLANK, ""), template, of or "")
        self.entries += entries
        return text

    def _template(self, template: str, lines: tuple[tuple[str, str], ...] = ()) -> jinja2.Template:
        environment = _environment(self._folder, lines)
        environment.filters.update(self._filters)
        return environment.get_template(f"{template}.jinja")

    def lines(self, template: str, macro: str, view: Mapping[str, object]) -> list[str]:
        """The logical lines of one macro of a template, which takes one value."""
        macros = self._template(template).module
        text: str = getattr(macros, macro)(view)
        return text.replace(_BLANK, "").strip("\n").split("\n")

    def flawed(self, template: str, of: str, text: str) -> str:
        """Text with the mistakes that the plan asks for; as a rule there are none."""
        return text if self._flaws is None else self._flaws.applied(template, of, text)

    def support(self, path: Path) -> str:
        """Support code that flaws are made in; it serves all products."""
        changes = self._flaws.changes(path.stem, "") if self._flaws is not None else None
        lines = tuple(changes.lines) if changes is not None else ()
        return self.flawed(path.stem, "", _support(path, lines))


@lru_cache(maxsize=500)
def _support(path: Path, instead: tuple[tuple[str, str], ...]) -> str:
    """Support code with other text for some of its marked lines: the same for all plans."""
    return marked(support_file(path.parent, path.name), dict(instead))


@cache
def _environment(folder: Path, instead: tuple[tuple[str, str], ...]) -> jinja2.Environment:
    """One for all plans: compiling a template takes far longer than rendering it. Others where lines are replaced."""
    import jinja2

    from urform.languages.rendering.compiled import compiled

    class Loader(jinja2.FileSystemLoader):
        def get_source(self, environment: jinja2.Environment, template: str) -> Any:
            source, name, fresh = super().get_source(environment, template)
            text = marked(with_calls(source.replace("¦", TAB)), dict(instead), DROPPED)
            return _BLANKS.sub(_keep_blanks, text), name, fresh

    environment = jinja2.Environment(
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
        bytecode_cache=compiled(keeps=not instead),
    )
    environment.globals["entry"] = entry
    return environment


@cache
def support_file(folder: Path, name: str) -> str:
    """The text of hand-written support code, copied as it is."""
    return (folder / name).read_text(encoding="utf-8")
