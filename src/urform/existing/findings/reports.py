"""Findings for programs: JSON, and SARIF 2.1.0 (OASIS), which code hosts and editors show."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from urllib.parse import quote

from urform.existing.auditing import Audit
from urform.existing.findings.finding import Finding, Kind, Proof
from urform.version import VERSION

SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"
FINGERPRINT = "urform/v1"


def as_json(audit: Audit) -> dict[str, object]:
    """The documented shape; see docs/json.md."""
    return {
        "version": 1,
        "files": audit.files,
        "bytes": audit.size,
        "kept": audit.kept,
        "known": audit.known,
        "broken": list(audit.broken),
        "findings": [_told(each) for each in audit.findings],
    }


def fingerprints(report: object) -> frozenset[str]:
    """Those of a report in JSON that was written before. Raises ValueError where it is none."""
    found = report.get("findings") if isinstance(report, Mapping) else None
    if not isinstance(found, list) or not all(
        isinstance(each, Mapping) and "fingerprint" in each for each in found
    ):
        raise ValueError("it has no findings")
    return frozenset(str(each["fingerprint"]) for each in found)


def _told(finding: Finding) -> dict[str, object]:
    return {
        "id": finding.id,
        "file": finding.region.file,
        "line": finding.region.line,
        "end_line": finding.region.end_line,
        "level": finding.level,
        "message": finding.message,
        "mend": finding.mend,
        "proof": [{"file": each.file, "line": each.line, "text": each.text} for each in finding.proof],
        "fingerprint": finding.fingerprint,
    }


def as_sarif(audit: Audit, kinds: Sequence[Kind]) -> dict[str, object]:
    """One run, with the kinds that were looked for as its rules."""
    numbers = {kind.id: number for number, kind in enumerate(kinds)}
    driver = {
        "name": "Urform",
        "version": VERSION,
        "rules": [_rule(kind) for kind in kinds],
    }
    results = [_result(each, numbers[each.id]) for each in audit.findings]
    return {"$schema": SCHEMA, "version": "2.1.0", "runs": [{"tool": {"driver": driver}, "results": results}]}


def _rule(kind: Kind) -> dict[str, object]:
    return {
        "id": kind.id,
        "shortDescription": {"text": kind.title},
        "fullDescription": {"text": kind.why},
        "defaultConfiguration": {"level": kind.level},
    }


def _result(finding: Finding, rule: int) -> dict[str, object]:
    return {
        "ruleId": finding.id,
        "ruleIndex": rule,
        "level": finding.level,
        "message": {"text": f"{finding.message}. Mend: {finding.mend}."},
        "locations": [_location(finding.region.file, finding.region.line, finding.region.end_line)],
        "relatedLocations": [_related(each, number) for number, each in enumerate(finding.proof, 1)],
        "partialFingerprints": {FINGERPRINT: finding.fingerprint},
    }


def _related(proof: Proof, number: int) -> dict[str, object]:
    return {"id": number, **_location(proof.file, proof.line, proof.line), "message": {"text": proof.text}}


def _location(file: str, line: int, end_line: int) -> dict[str, object]:
    path = Path(file)
    uri = path.as_uri() if path.is_absolute() else quote(path.as_posix())
    return {
        "physicalLocation": {
            "artifactLocation": {"uri": uri},
            "region": {"startLine": line, "endLine": end_line},
        }
    }
