"""The walk-through client in Rust: an example of the crate."""

from __future__ import annotations

from collections.abc import Iterator

from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.rust.emitter import Emitter
from urform.languages.rust.expressions import text_literal
from urform.languages.rust.proof import Proof
from urform.languages.rust.writer import RESERVED, Writer
from urform.languages.target import File
from urform.plan.model import Plan
from urform.plan.operands import Failure
from urform.plan.variables import unused_in
from urform.plan.walkthrough import Line, Print, PrintCounts, PrintSame, Scene, scenes

PATH = "examples/walkthrough.rs"


class ExampleWriter(Writer):
    """Writes steps as a client does: what fails prints its reason."""

    good = "?"
    there = '.expect("it was given")'

    def refuses(self, call: str, failure: Failure) -> Iterator[str]:
        """A call that fails."""
        yield f"if let Err(error) = {call} {{"
        yield '    println!("  refused: {error}");'
        yield "}"

    def counted(self, role: str, listed: str, size: int) -> Iterator[str]:
        """It is shown by what is printed."""
        return iter(())

    def line(self, line: Line) -> Iterator[str]:
        """One line of a scene."""
        match line:
            case Print(words, shown):
                yield f'println!("  {_shown(words)}: {{{self.var(shown)}:?}}");'
            case PrintSame(left, right):
                yield f'println!("  the same object: {{}}", {self._same(left, right)});'
                alike = " == ".join(self.reference(var).removeprefix("&") for var in (left, right))
                yield f'println!("  equal: {{}}", {alike});'
            case PrintCounts(pool):
                name = self.var(pool)
                yield f'println!("  made {{}} and reused {{}}", {name}.made(), {name}.reused());'
            case _:
                self.scope.enter(line)
                yield from self.step(line)

    def _same(self, left: str, right: str) -> str:
        one, other = self.var(left), self.var(right)
        shared = self.code.variables[one].form == "arc"
        return f"{'Arc::ptr_eq' if shared else 'std::ptr::eq'}(&{one}, &{other})"


def _shown(words: str) -> str:
    """Words within a format string."""
    return text_literal(words)[1:-1].replace("{", "{{").replace("}", "}}")


def example_files(emitter: Emitter, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    proof = Proof(emitter, plan)
    proof.code.good = ExampleWriter.good
    found = scenes(plan)
    functions = [_function(proof, plan, scene) for scene in found]
    calls = "".join(f"    {_name(scene)}()?;\n" for scene in found)
    code = f"fn main() -> Creation<()> {{\n{calls}    Ok(())\n}}\n\n" + "\n".join(functions)
    laid_out = emitter.laid_out(code)
    doc = "//! Makes one of everything: cargo run --example walkthrough\n\n"
    return (File(PATH, f"{emitter.header.strip()}\n\n{doc}{proof.uses(laid_out)}{laid_out}"),)


def _name(scene: Scene) -> str:
    return f"show_{snake(scene.name)}"


def _function(proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = ExampleWriter(proof, Scope(plan, RESERVED | parameters_of_all(plan)))
    writer.begin([line for line in scene.lines if not isinstance(line, (Print, PrintSame, PrintCounts))])
    writer.unused = unused_in(scene.lines)
    lines = [f"fn {_name(scene)}() -> Creation<()> {{", f'    println!("{_shown(scene.title)}");']
    for line in scene.lines:
        lines += [f"    {written}" for written in writer.line(line)]
    return "\n".join([*lines, "    Ok(())", "}"]) + "\n"
