"""The walk-through client in TypeScript: a program beside the package."""

from __future__ import annotations

from functools import cached_property

from urform.languages.naming.names import camel
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import CODE, EXAMPLE
from urform.languages.target import File
from urform.languages.testing.steps import line
from urform.languages.typescript.expressions import text_literal
from urform.languages.typescript.layout import lay_out
from urform.languages.typescript.names import KEYWORDS
from urform.languages.typescript.project import Project
from urform.languages.typescript.proof import Proof
from urform.languages.typescript.views import identifiers
from urform.languages.typescript.writer import Writer
from urform.plan.walkthrough import Scene, scenes
from urform.plan.whole import Plan

PATH = "examples/walk-through.ts"
REFUSED = """function refused(call: () => unknown): void {
  try {
    call();
  } catch (error) {
    console.log("  refused:", (error as Error).message);
  }
}
"""


class ExampleProof(Proof):
    """The proof of an example: functions are called as they are exported, for it imports no helpers."""

    @cached_property
    def aliased(self) -> dict[str, str]:
        return {}


def example_files(project: Project, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    proof = ExampleProof(project, plan)
    every_scene = scenes(plan)
    functions = [_function(proof, plan, scene) for scene in every_scene]
    code = "\n".join(functions)
    refused = [REFUSED] if "refused(" in code else []
    calls = "".join(f"{_name(scene)}();\n" for scene in every_scene)
    body = "\n".join([*functions, *refused, calls])
    used = {name for name in identifiers(body) if name in project.exports}
    folder = project.context.place.folders[CODE]
    code = f"{folder}/" if folder else ""
    imports = "\n".join(project.import_lines(f"../{code}index.js", used, body))
    doc = "// Makes one of everything: npm run build && node dist/examples/walk-through.js\n"
    return (File(PATH, f"{project.header}{doc}\n{imports}\n\n{body}", part=EXAMPLE),)


def _name(scene: Scene) -> str:
    return f"show{camel(scene.name)[:1].upper()}{camel(scene.name)[1:]}"


def _function(proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = Writer(proof, Scope(plan, proof.taken | KEYWORDS | parameters_of_all(plan)), prints=True)
    writer.begin(scene.lines)
    lines = [f"function {_name(scene)}(): void {{", f"  console.log({text_literal(scene.title)});"]
    for each in scene.lines:
        lines += [f"  {written}" for written in line(writer, each)]
    return lay_out("\n".join([*lines, "}", ""]))
