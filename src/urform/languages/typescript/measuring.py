"""The program that measures, in TypeScript: a program beside the package."""

from __future__ import annotations

from collections.abc import Sequence

from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rendering.templates import support_file
from urform.languages.target import File
from urform.languages.testing.measuring import MakerForm, named_makers, setup_lines
from urform.languages.typescript.example import ExampleProof
from urform.languages.typescript.expressions import text_literal
from urform.languages.typescript.layout import lay_out
from urform.languages.typescript.names import KEYWORDS
from urform.languages.typescript.project import Project
from urform.languages.typescript.views import HERE, identifiers
from urform.languages.typescript.writer import Writer
from urform.plan.measuring import DEEP, SHALLOW, Sample
from urform.plan.whole import Plan

PATH = "examples/measure.ts"
MAKERS = MakerForm(
    name="make",
    begins="const «name» = () => {",
    gives="return «made»;",
    ends="};",
    copies={DEEP: "() => structuredClone(«of»)", SHALLOW: "() => ({ ...«of» })"},
    indent="  ",
)


def measuring_files(project: Project, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program, and what times and weighs."""
    proof = ExampleProof(project, plan)
    functions = [_function(proof, plan, number, sample) for number, sample in enumerate(samples)]
    calls = "".join(f"sample{number}();\n" for number, _ in enumerate(samples))
    body = "\n".join([*functions, f"mapRead();\n{calls}"])
    used = {name for name in identifiers(body) if name in project.exports}
    imports = "\n".join(project.import_lines("../src/index.js", used, body))
    helpers = ["mapRead", *(["measure"] if samples else [])]
    own = f'import {{ {", ".join(helpers)} }} from "./measuring.js";'
    return (
        File(PATH, f"{imports}\n{own}\n\n{body}", part=EXAMPLE),
        File("examples/measuring.ts", support_file(HERE / "support", "measuring.ts"), part=EXAMPLE),
    )


def _function(proof: ExampleProof, plan: Plan, number: int, sample: Sample) -> str:
    scope = Scope(plan, proof.taken | KEYWORDS | {"mapRead", "measure"} | parameters_of_all(plan))
    writer = Writer(proof, scope, prints=True)
    lines = [*setup_lines(writer, sample), *_makers(writer, sample)]
    return lay_out(
        "\n".join([f"function sample{number}(): void {{", *(f"  {line}" for line in lines), "}", ""])
    )


def _makers(writer: Writer, sample: Sample) -> list[str]:
    lines, names = named_makers(writer, sample, MAKERS)
    return [*lines, f"measure({', '.join([text_literal(sample.name), *names])});"]
