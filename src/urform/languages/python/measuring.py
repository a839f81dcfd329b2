"""The program that measures, in Python: each sample a function, its makers functions in it."""

from __future__ import annotations

from collections.abc import Sequence

from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.python.example import TAKEN, ExampleProof
from urform.languages.python.expressions import text_literal
from urform.languages.python.layout import lay_out
from urform.languages.python.project import Project
from urform.languages.python.proof import spaced, told_imports
from urform.languages.python.views import HERE, identifiers, import_line
from urform.languages.python.writer import Writer
from urform.languages.rendering.templates import support_file
from urform.languages.target import File
from urform.languages.testing.measuring import MakerForm, named_makers, setup_lines
from urform.plan.measuring import DEEP, SHALLOW, Sample
from urform.plan.whole import Plan

PATH = "examples/measure.py"
MAKERS = MakerForm(
    name="make_",
    begins="def «name»() -> object:",
    gives="return «made»",
    ends="",
    copies={DEEP: "lambda: copy.deepcopy(«of»)", SHALLOW: "lambda: copy.copy(«of»)"},
)


def measuring_files(project: Project, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program, and what times and weighs."""
    functions = [_function(project, plan, number, sample) for number, sample in enumerate(samples)]
    calls = "".join(f"    sample_{number}()\n" for number, _ in enumerate(samples))
    functions.append(f'if __name__ == "__main__":\n    map_read()\n{calls}')
    code = "\n\n".join(functions)
    used = identifiers(code)
    names = [name for name in project.exports if name in used]
    imports = ["import copy", told_imports(code).rstrip("\n")]
    imports += [import_line(project.package, names)] if names else []
    imports += [import_line("examples.measuring", ["map_read", *(["measure"] if samples else [])])]
    head = "\n".join(line for line in imports if line)
    return (
        File(PATH, f"{head}\n\n\n{code}", part=EXAMPLE),
        File("examples/measuring.py", support_file(HERE / "support", "measuring.py"), part=EXAMPLE),
    )


def _function(project: Project, plan: Plan, number: int, sample: Sample) -> str:
    scope = Scope(plan, TAKEN | {"copy", "map_read", "measure", *project.exports} | parameters_of_all(plan))
    writer = Writer(ExampleProof(project, plan), scope, prints=True)
    setup = list(setup_lines(writer, sample))
    lines = [
        f"def sample_{number}() -> None:",
        *(f"    {line}" for line in [*setup, *_makers(writer, sample)]),
    ]
    return lay_out("\n".join(spaced(lines)) + "\n")


def _makers(writer: Writer, sample: Sample) -> list[str]:
    lines, names = named_makers(writer, sample, MAKERS)
    return [*lines, f"measure({', '.join([text_literal(sample.name), *names])})"]
