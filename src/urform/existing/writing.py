"""The text of a draft: a declaration that a person goes on with, each loss as a comment where it happened."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping

from urform.dataclasses import dataclass
from urform.existing.draft import Draft, DraftChoice, DraftField, DraftProduct
from urform.existing.losses import Loss
from urform.existing.naming import lower_snake

WIDEST = 100  # characters of a line that a mapping may take
_PLAIN = re.compile(r"[A-Za-z][A-Za-z0-9_.<> -]*(?<! )")
_OTHERWISE = {
    "true",
    "false",
    "null",
    "yes",
    "no",
    "on",
    "off",
    "y",
    "n",
}  # what YAML takes for no text, of any version


@dataclass(frozen=True, slots=True)
class Written:
    """A declaration's text, and what each of its lines is about: a field, a product, or nothing of the two."""

    text: str
    about: Mapping[int, DraftField | DraftProduct]


def written(draft: Draft) -> Written:
    """The whole declaration."""
    lines = Lines()
    for source in draft.sources:
        lines.add(0, f"# Drafted by urform adopt from {_comment(source)}.")
    lines.add(0, "urform: 1")
    lines.add(0, f"name: {draft.name}")
    if draft.records:
        lines.add(0, records_line(draft))
    if draft.choices:
        lines.add(0, "choices:")
        write_choices(draft, lines)
    lines.add(0, "products:" if draft.products else "products: {}")
    write_products(draft, lines)
    return Written("\n".join(lines.lines) + "\n", lines.about)


class Lines:
    """Lines as they are written, and what each is about."""

    def __init__(self) -> None:
        self.lines: list[str] = []
        self.about: dict[int, DraftField | DraftProduct] = {}

    def add(self, depth: int, text: str, about: DraftField | DraftProduct | None = None) -> None:
        """Add one, so many steps from the left."""
        self.lines.append(f"{'  ' * depth}{text}")
        if about is not None:
            self.about[len(self.lines)] = about


def records_line(draft: Draft) -> str:
    """The settings of records."""
    settings = {"unknown": "ignore"} if draft.ignores else {}
    if draft.kind_field != "kind" and any(product.variants for product in draft.products):
        settings["kind_field"] = draft.kind_field
    return f"records: {_flow(settings) if settings else 'true'}"


def write_choices(draft: Draft, lines: Lines) -> None:
    """The entries of `choices`."""
    for choice in draft.choices:
        lines.add(1, f"{choice.name}:")
        if choice.doc:
            lines.add(2, f"doc: {_scalar(choice.doc)}")
        _listed(lines, 2, "values", [_word(word, as_) for word, as_ in _words(choice)])


def _words(choice: DraftChoice) -> Iterator[tuple[str, str]]:
    yield from choice.words


def _word(word: str, as_: str) -> str:
    return _flow({"word": word, "as": as_}) if as_ else _scalar(word)


def write_products(draft: Draft, lines: Lines) -> None:
    """The entries of `products`."""
    for product in draft.products:
        _product(product, lines, 1)


def _product(product: DraftProduct, lines: Lines, depth: int) -> None:
    for loss in product.losses:
        lines.add(depth, _lost(loss))
    if not (product.doc or product.fields or product.variants or product.key or product.mutable):
        lines.add(depth, f"{product.name}: {{}}", product)
        return
    lines.add(depth, f"{product.name}:", product)
    inner = depth + 1
    if product.key and product.key != lower_snake(product.name):
        lines.add(inner, f"key: {_scalar(product.key)}", product)
    if product.doc:
        lines.add(inner, f"doc: {_scalar(product.doc)}", product)
    if product.mutable:
        lines.add(inner, "mutable: true", product)
    _fields(product, lines, inner)
    if product.variants:
        lines.add(inner, "variants:", product)
        for variant in product.variants:
            _product(variant, lines, inner + 1)
        if product.has_factory:
            lines.add(inner, "factory: {form: simple}", product)


def _fields(product: DraftProduct, lines: Lines, depth: int) -> None:
    """The required ones, then the optional ones, in the order of the source; what is out stands where it would."""
    for section, is_required in (("required", True), ("optional", False)):
        fields = [field for field in product.fields if field.required == is_required]
        if any(field.type for field in fields):
            lines.add(depth, f"{section}:", product)
            for field in fields:
                _field(field, lines, depth + 1)
        else:
            for field in fields:
                lines.add(depth, f"# lost: {_comment(field.found)}: {_comment(field.losses[-1].text)}")


def _field(field: DraftField, lines: Lines, depth: int) -> None:
    if not field.type:
        lines.add(depth, f"# lost: {_comment(field.found)}: {_comment(field.losses[-1].text)}")
        return
    for loss in field.losses:
        lines.add(depth, _lost(loss))
    said: dict[str, object] = {
        "type": field.type,
        **field.options,
        **({"doc": field.doc} if field.doc else {}),
    }
    if len(said) == 1:
        lines.add(depth, f"{field.name}: {field.type}", field)
        return
    flow = f"{field.name}: {_flow(said)}"
    if len(flow) + 2 * depth <= WIDEST:
        lines.add(depth, flow, field)
        return
    lines.add(depth, f"{field.name}:", field)
    for key, value in said.items():
        if isinstance(value, list):
            _listed(lines, depth + 1, key, [_value(each) for each in value], field)
        else:
            lines.add(depth + 1, f"{key}: {_value(value)}", field)


def _listed(lines: Lines, depth: int, key: str, entries: list[str], about: DraftField | None = None) -> None:
    """A list on one line, or on as many as it takes."""
    line = f"{key}: [{', '.join(entries)}]"
    if len(line) + 2 * depth <= WIDEST:
        lines.add(depth, line, about)
        return
    lines.add(depth, f"{key}:", about)
    for entry in entries:
        lines.add(depth + 1, f"- {entry}", about)


def _lost(loss: Loss) -> str:
    return f"# lost: {_comment(loss.text)}"


def _comment(text: str) -> str:
    """A text that stays on its line."""
    shown = " ".join(text.split())
    shown = "".join(char if char.isprintable() else f"\\u{ord(char):04x}" for char in shown)
    return shown if len(shown) <= 200 else f"{shown[:199]}…"


def _flow(mapping: Mapping[str, object]) -> str:
    return "{" + ", ".join(f"{key}: {_value(value)}" for key, value in mapping.items()) + "}"


def _value(value: object) -> str:
    if isinstance(value, Mapping):
        return _flow(value)
    if isinstance(value, list):
        return f"[{', '.join(map(_value, value))}]"
    if isinstance(value, str):
        return _scalar(value)
    return json.dumps(value)


def _scalar(text: str) -> str:
    """A text in YAML: as it is where nothing else could be meant, else in quotes."""
    if _PLAIN.fullmatch(text) and text.lower() not in _OTHERWISE:
        return text
    if "\\" in text and text.isprintable():
        return "'" + text.replace("'", "''") + "'"
    quoted = json.dumps(text, ensure_ascii=False)
    return "".join(char if char.isprintable() else _escaped(char) for char in quoted)


def _escaped(char: str) -> str:
    point = ord(char)
    return f"\\u{point:04x}" if point <= 0xFFFF else f"\\U{point:08x}"
