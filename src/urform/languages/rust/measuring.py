"""The program that measures, in Rust: an example of the crate."""

from __future__ import annotations

from collections.abc import Sequence

from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rendering.templates import support_file
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import text_literal
from urform.languages.rust.proof import Proof
from urform.languages.rust.views import HERE, laid_out
from urform.languages.rust.writer import RESERVED, Writer
from urform.languages.target import File
from urform.languages.testing.measuring import MakerForm, named_makers, own_samples, setup_lines
from urform.plan.measuring import DEEP, Sample
from urform.plan.whole import Plan

PATH = "examples/measure.rs"
MAKERS = MakerForm(
    name="make_",
    begins="let «name» = || {",
    gives="Ok(«made»)",
    ends="};",
    copies={DEEP: "|| Ok(«of».clone())"},
)


def measuring_files(context: Context, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program. A `Clone` of Rust's own is deep, and nothing copies less."""
    own = own_samples(samples, MAKERS.copies)
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


def _makers(writer: Writer, sample: Sample) -> list[str]:
    lines, names = named_makers(writer, sample, MAKERS)
    return [*lines, f"measure({text_literal(sample.name)}, &[{', '.join(f'&{name}' for name in names)}])"]
