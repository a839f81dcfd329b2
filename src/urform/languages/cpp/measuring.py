"""The program that measures, in C++: a program that uses the library."""

from __future__ import annotations

from collections.abc import Sequence

from urform.languages.cpp.expressions import text_literal
from urform.languages.cpp.proof import Proof
from urform.languages.cpp.sources import Sources
from urform.languages.cpp.views import HERE, laid_out
from urform.languages.cpp.writer import RESERVED, Writer
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rendering.templates import support_file
from urform.languages.target import File
from urform.languages.testing.measuring import MakerForm, named_makers, own_samples, setup_lines
from urform.plan.measuring import DEEP, Sample
from urform.plan.whole import Plan

PATH = "examples/measure.cpp"
MAKERS = MakerForm(
    name="make_",
    begins="const auto «name» = [&] {",
    gives="return «made»;",
    ends="};",
    copies={DEEP: "[&] { return «of»; }"},
)


def measuring_files(sources: Sources, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program, and what times and weighs. A copy of C++'s own is deep, and nothing copies less."""
    own = own_samples(samples, MAKERS.copies)
    proof = Proof(sources, plan)
    functions = [_function(proof, plan, number, sample) for number, sample in enumerate(own)]
    code = laid_out("\n".join(functions))
    space = sources.context.namespace
    calls = "".join(f"    {space}::sample_{number}();\n" for number, _ in enumerate(own))
    begins = "    measuring::asked.assign(arguments + 1, arguments + count);\n    measuring::map_read();\n"
    main = f"int main(int count, char **arguments) {{\n{begins}"
    body = f"namespace {space} {{\n\n{code}\n}} // namespace {space}\n\n{main}{calls}}}\n"
    own_include = '#include "measuring.hpp"\n\n'
    return (
        File(PATH, f"{sources.includes(code)}{own_include}{body}", part=EXAMPLE),
        File("examples/measuring.hpp", support_file(HERE / "support", "measuring.hpp"), part=EXAMPLE),
    )


def _function(proof: Proof, plan: Plan, number: int, sample: Sample) -> str:
    writer = Writer(proof, Scope(plan, RESERVED | {"measuring"} | parameters_of_all(plan)), prints=True)
    lines = [*setup_lines(writer, sample), *_makers(writer, sample)]
    return "\n".join([f"static void sample_{number}() {{", *(f"    {line}" for line in lines), "}"]) + "\n"


def _makers(writer: Writer, sample: Sample) -> list[str]:
    lines, names = named_makers(writer, sample, MAKERS)
    return [*lines, f"measuring::measure({', '.join([text_literal(sample.name), *names])});"]
