"""What the build files of all targets have: who wrote them, and what builds leave behind."""

from __future__ import annotations

from urform.languages.placing import BUILD
from urform.languages.rendering.comments import plain
from urform.languages.target import File


def written_once(source: str) -> str:
    """The first line of a build file, for the sign of a comment to stand before."""
    return f"Written once by Urform from {plain(source)}; yours from now on."


def ignored(source: str, *folders: str) -> File:
    """What version control, and formatters that heed it, leave out: the folders that tools make."""
    lines = "".join(f"{folder}/\n" for folder in folders)
    return File(".gitignore", f"# {written_once(source)}\n{lines}", part=BUILD)
