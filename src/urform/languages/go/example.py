"""The walk-through client in Go: a command of the module."""

from __future__ import annotations

from collections.abc import Iterator

from urform.languages.go.emitter import STYLE, Emitter
from urform.languages.go.expressions import text_literal
from urform.languages.go.names import KEYWORDS, PREDECLARED
from urform.languages.go.proof import Proof
from urform.languages.go.writer import Writer
from urform.languages.layout.engine import lay_out
from urform.languages.naming.names import camel, pascal
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.target import File
from urform.plan.making_steps import Clone
from urform.plan.model import Plan
from urform.plan.operands import Failure
from urform.plan.variables import unused_in
from urform.plan.walkthrough import Line, Print, PrintCounts, PrintSame, Scene, scenes

PATH = "examples/walkthrough/main.go"
TAKEN = KEYWORDS | PREDECLARED | {"fmt", "check", "unfailing", "err", "creator"}  # no names of variables


class ExampleWriter(Writer):
    """Writes steps as a client does: what fails prints its reason."""

    good = "check(err)"

    def refuses(self, failure: Failure) -> str:
        """What became of a call that fails."""
        return 'fmt.Println("  refused:", err)'

    def succeeded(self, call: str) -> str:
        """A call that gives an error only, and none here."""
        return f"check({call})"

    def found(self, name: str, wanted: bool) -> Iterator[str]:
        """Whether a lookup found something: shown by what it prints."""
        yield f"_ = {name}"

    def counted(self, what: str, listed: str, size: int) -> Iterator[str]:
        """It is shown by what is printed."""
        return iter(())

    def line(self, line: Line) -> Iterator[str]:
        """One line of a scene."""
        match line:
            case Print(words, shown):
                yield f"fmt.Println({text_literal(f'  {words}:')}, {self.var(shown)})"
            case PrintSame(left, right):
                one, other = self.var(left), self.var(right)
                yield f'fmt.Println("  the same object:", {one} == {other})'
                yield f'fmt.Println("  equal:", {one}.Equal({other}))'
            case PrintCounts(pool):
                name = self.var(pool)
                yield f'fmt.Println("  made", {name}.Made(), "and reused", {name}.Reused())'
            case Clone(var, original):
                self.scope.enter(line)
                yield f"{self.var(var)} := {self.var(original)}.Clone()"
            case _:
                self.scope.enter(line)
                yield from self.step(line)


def example_files(emitter: Emitter, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    found = scenes(plan)
    proof = Proof(emitter, plan)
    functions = [_function(emitter, proof, plan, scene) for scene in found]
    calls = "".join(f"\t{_name(scene)}()\n" for scene in found)
    code = f"func main() {{\n{calls}}}\n\n" + "\n".join(functions)
    for name, helper in HELPERS.items():
        code += helper if f"{name}(" in code else ""
    laid_out = lay_out(code, STYLE)
    header = (
        emitter.header + "// Command walkthrough makes one of everything: go run ./examples/walkthrough\n"
    )
    more = (proof.imported,) if proof.at in code else ()
    return (File(PATH, emitter.whole(laid_out, header=header, package="main", more=more)),)


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


def _function(emitter: Emitter, proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = ExampleWriter(proof, Scope(plan, TAKEN | {emitter.package} | parameters_of_all(plan)))
    writer.unused = unused_in(scene.lines)
    lines = [f"func {_name(scene)}() {{", f"\tfmt.Println({text_literal(scene.title)})"]
    for line in scene.lines:
        lines += ["\t" + written for written in writer.line(line)]
    return "\n".join([*lines, "}"]) + "\n"
