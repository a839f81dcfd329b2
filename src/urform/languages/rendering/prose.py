"""Sentences of documentation comments that all targets have."""

from __future__ import annotations

from collections.abc import Sequence


def clone_sentences(fresh: Sequence[str], *, mutable: bool) -> str:
    """What a method returns that clones, after its verb: what `fresh` fields do, and what a change to one does."""
    said = "a copy with the same content"
    if fresh:
        said += f", except that {' and '.join(fresh)} {'starts' if len(fresh) == 1 else 'start'} again"
    return f"{said}. Changes to one do not affect the other." if mutable else f"{said}."
