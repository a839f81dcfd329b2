"""The third stage: targets, each of which makes files of a plan. They register by entry point."""

from __future__ import annotations

from functools import cache
from importlib.metadata import entry_points

from urform.declaration.catalogue import targets as catalogue
from urform.declaration.model import Declaration
from urform.declaration.problems import Problem, Problems, did_you_mean
from urform.languages.target import Emission, File, Target, TestAddress

GROUP = "urform.languages"

__all__ = [
    "GROUP",
    "Emission",
    "File",
    "Target",
    "TestAddress",
    "known_targets",
    "setting_problems",
    "target",
]


@cache
def known_targets() -> tuple[str, ...]:
    """The names of the installed targets, in the order of their registration."""
    return tuple(dict.fromkeys(entry.name for entry in entry_points(group=GROUP)))


@cache
def target(name: str) -> Target:
    """A target by its name; KeyError when none is registered under it."""
    for entry in entry_points(group=GROUP):
        if entry.name == name:
            loaded = entry.load()
            if not isinstance(loaded, Target):
                raise TypeError(f"the entry point {GROUP}:{name} is no Target but {type(loaded).__name__}")
            return loaded
    raise KeyError(name)


def setting_problems(declaration: Declaration) -> tuple[Problem, ...]:
    """The problems under `targets:` of a declaration: only the targets themselves can tell."""
    problems = Problems()
    for name, options in declaration.targets.items():
        if name not in known_targets():
            hint = did_you_mean(name, known_targets())
            place = declaration.target_places[name]
            problems.add(catalogue.UNKNOWN_TARGET, place, name=name, known=tuple(known_targets()), hint=hint)
            continue
        json = target(name).json
        every = (*target(name).settings, *target(name).placing, *([json] if json is not None else []))
        settings = {setting.name: setting for setting in every}
        for option, (text, place) in options.items():
            setting = settings.get(option)
            if setting is None:
                hint, known = did_you_mean(option, settings), tuple(settings)
                spot = declaration.option_places[name][option]
                problems.add(
                    catalogue.UNKNOWN_SETTING, spot, option=option, target=name, known=known, hint=hint
                )
            elif not setting.pattern.fullmatch(text):
                problems.add(
                    catalogue.BAD_SETTING, place, option=option, target=name, text=text, means=setting.means
                )
            elif setting is json and declaration.records is None:
                problems.add(catalogue.JSON_WITHOUT_RECORDS, place, option=option, target=name)
        for option, means in (
            target(name).refused({option: text for option, (text, _) in options.items()}).items()
        ):
            text, place = options[option]
            problems.add(catalogue.BAD_SETTING, place, option=option, target=name, text=text, means=means)
    return problems.sorted()
