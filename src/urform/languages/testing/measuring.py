"""The steps of what is measured, in the words of a target."""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping, Sequence

from urform.dataclasses import dataclass
from urform.languages.testing.contract import Lines
from urform.languages.testing.steps import line
from urform.languages.testing.writer import StepWriter
from urform.plan.measuring import MADE, Sample
from urform.plan.walkthrough import Print


@dataclass(frozen=True, slots=True)
class MakerForm:
    """How a target writes a maker that has a name. `«name»`, `«made»` and `«of»` stand for what they say.

    `copies` are expressions for what the language copies by itself, by the way of copying.
    """

    name: str  # of the makers; their number follows
    begins: str
    gives: str
    ends: str  # empty where indentation ends it
    copies: Mapping[str, str]
    indent: str = "    "


def own_samples(samples: Sequence[Sample], copies: Container[str]) -> list[Sample]:
    """Those that a language has which copies by itself in these ways only."""
    return [sample for sample in samples if not sample.original or sample.way in copies]


def setup_lines(writer: StepWriter, sample: Sample) -> Lines:
    """What is there before the first is made."""
    steps = [step for maker in sample.makers for step in maker]
    writer.begin([*sample.setup, *steps, Print(sample.original or MADE, sample.original or MADE)])
    for step in sample.setup:
        yield from line(writer, step)


def maker_lines(writer: StepWriter, sample: Sample) -> Iterator[tuple[list[str], str]]:
    """For each maker its lines, and the variable that they leave."""
    for maker in sample.makers:
        writer.begin([*sample.setup, *maker, Print(MADE, MADE)])
        lines = [written for step in maker for written in line(writer, step)]
        yield lines, writer.var(MADE)


def named_makers(writer: StepWriter, sample: Sample, form: MakerForm) -> tuple[list[str], list[str]]:
    """The lines that define the makers, and the expressions to hand over."""
    if sample.original:
        return [], [form.copies[sample.way].replace("«of»", writer.var(sample.original))]
    lines, names = [], []
    for number, (steps, made) in enumerate(maker_lines(writer, sample)):
        name = f"{form.name}{number}"
        names.append(name)
        lines.append(form.begins.replace("«name»", name))
        lines += [f"{form.indent}{each}" for each in [*steps, form.gives.replace("«made»", made)]]
        lines += [form.ends] if form.ends else []
    return lines, names
