"""Results for programs: JSON in a documented, versioned shape, and JUnit XML."""

from __future__ import annotations

from typing import Any
from xml.etree import ElementTree

from urform.verification.results import FAILED, HELD, NOT_RUN, NOT_SHOWN, Verification

JSON_VERSION = 1


def as_json(verification: Verification) -> dict[str, Any]:
    """The shape of `verify --json`; docs/json.md describes it."""
    return {
        "version": JSON_VERSION,
        "name": verification.name,
        "targets": [
            {
                "name": run.target,
                "toolchain": run.version,
                "seconds": round(run.seconds, 3),
                "files": run.files,
                "lines": run.lines,
                "missing": list(run.missing),
                "broke": run.broke,
            }
            for run in verification.runs
        ],
        "claims": [
            {
                "id": claim.id,
                "text": claim.text,
                "results": {target: outcome.state for target, outcome in claim.outcomes.items()},
                "reasons": {t: o.reason for t, o in claim.outcomes.items() if o.reason and o.state != FAILED},
                "failures": [
                    {
                        "target": target,
                        "expected": outcome.expected,
                        "found": outcome.found,
                        "file": f"{target}/{outcome.file}",
                        "line": outcome.line,
                        "again": outcome.again,
                    }
                    for target, outcome in claim.outcomes.items()
                    if outcome.state == FAILED
                ],
            }
            for claim in verification.claims
        ],
    }


def as_junit(verification: Verification) -> str:
    """JUnit XML: a suite a target, a case a claim. What did not run is an error; what is held counts as passed."""
    root = ElementTree.Element("testsuites", name=f"urform {verification.name}")
    for run in verification.runs:
        states = {claim.id: claim.outcomes[run.target] for claim in verification.claims}
        suite = ElementTree.SubElement(
            root,
            "testsuite",
            name=run.target,
            tests=str(len(states)),
            failures=str(sum(outcome.state == FAILED for outcome in states.values())),
            errors=str(sum(outcome.state in (NOT_RUN, NOT_SHOWN) for outcome in states.values())),
            time=f"{run.seconds:.3f}",
        )
        for claim in verification.claims:
            outcome = claim.outcomes[run.target]
            case = ElementTree.SubElement(
                suite, "testcase", classname=f"{run.target}.{claim.group}", name=claim.id
            )
            if outcome.state == FAILED:
                failure = ElementTree.SubElement(
                    case, "failure", message=_clean(outcome.reason or claim.text)
                )
                place = f"{run.target}/{outcome.file}:{outcome.line}"
                failure.text = _clean(
                    f"expected: {outcome.expected}\nfound: {outcome.found}\n{place}\n{outcome.again}"
                )
            elif outcome.state in (NOT_RUN, NOT_SHOWN):
                ElementTree.SubElement(case, "error", message=_clean(f"{outcome.state}: {outcome.reason}"))
            elif outcome.state == HELD:
                ElementTree.SubElement(case, "system-out").text = _clean(
                    f"held by the language: {outcome.reason}"
                )
    ElementTree.indent(root)
    return ElementTree.tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _clean(text: str) -> str:
    """XML 1.0 has no way to write most control characters."""
    return "".join(
        char if char in "\t\n" or char.isprintable() else "\N{REPLACEMENT CHARACTER}" for char in text
    )
