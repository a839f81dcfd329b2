"""The packaged declarations: the fairway marks of Port Varrow, and a short one to begin with."""

from __future__ import annotations

from pathlib import Path

NAME = "fairway.urform.yaml"
_HERE = Path(__file__).parent


def demo_text() -> str:
    """The demo declaration."""
    return (_HERE / NAME).read_text(encoding="utf-8")


# What a beginning can have beside its factory, in the order in which it stands there; a family comes last, after all products.
BEGINNINGS = ("builder", "prototype", "pool", "family")


def starter(*patterns: str, schema: str = "") -> str:
    """A short commented declaration that is valid as it stands, with some of `BEGINNINGS`.

    `schema` is the name of a file beside it, which editors are told to complete from.
    """
    parts = [(_HERE / "starter.urform.yaml").read_text(encoding="utf-8")]
    parts += [
        (_HERE / "beginnings" / f"{pattern}.yaml").read_text(encoding="utf-8")
        for pattern in BEGINNINGS
        if pattern in patterns
    ]
    told = f"# yaml-language-server: $schema={schema}\n" if schema else ""
    return told + "\n".join(parts)
