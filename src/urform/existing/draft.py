"""A draft: a declaration as plain data, with what was lost on the way to it."""

from __future__ import annotations

from dataclasses import field

from urform.dataclasses import dataclass
from urform.existing.found import Spot
from urform.existing.losses import Loss

WHOLE, PART, OUT = "whole", "part", "out"


@dataclass(slots=True)
class DraftField:
    """A field, or one that could not be carried over: then it has no type."""

    found: str  # its name in what was read
    spot: Spot
    name: str = ""
    type: str = ""
    required: bool = False
    options: dict[str, object] = field(
        default_factory=dict
    )  # limits, `each`, `default` and `as`, by their keys
    doc: str = ""
    losses: list[Loss] = field(default_factory=list)

    @property
    def outcome(self) -> str:
        """`WHOLE`, `PART` or `OUT`."""
        return OUT if not self.type else PART if self.losses else WHOLE

    def leave_out(self, loss: Loss) -> None:
        """It cannot be carried over after all."""
        self.type = ""
        self.losses.append(loss)


@dataclass(slots=True)
class DraftProduct:
    """A product or a variant. A base has variants; `key` is what tells a variant, where its name does not."""

    id: str
    name: str
    spot: Spot
    fields: list[DraftField] = field(default_factory=list)
    doc: str = ""
    losses: list[Loss] = field(default_factory=list)
    variants: list[DraftProduct] = field(default_factory=list)
    key: str = ""
    mutable: bool = False
    has_factory: bool = False  # that makes a variant by its key

    @property
    def carried(self) -> list[DraftField]:
        """The fields that it has in the declaration."""
        return [each for each in self.fields if each.type]


@dataclass(slots=True)
class DraftChoice:
    """Words, each with its name in records where that is another one."""

    name: str
    words: list[tuple[str, str]]
    doc: str = ""


@dataclass(slots=True)
class Draft:
    """All of it. `kind_field` is where a record tells its kind; `is_open`: records may have names that nobody declared."""

    name: str
    sources: list[str]
    products: list[DraftProduct] = field(default_factory=list)
    choices: list[DraftChoice] = field(default_factory=list)
    records: bool = False
    kind_field: str = "kind"
    is_open: bool = False

    @property
    def ignores(self) -> bool:
        """Whether names that are not declared are passed over: those of fields that are out are in records, too."""
        return self.is_open or any(not field.type for each in self.every() for field in each.fields)

    def every(self) -> list[DraftProduct]:
        """Products and variants, each variant behind its product."""
        return [each for product in self.products for each in (product, *product.variants)]
