"""Documentation comments of Java: what a member does, takes, returns and throws, as javadoc wants it said."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from urform.languages.java.views import STYLE, escaped, javadoc
from urform.languages.naming.names import spoken
from urform.languages.rendering.comments import wrapped
from urform.languages.rendering.fields import field_doc
from urform.plan.model import Field

Takes = Sequence[tuple[str, str]]  # names of parameters, and what each is
KEY = ("key", "the type code")
OPTIONS = ("options", "the optional fields")
UNKNOWN = "CreationException.UnknownKey if the key is unknown"
REFUSED = "CreationException if a value is missing or outside its limit"


def as_parameter(field: Field, name: str) -> tuple[str, str]:
    """A field as a parameter of that name."""
    return name, field_doc(field, f"the {spoken(field.name)}")


def documented(
    text: str, margin: int, takes: Takes = (), returns: str = "", throws: str | Sequence[str] = ""
) -> str:
    """A comment with tags. What only returns something says so first, in one line where it fits."""
    if returns and not (takes or throws):
        return _lines([f"{{@return {escaped(returns)}}} {escaped(text)}".rstrip()], margin)
    tags = [f"@param {name} {escaped(said)}" for name, said in takes]
    tags += [f"@return {escaped(returns)}"] if returns else []
    reasons = [throws] if isinstance(throws, str) else throws
    tags += [f"@throws {escaped(reason)}" for reason in reasons if reason]
    return _lines([escaped(text), "", *tags], margin) if tags else javadoc(text, margin)


def param_tags(takes: Takes) -> str:
    """The lines of a member's parameters, within a comment that a template begins."""
    comment = _lines(["", *(f"@param {name} {escaped(said)}" for name, said in takes)], 4)
    return "\n".join(comment.split("\n")[2:-1])


def _lines(paragraphs: Iterable[str], margin: int) -> str:
    """Each paragraph wrapped, and what belongs to a tag further to the right."""
    width = STYLE.width - margin - 7
    lines: list[str] = []
    for paragraph in paragraphs:
        first, *more = wrapped(paragraph, width - 4) if paragraph else [""]
        lines += [first, *(f"    {line}" if paragraph.startswith("@") else line for line in more)]
    if len(lines) == 1:
        return f"/** {lines[0]} */"
    pad = "\n" + " " * margin
    return "/**" + "".join(f"{pad} * {line}".rstrip() for line in lines) + f"{pad} */"
