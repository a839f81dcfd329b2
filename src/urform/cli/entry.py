"""Where the command starts. The version is told without importing anything that takes time."""

from __future__ import annotations

import sys

INTERRUPTED = 130


def main() -> None:
    """Run the command line; the process ends with its exit status."""
    if sys.argv[1:] == ["--version"]:
        from urform.version import VERSION

        print(f"urform {VERSION}")
        return
    import gc

    from urform.cli.app import app

    # A short process that builds large trees and drops few circles: collecting them costs more than it frees.
    gc.disable()
    try:
        app(prog_name="urform")
    except SystemExit as ended:
        if ended.code == INTERRUPTED:  # what Typer makes of the interrupt, without a word
            print("interrupted; nothing was left half done", file=sys.stderr)
        raise
    except Exception as error:
        sys.exit(_unexpected(error))


def _unexpected(error: Exception) -> int:
    """A defect of Urform: two lines for the person, the details in a file."""
    import tempfile
    import traceback

    with tempfile.NamedTemporaryFile(
        "w", prefix="urform-failure-", suffix=".txt", delete=False, encoding="utf-8"
    ) as file:
        traceback.print_exception(error, file=file)
    said = " ".join(str(error).split())
    print(f"urform failed, and it is not your fault: {type(error).__name__}: {said}", file=sys.stderr)
    print(
        f"Please report it with your declaration and {file.name}, which holds the details.", file=sys.stderr
    )
    return 3
