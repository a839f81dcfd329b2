"""All kinds of findings."""

from __future__ import annotations

from urform.existing.findings import (
    clone_shares,
    same_switch_twice,
    swappable_arguments,
    type_switch,
    unknown_gives_nothing,
    wrong_branch,
)

KINDS = {
    module.KIND.id: module.KIND
    for module in (
        wrong_branch,
        clone_shares,
        same_switch_twice,
        unknown_gives_nothing,
        swappable_arguments,
        type_switch,
    )
}
