"""Problems of shape: unknown keys, missing keys, a list where a mapping is wanted."""

from urform.declaration.problems import declared, kind

UNKNOWN_KEY = kind(
    "unknown-key",
    "'{key}' is no key of this {what}.{hint}",
    "use one of: {known}",
    "A misspelt key would otherwise be ignored, and what it asks for with it.",
    declared("""
    products:
      Mark: {requires: {station: integer}}
    """),
)
MISSING_KEY = kind(
    "missing-key",
    "{where} lacks '{key}'",
    "add '{key}' to this {what}",
    "Some keys have no default that could be guessed.",
    "urform: 1\nproducts: {}\n",
)
WRONG_SHAPE = kind(
    "wrong-shape",
    "{where} has to be {wanted}, and is {found}",
    "write {wanted} here",
    "Each key of the format takes values of one shape.",
    declared("""
    products:
      Mark: {required: [station, position]}
    """),
)
NEEDS_QUOTES = kind(
    "needs-quotes",
    "{where} has to be a text, and is {found}",
    'put it in quotes: "{text}"',
    "YAML reads 7 as a number and true as a flag; in quotes both are texts.",
    declared("""
    products:
      Mark: {variants: {Buoy: {key: 7}, Beacon: {}}}
    """),
)
UNKNOWN_WORD = kind(
    "unknown-word",
    "'{word}' is no word for {where}.{hint}",
    "use one of: {words}{other}",
    "Here only a few words mean something.",
    declared("""
    products:
      Mark:
        variants: {Buoy: {}, Beacon: {}}
        factory: {form: registy}
    """),
)
TOO_SHALLOW = kind(
    "too-shallow",
    "'{key}' stands beside '{name}', and belongs into it",
    "indent it, so that it stands below '{name}'",
    "YAML tells by the indent what belongs to what.",
    declared("""
    products:
      Mark:
      required:
        station: integer
    """),
)
SPACE_MISSING = kind(
    "space-missing",
    "'{text}' is one word to YAML: a space is missing after the colon",
    "write `{key}: {value}`",
    "In YAML a colon ends a key only where a space or the end of the line follows.",
    declared("""
    products:
      Mark: {required: {station:integer}}
    """),
)
BAD_NAME = kind(
    "bad-name",
    "'{name}' is not {wanted}",
    "respell it: station, light_rhythm for lower_snake; Mark, LightRhythm for UpperCamel",
    """
    Fields, keys, operations, presets and exemplars are lower_snake; products, variants, choices, families and
    members are UpperCamel. Each language then writes them by its own convention.
    """,
    declared("""
    products:
      Mark: {required: {Station-Number: integer}}
    """),
)
LONG_NAME = kind(
    "long-name",
    "the name has {length} characters, and at most {most} are allowed",
    "find a shorter one",
    "Names become parts of file names, which systems limit to 255 bytes.",
    declared(f"products:\n  M{'a' * 90}: {{}}\n"),
)
NOTHING_IN_IT = kind(
    "nothing-in-it",
    "{where} is empty",
    "put at least one thing into it, or leave the key out",
    "An empty list of words, variants or members declares something that can never be made.",
    declared("""
    choices:
      Side: {values: []}
    """),
)
