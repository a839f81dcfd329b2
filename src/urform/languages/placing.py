"""Where the files of a target go: into a project of their own, or into one that exists.

A target makes every file below the folders that its language is used to; `homes` names them. What a declaration says under
`targets:` moves them from there, or leaves them out.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from urform.dataclasses import dataclass

CODE, TESTS, BUILD, EXAMPLE = "code", "tests", "build", "example"  # the parts of a project

_PART = r"(?!\.{1,2}(?:/|$))[^/\\:*?\"<>|~\x00-\x1f]+"
_BELOW = rf"{_PART}(?:/{_PART})*"
NONE = "none"


@dataclass(frozen=True, slots=True)
class Setting:
    """A setting of a target under `targets:` of a declaration."""

    name: str
    pattern: re.Pattern[str]
    means: str


INTO = Setting(
    "into",
    re.compile(rf"\.|(?:\.\./)*\.\.|(?:\.\./)*{_BELOW}"),
    "a folder relative to the declaration, such as ../service",
)
CODE_IN = Setting("code", re.compile(rf"\.|{_BELOW}"), "a folder of the project, such as src")
TESTS_IN = Setting(
    "tests", re.compile(rf"\.|{_BELOW}"), "a folder of the project, such as tests/fairway, or none"
)
NO_TESTS = Setting("tests", re.compile(NONE), "none: the language keeps tests beside the code")
PROJECT = Setting("project", re.compile(f"whole|{NONE}"), "whole (with build files, the default) or none")
JSON = "json"


def json_setting(library: str, called: str) -> Setting:
    """The setting that asks for reading JSON text by a library of the language."""
    return Setting(JSON, re.compile(library), f"{library}, to read JSON text by {called}")


PLACING = (INTO, CODE_IN, TESTS_IN, PROJECT)


@dataclass(frozen=True, slots=True)
class Place:
    """Where a declaration wants the files of a target: the folders of parts in the project's, None for those that are
    left out."""

    folders: Mapping[str, str | None]

    def of(self, path: str, part: str, home: str) -> str | None:
        """Where a file of a part goes that is made below a home; None where it is left out."""
        folder = self.folders[part]
        if folder is None:
            return None
        below = path.removeprefix(f"{home}/") if home else path
        return f"{folder}/{below}" if folder else below


def place_of(settings: Mapping[str, str], homes: Mapping[str, str]) -> Place:
    """The place that settings ask for; what they leave open is where the language has it."""
    folders: dict[str, str | None] = {part: homes.get(part, "") for part in (CODE, TESTS, BUILD, EXAMPLE)}
    for part in (CODE, TESTS):
        if part in settings:
            folders[part] = "" if settings[part] == "." else settings[part]
    if settings.get("tests") == NONE:
        folders[TESTS] = None
    if settings.get("project") == NONE:
        folders[BUILD] = None
    return Place(folders)
