"""The program that measures, in Java: one class beside those of the package."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from urform.languages.java.example import JAVA_LANG
from urform.languages.java.expressions import text_literal
from urform.languages.java.names import IMPORTS, KEYWORDS
from urform.languages.java.project import Project
from urform.languages.java.proof import Proof
from urform.languages.java.views import HERE, STYLE, identifiers, tidy
from urform.languages.java.writer import Writer
from urform.languages.layout.engine import lay_out
from urform.languages.naming.scope import Scope, parameters_of_all
from urform.languages.placing import EXAMPLE
from urform.languages.rendering.templates import support_file
from urform.languages.target import File
from urform.languages.testing.measuring import maker_lines, own_samples, setup_lines
from urform.plan.measuring import Sample
from urform.plan.whole import Plan

PATH = "examples/Measure.java"
TAKEN = KEYWORDS | {"asked", "kept"}


def measuring_files(project: Project, plan: Plan, samples: Sequence[Sample]) -> tuple[File, ...]:
    """The program. Java copies nothing by itself."""
    own = own_samples(samples, ())
    calls = "".join(f"        sample{number}();\n" for number, _ in enumerate(own))
    methods = [_method(project, plan, number, sample) for number, sample in enumerate(own)]
    head = (
        "final class Measure {\n    private Measure() {}\n\n"
        "    public static void main(String[] arguments) {\n        asked = arguments;\n        mapRead();\n"
        + f"{calls}    }}\n\n"
    )
    code = tidy(lay_out(head + "\n".join(methods) + "}\n", STYLE))
    body = code.rstrip().removesuffix("}") + "\n" + support_file(HERE / "support", "measuring.java") + "}\n"
    used = identifiers(code)
    standard = [f"import {path};" for name, path in IMPORTS.items() if name in used]
    both = JAVA_LANG & used & set(map(project.names.type, plan.products))
    package = [f"import {project.package}.{name};" for name in ("*", *both)]
    return (File(PATH, "\n".join(sorted([*standard, *package])) + "\n\n" + body, part=EXAMPLE),)


def _method(project: Project, plan: Plan, number: int, sample: Sample) -> str:
    writer = Writer(Proof(project, plan), Scope(plan, TAKEN | parameters_of_all(plan)), prints=True)
    lines = [*setup_lines(writer, sample), *_makers(writer, sample)]
    return "\n".join(
        [f"    private static void sample{number}() {{", *(f"        {line}" for line in lines), "    }\n"]
    )


def _makers(writer: Writer, sample: Sample) -> Iterator[str]:
    makers = list(maker_lines(writer, sample))
    yield f"measure({text_literal(sample.name)},"
    for number, (steps, made) in enumerate(makers, 1):
        yield "        () -> {"
        yield from (f"            {line}" for line in steps)
        yield f"            return {made};"
        yield f"        }}{',' if number < len(makers) else ');'}"
