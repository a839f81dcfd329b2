"""What became of all that was found: counts, and each loss with its place."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from urform.dataclasses import dataclass
from urform.existing.draft import OUT, PART, WHOLE, Draft
from urform.existing.found import Found, Spot
from urform.existing.losses import Loss, mend


@dataclass(frozen=True, slots=True)
class LossTold:
    """A loss with its place: of a product, or of one of its fields by the name that it had."""

    product: str
    field: str
    loss: Loss
    spot: Spot

    @property
    def mend(self) -> str:
        """What one can do about it."""
        return mend(self.loss)


@dataclass(frozen=True, slots=True)
class Report:
    """Counts of fields by outcome, for each product and in all; all losses in the order of the source; what was not read."""

    by_product: dict[str, Counter[str]]
    totals: Counter[str]
    losses: tuple[LossTold, ...]
    unread: tuple[tuple[Spot, str], ...]

    @property
    def complete(self) -> bool:
        """Whether all was carried over."""
        return not self.losses and not self.unread


def report_of(draft: Draft, found: Found) -> Report:
    """What became of what was found."""
    by_product = {each.name: Counter(field.outcome for field in each.fields) for each in draft.every()}
    totals = Counter({WHOLE: 0, PART: 0, OUT: 0})
    for counts in by_product.values():
        totals.update(counts)
    return Report(by_product, totals, tuple(_losses(draft)), found.unread)


def _losses(draft: Draft) -> Iterator[LossTold]:
    for product in draft.every():
        for loss in product.losses:
            yield LossTold(product.name, "", loss, product.spot)
        for field in product.fields:
            # Of what is out, the last loss says why; those before it say what would have been lost anyway.
            for loss in field.losses if field.type else field.losses[-1:]:
                yield LossTold(product.name, field.found, loss, field.spot)


def as_json(report: Report) -> dict[str, object]:
    """The documented shape; see docs/json.md."""
    return {
        "version": 1,
        "totals": dict(report.totals),
        "products": [{"name": name, **_counted(counts)} for name, counts in report.by_product.items()],
        "losses": [
            {
                "path": f"{each.product}.{each.field}" if each.field else each.product,
                "field": each.field or None,
                "slug": each.loss.slug,
                "reason": each.loss.text,
                "mend": each.mend,
                "file": each.spot.file,
                "line": each.spot.line,
            }
            for each in report.losses
        ],
        "unread": [
            {"file": spot.file, "line": spot.line, "reason": reason} for spot, reason in report.unread
        ],
    }


def _counted(counts: Counter[str]) -> dict[str, int]:
    return {outcome: counts[outcome] for outcome in (WHOLE, PART, OUT)}
