"""The walk-through client in Go: a command of the module."""

from __future__ import annotations

from urform.languages.go.context import Context
from urform.languages.go.expressions import text_literal
from urform.languages.go.names import KEYWORDS, PREDECLARED
from urform.languages.go.proof import Proof
from urform.languages.go.views import STYLE, qualifiers
from urform.languages.go.writer import Writer
from urform.languages.layout.engine import lay_out
from urform.languages.naming.names import camel, pascal
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.target import File
from urform.languages.testing.steps import line
from urform.plan.walkthrough import Scene, scenes
from urform.plan.whole import Plan

PATH = "examples/walkthrough/main.go"
TAKEN = KEYWORDS | PREDECLARED | {"fmt", "check", "unfailing", "err", "creator"}  # no names of variables


def example_files(context: Context, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    every_scene = scenes(plan)
    proof = Proof(context, plan)
    functions = [_function(context, proof, plan, scene) for scene in every_scene]
    calls = "".join(f"\t{_name(scene)}()\n" for scene in every_scene)
    code = f"func main() {{\n{calls}}}\n\n" + "\n".join(functions)
    for name, helper in HELPERS.items():
        code += helper if f"{name}(" in code else ""
    laid_out = lay_out(code, STYLE)
    header = (
        context.header + "// Command walkthrough makes one of everything: go run ./examples/walkthrough\n"
    )
    more = (context.imported,) if context.package in qualifiers(code) else ()
    return (File(PATH, context.whole(laid_out, header=header, package="main", more=more), part=EXAMPLE),)


HELPERS = {
    "anyOf": """
// anyOf returns a value of the map.
func anyOf[K comparable, T any](m map[K]T) (value T) {
\tfor _, value = range m {
\t\treturn value
\t}
\treturn value
}
""",
    "unfailing": """
// unfailing is for values that keep their limits.
func unfailing[T any](value T, err error) T {
\tcheck(err)
\treturn value
}
""",
    "check": """
func check(err error) {
\tif err != nil {
\t\tpanic(err)
\t}
}
""",
}


def _name(scene: Scene) -> str:
    return f"show{pascal(camel(scene.name))}"


def _function(context: Context, proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = Writer(proof, Scope(plan, TAKEN | {context.package} | parameters_of_all(plan)), prints=True)
    writer.begin(scene.lines)
    lines = [f"func {_name(scene)}() {{", f"\tfmt.Println({text_literal(scene.title)})"]
    for each in scene.lines:
        lines += ["\t" + written for written in line(writer, each)]
    return "\n".join([*lines, "}"]) + "\n"
