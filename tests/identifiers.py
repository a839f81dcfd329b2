"""Declarations whose names are the identifiers of a target's own templates and support code.

A local variable, a parameter or a member of generated code that a declared name could meet is one of those.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from itertools import zip_longest
from pathlib import Path

from tests.data import Data
from tests.vocabulary import CONDITION_WORDS
from urform.languages.naming.names import pascal
from urform.plan.script import Claim

LANGUAGES = Path(__file__).parent.parent / "src/urform/languages"
# Not written into projects: what runs trials and tests.
DRIVERS = ("trials", "faults", "collect", "reporter", "begun", "clang-format")
CHUNK = 16  # words that stand beside each other

_OF_TEMPLATES = re.compile(r"^\s*%%.*$|«.*?»", re.MULTILINE)
_COMMENTS = re.compile(r'/\*.*?\*/|""".*?"""|(?:^|\s)(?://|#(?!\w)).*?$', re.DOTALL | re.MULTILINE)
_TEXTS = re.compile(r'"(?:\\.|[^"\\\n])*"' + r"|'(?:\\.|[^'\\\n])*'")
_BOUNDARY = re.compile(r"(?<=[a-z0-9])(?=[A-Z])|(?<=[A-Z])(?=[A-Z][a-z])|_+")
_NAME = re.compile(r"[a-z][a-z0-9]*(?:_[a-z0-9]+)*")
_TYPE = re.compile(r"[A-Z][A-Za-z0-9]+")


def identifiers(target: str) -> list[str]:
    """Every identifier of the templates and the support code of a target, as a declaration would write it."""
    return sorted({name for path in _written(LANGUAGES / target) for name in _names_in(path)})


def types(target: str) -> list[str]:
    """The same as products would be called, types of that code first: variables are called after products."""
    folder = LANGUAGES / target
    found = sorted({word for path in _written(folder) for word in _words_in(path) if _TYPE.fullmatch(word)})
    others = [word for word in map(pascal, identifiers(target)) if _TYPE.fullmatch(word)]
    return sorted({word.lower(): word for word in [*others, *found]}.values())


def _written(folder: Path) -> list[Path]:
    files = sorted([*folder.glob("templates/*"), *folder.glob("support/*")])
    return [path for path in files if not path.name.lower().startswith(DRIVERS) and path.is_file()]


def _words_in(path: Path) -> list[str]:
    text = path.read_text(encoding="utf-8")
    for part in (_OF_TEMPLATES, _COMMENTS, _TEXTS):
        text = part.sub(" ", text)
    return re.findall(r"[A-Za-z_]\w*", text)


def _names_in(path: Path) -> Iterator[str]:
    for word in _words_in(path):
        name = "_".join(filter(None, _BOUNDARY.split(word))).lower()
        if _NAME.fullmatch(name):
            yield name


def declared(words: Sequence[str]) -> Data:
    """A declaration that uses each word as a field, an element, of a field of that name too, an operation, a parameter, a
    role, a part of a key, a preset, an exemplar and a key of a registry."""
    chunks = [list(words[at : at + CHUNK]) for at in range(0, len(words) - 1, CHUNK)]  # of two at least
    chunks[-1] += words[-1:] if len(words) % CHUNK == 1 else []
    products: Data = {"Part": {"variants": {"Near": {}, "Far": {}}}}
    families: Data = {}
    for number, chunk in enumerate(chunks):
        beside = chunks[number - 1]
        products |= _products(number, chunk, beside)
        families[f"Fam{number}"] = {
            "makes": dict.fromkeys(chunk, "Part"),
            "members": {"One": dict.fromkeys(chunk, "Near"), "Two": dict.fromkeys(chunk, "Far")},
            "stand_in": True,
        }
    return {"urform": 1, "name": "identifiers", "products": products, "families": families}


OF_A_KEY = 4  # choices that a pool is asked by
TURNS = 8  # until each word was used in every way


def declared_types(words: Sequence[str], turn: int = 0) -> Data:
    """A declaration that uses each word as a product with operations, as a choice, a kind or a family, in turn."""
    products: Data = {"PartOfAll": {"variants": {"NearOfAll": {}, "FarOfAll": {}}}}
    choices: Data = {}
    families: Data = {}
    kinds: Data = {}
    for number, word in enumerate(words, turn):
        if number % 4 == 0:
            choices[word] = {"values": ["one", "two"]}
        elif number % 4 == 1:
            kinds[word] = {"optional": {f"own_{number}": "list<text>"}}
        elif number % TURNS == 2:
            families[word] = {
                "makes": {"part": "PartOfAll"},
                "members": {"One": {"part": "NearOfAll"}, "Two": {"part": "FarOfAll"}},
                "stand_in": True,
            }
        else:
            products[word] = _speaking(mutable=number % 4 == 3)
    fields = {f"chosen_{number}": choice for number, choice in enumerate(choices)}
    products["ChoosingAll"] = {"optional": fields, "builder": {}}
    names = list(choices)
    for at in range(0, len(names), OF_A_KEY):
        key = {f"part_{number}": choice for number, choice in enumerate(names[at : at + OF_A_KEY])}
        products[f"PooledAll{at}"] = {"required": key, "flyweight": {"key": list(key), "hold": "weak"}}
    parts = {f"part_{number}": word for number, word in enumerate(w for w in words if w in products)}
    families["MakesAll"] = {"makes": parts, "members": {"One": parts, "Two": parts}, "stand_in": True}
    registry = {"form": "registry"}
    products["KindOfAll"] = {"variants": kinds, "mutable": True, "prototype": {}, "factory": registry}
    return {"urform": 1, "name": "types", "choices": choices, "products": products, "families": families}


def _speaking(*, mutable: bool) -> Data:
    found: Data = {
        "mutable": mutable,
        "required": {"label": {"type": "text", "pattern": "[a-z]*"}},
        "optional": {
            "weights": "list<real>",
            "notes": "map<text to integer>",
            "grid": "list<list<integer>>",
            "site": "uri",
        },
        "operations": {"say": {"returns": "text"}},
        "prototype": {"exemplars": {"usual": {"label": "a"}}},
    }
    more: Data = (
        {"builder": {"presets": {"plain": {"label": "a"}}, "missing": "at_compile_time"}}
        if mutable
        else {"flyweight": {"key": ["label"]}}
    )
    return found | more


def _products(number: int, chunk: list[str], beside: list[str]) -> Data:
    half = len(chunk) // 2
    first, second = chunk[:half], chunk[half:]
    lists = {
        name: {
            "type": "list<integer>",
            "unique": True,
            "min_length": 2,
            "each": {"max": 1000},
            **({"item": item} if item else {}),
        }
        for name, item in zip_longest(second, first[: len(second)])
    }
    texts = dict.fromkeys(first, "text")
    whole = dict.fromkeys(first, "a")
    asked = next(name for name in first if name not in CONDITION_WORDS)
    return {
        f"Built{number}": {
            "mutable": True,
            "required": texts,
            "optional": lists,
            "builder": {
                "presets": dict.fromkeys(_apart(beside, chunk), whole),
                "missing": ("at_build", "at_compile_time")[number % 2],
            },
            "prototype": {"exemplars": dict.fromkeys(chunk, whole)},
        },
        f"Held{number}": {
            "required": {
                name: {
                    "type": "list<text>",
                    "each": {"not_blank": True, "pattern": ".+"},
                    **({"item": item} if item else {}),
                }
                for name, item in zip_longest(first, second[: len(first)])
            },
            "optional": {
                name: {"type": "date", "min": "2000-01-01"} if at % 2 else {"type": "integer", "min": 1}
                for at, name in enumerate(second)
            },
            "operations": {
                name: {"takes": dict.fromkeys(chunk[:8], "integer"), "returns": "text"}
                for name in _apart(beside, chunk)
            },
            "answers": dict.fromkeys(_apart(beside, chunk), "yes"),
        },
        f"Own{number}": {
            "required": {name: {"type": "list<integer>", "item": name} for name in first},
            "optional": {name: {"type": "set<text>", "item": name} for name in second},
            "builder": (
                {"style": "fluent", "missing": "at_compile_time"},
                {"style": "statements"},
                {"style": "fluent"},
            )[number % 3],
        },
        f"Pooled{number}": {
            "required": texts,
            "optional": {name: {"type": "integer", "default": 1} for name in second},
            "flyweight": {"key": chunk, "hold": ("strong", "weak")[number % 2]},
        },
        f"Kind{number}": {
            "required": {name: ("integer", "date", "uuid")[at % 3] for at, name in enumerate(first)},
            "optional": dict.fromkeys(second, "uri"),
            "variants": {f"KindA{number}": {"key": chunk[0]}, f"KindB{number}": {"key": chunk[-1]}},
            "factory": {"form": ("simple", "registry", "creators")[number % 3]},
        },
        f"Chosen{number}": {
            "variants": {
                f"ChosenA{number}": {
                    "required": dict.fromkeys(first, "real"),
                    "optional": dict.fromkeys(second, "text"),
                },
                f"ChosenB{number}": {"required": {asked: "real"}},
            },
            "factory": {
                "form": "by_values",
                "refuse": [f"{asked} < 0"],
                "choose": [{"use": f"ChosenA{number}", "when": f"{asked} > 5"}, {"use": f"ChosenB{number}"}],
            },
        },
    }


def _apart(some: Iterable[str], others: Iterable[str]) -> list[str]:
    taken = set(others)
    return [name for name in some if name not in taken]


def one_of_each(claims: Iterable[Claim]) -> Iterator[Claim]:
    """The first claim of each group of each product: all names are in its test, or in what it makes."""
    seen: set[tuple[str, str]] = set()
    for claim in claims:
        if (claim.owner, claim.group) not in seen:
            seen.add((claim.owner, claim.group))
            yield claim
