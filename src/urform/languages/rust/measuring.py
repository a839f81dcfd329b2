"""The program that measures, in Rust: an example of the crate."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rendering.templates import support_file
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import text_literal
from urform.languages.rust.proof import Proof
from urform.languages.rust.views import HERE, laid_out
from urform.languages.rust.writer import RESERVED, Writer
from urform.languages.target import File
from urform.languages.testing.measuring import maker_lines, setup_lines
from urform.plan.measuring import SHALLOW, Sample
from urform.plan.whole import Plan

PATH = "examples/measure.rs"


def measuring_files(context: Context, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program. A `Clone` of Rust's own is deep, and nothing copies less."""
    own = [sample for sample in samples if sample.way != SHALLOW]
    proof = Proof(context, plan)
    proof.code.good = "?"
    functions = [_function(proof, plan, number, sample) for number, sample in enumerate(own)]
    calls = "".join(f"    sample_{number}()?;\n" for number, _ in enumerate(own))
    code = laid_out(
        f"fn main() -> Creation<()> {{\n    map_read()?;\n{calls}    Ok(())\n}}\n\n" + "\n".join(functions)
    )
    allowed = "#![allow(dead_code, unused_mut, unused_variables)]\n\n"
    harness = support_file(HERE / "support", "measuring.rs")
    return (File(PATH, f"{allowed}{proof.uses(code)}{code}\n{harness}", part=EXAMPLE),)


def _function(proof: Proof, plan: Plan, number: int, sample: Sample) -> str:
    taken = RESERVED | {"measure", "timed", "batch", "weighed", "heap", "map_read"} | parameters_of_all(plan)
    writer = Writer(proof, Scope(plan, taken), prints=True)
    lines = [*setup_lines(writer, sample), *_makers(writer, sample)]
    return (
        "\n".join([f"fn sample_{number}() -> Creation<()> {{", *(f"    {line}" for line in lines), "}"])
        + "\n"
    )


def _makers(writer: Writer, sample: Sample) -> Iterator[str]:
    names = []
    if sample.original:
        yield f"let make_0 = || Ok({writer.var(sample.original)}.clone());"
        names.append("&make_0")
    for number, (steps, made) in enumerate(maker_lines(writer, sample)):
        names.append(f"&make_{number}")
        yield f"let make_{number} = || {{"
        yield from (f"    {line}" for line in steps)
        yield f"    Ok({made})"
        yield "};"
    yield f"measure({text_literal(sample.name)}, &[{', '.join(names)}])"
