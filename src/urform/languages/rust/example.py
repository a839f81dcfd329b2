"""The walk-through client in Rust: an example of the crate."""

from __future__ import annotations

from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rust.context import Context
from urform.languages.rust.proof import Proof
from urform.languages.rust.views import laid_out
from urform.languages.rust.writer import RESERVED, Writer, in_format
from urform.languages.target import File
from urform.languages.testing.steps import line
from urform.plan.walkthrough import Scene, scenes
from urform.plan.whole import Plan

PATH = "examples/walkthrough.rs"


def example_files(context: Context, plan: Plan) -> tuple[File, ...]:
    """The program, one function a scene."""
    proof = Proof(context, plan)
    proof.code.good = "?"
    every_scene = scenes(plan)
    functions = [_function(proof, plan, scene) for scene in every_scene]
    calls = "".join(f"    {_name(scene)}()?;\n" for scene in every_scene)
    code = f"fn main() -> Creation<()> {{\n{calls}    Ok(())\n}}\n\n" + "\n".join(functions)
    code = laid_out(code)
    doc = "//! Makes one of everything: cargo run --example walkthrough\n\n"
    return (File(PATH, f"{context.header.strip()}\n\n{doc}{proof.uses(code)}{code}", part=EXAMPLE),)


def _name(scene: Scene) -> str:
    return f"show_{snake(scene.name)}"


def _function(proof: Proof, plan: Plan, scene: Scene) -> str:
    writer = Writer(proof, Scope(plan, RESERVED | parameters_of_all(plan)), prints=True)
    writer.begin(scene.lines)
    lines = [f"fn {_name(scene)}() -> Creation<()> {{", f'    println!("{in_format(scene.title)}");']
    for each in scene.lines:
        lines += [f"    {written}" for written in line(writer, each)]
    return "\n".join([*lines, "    Ok(())", "}"]) + "\n"
