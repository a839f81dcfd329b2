"""The walk-through client in C++: a program that uses the library."""

from __future__ import annotations

from urform.languages.cpp.expressions import text_literal
from urform.languages.cpp.proof import Proof
from urform.languages.cpp.sources import Sources
from urform.languages.cpp.views import laid_out
from urform.languages.cpp.writer import RESERVED, Writer
from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.target import File
from urform.languages.testing.steps import line
from urform.plan.walkthrough import Scene, scenes
from urform.plan.whole import Plan

PATH = "examples/walkthrough.cpp"


def example_files(sources: Sources, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    proof = Proof(sources, plan)
    every_scene = scenes(plan)
    functions = [_function(proof, plan, scene) for scene in every_scene]
    code = laid_out("\n".join(functions))
    calls = "".join(f"    {sources.context.namespace}::{_name(scene)}();\n" for scene in every_scene)
    main = f"int main() {{\n    std::cout << std::boolalpha;\n{calls}}}\n"
    space = sources.context.namespace
    body = f"namespace {space} {{\n\n{code}\n}} // namespace {space}\n\n{main}"
    doc = "// Makes one of everything: cmake -B build && cmake --build build && build/walkthrough\n\n"
    includes = sources.includes(f"{code}\nstd::cout")
    return (File(PATH, f"{sources.context.header.strip()}\n{doc}{includes}{body}", part=EXAMPLE),)


def _name(scene: Scene) -> str:
    return f"show_{snake(scene.name)}"


def _function(proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = Writer(proof, Scope(plan, RESERVED | parameters_of_all(plan)), prints=True)
    writer.begin(scene.lines)
    title = text_literal(f"{scene.title}\n")
    lines = [f"static void {_name(scene)}() {{", f"    std::cout << {title};"]
    for each in scene.lines:
        lines += [f"    {written}" for written in line(writer, each)]
    return "\n".join([*lines, "}"]) + "\n"
