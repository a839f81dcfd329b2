"""The program that measures, in Go: a command of the module."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.languages.go.context import Context
from urform.languages.go.example import TAKEN
from urform.languages.go.expressions import text_literal
from urform.languages.go.proof import Proof
from urform.languages.go.views import HERE, STYLE, qualifiers
from urform.languages.go.writer import Writer
from urform.languages.layout.engine import lay_out
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rendering.templates import support_file
from urform.languages.target import File
from urform.languages.testing.measuring import maker_lines, own_samples, setup_lines
from urform.plan.measuring import SHALLOW, Sample
from urform.plan.whole import Plan

FOLDER = "examples/measure"


def measuring_files(context: Context, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program, and what times and weighs. Go copies nothing deep by itself."""
    own = own_samples(samples, {SHALLOW})
    proof = Proof(context, plan)
    functions = [_function(context, proof, plan, number, sample) for number, sample in enumerate(own)]
    calls = "".join(f"\tsample{number}()\n" for number, _ in enumerate(own))
    code = lay_out(f"func main() {{\n\tmapRead()\n{calls}}}\n\n" + "\n".join(functions), STYLE)
    more = (context.imported,) if context.package in qualifiers(code) else ()
    program = context.whole(code, package="main", more=more)
    return (
        File(f"{FOLDER}/main.go", program, part=EXAMPLE),
        File(f"{FOLDER}/measuring.go", support_file(HERE / "support", "measuring.go"), part=EXAMPLE),
    )


def _function(context: Context, proof: Proof, plan: Plan, number: int, sample: Sample) -> str:
    taken = (
        TAKEN | {context.package, "measure", "kept", "heap", "mapRead", "repeated"} | parameters_of_all(plan)
    )
    writer = Writer(proof, Scope(plan, taken), prints=True)
    lines = [*setup_lines(writer, sample), *_makers(context, writer, sample)]
    return "\n".join([f"func sample{number}() {{", *(f"\t{line}" for line in lines), "}"]) + "\n"


def _makers(context: Context, writer: Writer, sample: Sample) -> Iterator[str]:
    yield f"measure({text_literal(sample.name)},"
    if sample.original:
        original = writer.var(sample.original)
        type_ = f"*{context.package}.{context.names.type(sample.product)}"
        yield f"\tfunc() any {{ copied := *any({original}).({type_}); return &copied }},"
    for steps, made in maker_lines(writer, sample):
        yield "\tfunc() any {"
        yield from (f"\t\t{line}" for line in steps)
        yield f"\t\treturn {made}"
        yield "\t},"
    yield ")"
