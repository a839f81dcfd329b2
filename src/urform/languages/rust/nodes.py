"""Records as Rust code: with the helpers of tests, or without, for the walk-through."""

from __future__ import annotations

from urform.dataclasses import dataclass
from urform.languages.rust.expressions import text_literal
from urform.plan.record_trees import Node, Tree


@dataclass(frozen=True, slots=True)
class Words:
    """How each kind of node is written; `{}` stands for what is in it."""

    names: str
    name: str
    items: str
    truth: str
    integer: str
    real: str
    text: str
    nothing: str


IN_TESTS = Words(
    names="of_names([{}])",
    name="({}, {})",
    items="of_items([{}])",
    truth="of_truth({})",
    integer="of_integer({})",
    real="of_real({})",
    text="of_text({})",
    nothing="of_nothing()",
)
PLAIN = Words(
    names="records::Value::Object(vec![{}])",
    name="({}.to_owned(), {})",
    items="records::Value::List(vec![{}])",
    truth="records::Value::Boolean({})",
    integer="records::Value::Integer({})",
    real="records::Value::Real({})",
    text="records::Value::Text({}.to_owned())",
    nothing="records::Value::Null",
)


def node_text(node: Node, words: Words) -> str:
    """What a JSON reader gives, as an expression."""
    match node:
        case Tree(entries):
            pairs = (words.name.format(text_literal(name), node_text(held, words)) for name, held in entries)
            return words.names.format(", ".join(pairs))
        case tuple():
            return words.items.format(", ".join(node_text(each, words) for each in node))
        case bool():
            return words.truth.format("true" if node else "false")
        case int():
            return words.integer.format(node)
        case float():
            return words.real.format(repr(node))
        case str():
            return words.text.format(text_literal(node))
    return words.nothing
