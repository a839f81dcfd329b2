"""The steps of what is measured, in the words of a target."""

from __future__ import annotations

from collections.abc import Iterator

from urform.languages.testing.contract import Lines
from urform.languages.testing.steps import line
from urform.languages.testing.writer import StepWriter
from urform.plan.measuring import MADE, Sample
from urform.plan.walkthrough import Print


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
