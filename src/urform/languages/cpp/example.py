"""The walk-through client in C++: a program that uses the library."""

from __future__ import annotations

from collections.abc import Iterator

from urform.languages.cpp.emitter import Emitter
from urform.languages.cpp.expressions import text_literal
from urform.languages.cpp.proof import Proof
from urform.languages.cpp.writer import RESERVED, Writer
from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.target import File
from urform.plan.model import Plan
from urform.plan.operands import Failure
from urform.plan.variables import unused_in
from urform.plan.walkthrough import Line, Print, PrintCounts, PrintSame, Scene, scenes

PATH = "examples/walkthrough.cpp"


class ExampleWriter(Writer):
    """Writes steps as a client does: what fails prints its reason."""

    def refuses(self, call: str, failure: Failure) -> Iterator[str]:
        """A call that fails."""
        yield "try {"
        yield f"    static_cast<void>({call});"
        yield "} catch (const CreationError &error) {"
        yield "    std::cout << \"  refused: \" << error.what() << '\\n';"
        yield "}"

    def counted(self, listed: str, size: int) -> Iterator[str]:
        """It is shown by what is printed."""
        return iter(())

    def line(self, line: Line) -> Iterator[str]:
        """One line of a scene."""
        match line:
            case Print(words, shown):
                yield f"std::cout << {text_literal(f'  {words}: ')} << {self.reference(shown)} << '\\n';"
            case PrintSame(left, right):
                one, other = (self.reference(var) for var in (left, right))
                yield f"std::cout << \"  the same object: \" << (&{one} == &{other}) << '\\n';"
                yield f"std::cout << \"  equal: \" << ({one} == {other}) << '\\n';"
            case PrintCounts(pool):
                name = self.var(pool)
                counts = f'<< {name}.made() << " and reused " << {name}.reused()'
                yield f"std::cout << \"  made \" {counts} << '\\n';"
            case _:
                self.scope.enter(line)
                yield from self.step(line)


def example_files(emitter: Emitter, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    proof = Proof(emitter, plan)
    found = scenes(plan)
    functions = [_function(proof, plan, scene) for scene in found]
    code = emitter.laid_out("\n".join(functions))
    calls = "".join(f"    {emitter.namespace}::{_name(scene)}();\n" for scene in found)
    main = f"int main() {{\n    std::cout << std::boolalpha;\n{calls}}}\n"
    space = emitter.namespace
    body = f"namespace {space} {{\n\n{code}\n}} // namespace {space}\n\n{main}"
    doc = "// Makes one of everything: cmake -B build && cmake --build build && build/walkthrough\n\n"
    includes = emitter.includes(f"{code}\nstd::cout")
    return (File(PATH, f"{emitter.header.strip()}\n{doc}{includes}{body}"),)


def _name(scene: Scene) -> str:
    return f"show_{snake(scene.name)}"


def _function(proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = ExampleWriter(proof, Scope(plan, RESERVED | parameters_of_all(plan)))
    writer.begin([line for line in scene.lines if not isinstance(line, (Print, PrintSame, PrintCounts))])
    writer.unused = unused_in(scene.lines)
    title = text_literal(f"{scene.title}\n")
    lines = [f"static void {_name(scene)}() {{", f"    std::cout << {title};"]
    for line in scene.lines:
        lines += [f"    {written}" for written in writer.line(line)]
    return "\n".join([*lines, "}"]) + "\n"
