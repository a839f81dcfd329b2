"""Problems of names and of the format number."""

from urform.declaration.problems import declared, kind

FORMAT_NUMBER = kind(
    "format-number",
    "this is format {number}, and this Urform reads format {known}",
    "write `urform: {known}`, or use the Urform that belongs to the file",
    "The number tells which rules the file was written by.",
    "urform: 2\nname: harbour\n",
)
NAME_TWICE = kind(
    "name-twice",
    "'{name}' is declared already, in line {line}",
    "rename one of them",
    """
    Choices, products, variants and families share one set of names, for they become types side by side; fields
    and operations of a product share another, inherited ones included. A builder adds one element of a list by its
    'item', so those of one product share a third.
    """,
    declared("""
    choices: {Side: {values: [port, starboard]}}
    products:
      Side: {required: {name: text}}
    """),
)
NAMES_MEET = kind(
    "names-meet",
    "'{name}' and '{other}' (line {line}) become one name in some language",
    "rename one of them",
    "`period_1` and `period1` are both period1 in camelCase; `TideLog` and `Tidelog` would share a file on some disks.",
    declared("""
    products:
      Mark: {required: {period_1: integer, period1: integer}}
    """),
)
