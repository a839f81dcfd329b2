"""What the templates of choices are given, in every target."""

from __future__ import annotations

from collections.abc import Callable

from urform.plan.model import Choice


def choice_view(
    choice: Choice, type_: str, word: Callable[[str], str], literal: Callable[[str], str]
) -> dict[str, object]:
    """The words of a choice as declared, with the name and the literal of each; `known` are those of its errors."""
    return {
        "owner": choice.name,
        "type": type_,
        "doc": choice.doc or f"One of {', '.join(choice.words)}.",
        "every": [f"{type_} {literal(each)}" for each in choice.words],
        "words": [{"member": each, "name": word(each), "text": literal(each)} for each in choice.words],
        "known": ", ".join(literal(each) for each in sorted(choice.words)),
    }
