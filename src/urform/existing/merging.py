"""A draft put into a declaration that a person wrote: what is new comes behind what is there, which stays as it is."""

from __future__ import annotations

from collections.abc import Iterator

import yaml

from urform.declaration.model import Declaration
from urform.existing.draft import Draft, DraftField, DraftProduct
from urform.existing.writing import Lines, Written, records_line, write_choices, write_products


class InBraces(Exception):
    """Nothing can be put into a section that is written in braces; the text is its key."""


def without_known(draft: Draft, declaration: Declaration) -> list[str]:
    """Take from the draft what the declaration has already; the names of that."""
    names = {*declaration.choices, *declaration.products, *declaration.families}
    drafted = [*(each.name for each in draft.choices), *(each.name for each in draft.every())]
    known = [name for name in drafted if name in names]
    draft.choices = [each for each in draft.choices if each.name not in names]
    draft.products = [each for each in draft.products if each.name not in names]
    for product in draft.products:
        product.variants = [each for each in product.variants if each.name not in names]
    return known


def merged(text: str, draft: Draft) -> Written:
    """The text with the draft in it. Raises InBraces."""
    sections = dict(_sections(text))
    lines = text.splitlines()
    about: dict[int, DraftField | DraftProduct] = {}
    pieces: list[tuple[int, Lines]] = []
    for key, write in (("choices", write_choices), ("products", write_products)):
        piece = Lines()
        if key not in sections:
            piece.add(0, f"{key}:")
        write(draft, piece)
        if len(piece.lines) > (key not in sections):
            pieces.append((sections.get(key, len(lines)), piece))
    if draft.records and "records" not in sections:
        piece = Lines()
        piece.add(0, records_line(draft))
        pieces.append((len(lines), piece))
    added = 0
    for at, piece in sorted(pieces, key=lambda each: each[0]):
        lines[at + added : at + added] = piece.lines
        about |= {at + added + number: thing for number, thing in piece.about.items()}
        added += len(piece.lines)
    return Written("\n".join(lines) + "\n", about)


def _sections(text: str) -> Iterator[tuple[str, int]]:
    """The sections of a valid declaration, each with the number of lines to its end."""
    root = yaml.compose(text, Loader=yaml.SafeLoader)
    assert isinstance(root, yaml.MappingNode), "a valid declaration is a mapping"
    for key, value in root.value:
        if key.value in ("choices", "products") and getattr(value, "flow_style", False):
            raise InBraces(key.value)
        yield key.value, _last_line(value)


def _last_line(node: yaml.Node) -> int:
    """The last line of a node, counted from 1. The end that YAML tells of a block is where the next thing begins."""
    if isinstance(node, yaml.MappingNode) and not node.flow_style and node.value:
        return _last_line(node.value[-1][1])
    if isinstance(node, yaml.SequenceNode) and not node.flow_style and node.value:
        return _last_line(node.value[-1])
    if isinstance(node, yaml.ScalarNode) and node.style in ("|", ">"):
        return int(node.end_mark.line)
    return int(node.end_mark.line) + 1
