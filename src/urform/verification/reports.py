"""Results for programs: JSON in a documented, versioned shape, and JUnit XML."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from xml.etree import ElementTree

from urform.verification.results import FAILED, HELD, NOT_RUN, NOT_SHOWN, Verification
from urform.verification.verdicts import ELSEWHERE, SURVIVED, Challenge, FaultResult, TrialsRun, Verdict
from urform.verification.verdicts import NOT_RUN as UNTRIED

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
                "known": run.known,
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
                place = f"{run.target}/{outcome.place}"
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


def challenge_json(result: Challenge) -> dict[str, Any]:
    """The shape of `challenge --json`; docs/json.md describes it."""
    return {
        "version": JSON_VERSION,
        "name": result.name,
        "seconds": round(result.seconds, 3),
        "shard": list(result.shard),
        "targets": [
            {
                "name": run.target,
                "toolchain": run.version,
                "seconds": round(run.seconds, 3),
                "tried": run.tried,
                "known": run.known,
                "missing": list(run.missing),
                "broke": run.broke,
            }
            for run in result.runs
        ],
        "faults": [
            {
                "id": fault.id,
                "claim": fault.claim,
                "text": fault.text,
                "verdicts": {target: verdict.state for target, verdict in fault.verdicts.items()},
                "reasons": {t: v.reason for t, v in fault.verdicts.items() if v.reason},
                "elsewhere": {t: list(v.elsewhere) for t, v in fault.verdicts.items() if v.elsewhere},
                "changes": {t: v.change for t, v in fault.verdicts.items() if v.change},
            }
            for fault in result.faults
        ],
    }


def challenge_from_json(shape: Mapping[str, Any]) -> Challenge:
    """A result as it was written. Raises KeyError, TypeError or ValueError where it is none."""
    if shape["version"] != JSON_VERSION:
        raise ValueError(f"version {shape['version']} is not known")
    faults = tuple(
        FaultResult(
            fault["id"],
            fault["claim"],
            fault["claim"].partition("/")[0],
            fault["text"],
            {
                target: Verdict(
                    state,
                    fault["reasons"].get(target, ""),
                    tuple(fault["elsewhere"].get(target, ())),
                    fault["changes"].get(target, ""),
                )
                for target, state in fault["verdicts"].items()
            },
        )
        for fault in shape["faults"]
    )
    runs = tuple(
        TrialsRun(
            run["name"],
            run["toolchain"],
            run["seconds"],
            run["tried"],
            run["known"],
            tuple(run["missing"]),
            broke=run["broke"],
        )
        for run in shape["targets"]
    )
    number, shards = shape["shard"]
    return Challenge(shape["name"], faults, runs, shape["seconds"], (number, shards))


def challenge_junit(result: Challenge) -> str:
    """JUnit XML: a suite a target, a case a fault. One that its own test did not catch is a failure."""
    root = ElementTree.Element("testsuites", name=f"urform challenge {result.name}")
    for run in result.runs:
        suite = ElementTree.SubElement(
            root,
            "testsuite",
            name=run.target,
            tests=str(len(result.faults)),
            failures=str(sum(result.count(run.target, state) for state in (SURVIVED, ELSEWHERE))),
            errors=str(result.count(run.target, UNTRIED)),
            time=f"{run.seconds:.3f}",
        )
        for fault in result.faults:
            verdict = fault.verdicts[run.target]
            case = ElementTree.SubElement(
                suite, "testcase", classname=f"{run.target}.{fault.group}", name=fault.id
            )
            if verdict.state in (SURVIVED, ELSEWHERE):
                failure = ElementTree.SubElement(
                    case, "failure", message=_clean(f"{verdict.state}: {fault.text}")
                )
                failure.text = _clean("\n".join([*verdict.elsewhere, verdict.change]))
            elif verdict.state == UNTRIED:
                ElementTree.SubElement(case, "error", message=_clean(f"not run: {verdict.reason}"))
            elif verdict.reason:
                ElementTree.SubElement(case, "system-out").text = _clean(f"{verdict.state}: {verdict.reason}")
    ElementTree.indent(root)
    return ElementTree.tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _clean(text: str) -> str:
    """XML 1.0 has no way to write most control characters."""
    return "".join(
        char if char in "\t\n" or char.isprintable() else "\N{REPLACEMENT CHARACTER}" for char in text
    )
