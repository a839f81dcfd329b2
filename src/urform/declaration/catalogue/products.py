"""Problems of products as wholes."""

from urform.declaration.problems import declared, kind

NO_SUCH_DEFAULT = kind(
    "no-such-default",
    "{base} has no optional field '{field}'.{hint}",
    "use one of: {known}",
    "`defaults` of a variant gives inherited optional fields another default.",
    declared("""
    products:
      Mark:
        optional: {reflective: {type: boolean, default: true}}
        variants: {Beacon: {defaults: {reflectiv: false}}}
    """),
)
ANSWER_OF_NOTHING = kind(
    "answer-of-nothing",
    "'{operation}' returns nothing, so there is nothing to answer",
    "drop the answer, or say what it returns",
    "What an operation does is yours to write; an answer is a value that it returns.",
    declared("""
    products:
      Mark:
        operations: {announce: {}}
        answers: {announce: mark}
    """),
)
ONCE_WITHOUT_VARIANTS = kind(
    "once-without-variants",
    "{product} has no variants, so '{operation}' is written once anyway",
    "drop `once`",
    "`once` is for what all variants of a product do alike.",
    declared("""
    products:
      Mark: {operations: {describe: {returns: text, once: true}}}
    """),
)
NO_SUCH_OPERATION = kind(
    "no-such-operation",
    "{product} has no operation '{operation}'.{hint}",
    "use one of: {known}",
    "`answers` gives constant answers to operations that the product declares or inherits.",
    declared("""
    products:
      Mark:
        operations: {chart_label: {returns: text}}
        answers: {chart_lable: mark}
    """),
)
SINGLE_WITH_FIELDS = kind(
    "single-with-fields",
    "{product} is single and cannot have fields: {fields}",
    "drop `single`, or the fields; a flyweight is one instance per key",
    "There is one instance only, so no two could differ in a field.",
    declared("""
    products:
      NoOffset: {single: true, required: {centimetres: integer}}
    """),
)
SINGLE_ABSTRACT = kind(
    "single-abstract",
    "{product} has variants and no instance of its own",
    "make the variants single",
    "Only a product that is made can be the only one.",
    declared("""
    products:
      TideOffset: {single: true, variants: {NoOffset: {}, KnownOffset: {}}}
    """),
)
SINGLE_MUTABLE = kind(
    "single-mutable",
    "{product} is single and cannot be mutable",
    "drop one of the two",
    "A single product has no fields, so there is nothing to change.",
    declared("""
    products:
      NoOffset: {single: true, mutable: true}
    """),
)
BAD_KEY = kind(
    "bad-key",
    "a key of {variant} is empty, longer than {most} characters, or has a control character",
    "use a text of 1 to {most} characters, such as T1 or WX-811",
    "Keys are compared, listed and told in messages: nothing in them may be invisible or endless.",
    declared("""
    products:
      Mark: {variants: {Buoy: {key: "T\\t1"}, Beacon: {}}}
    """),
)
KEY_AND_KEYS = kind(
    "key-and-keys",
    "`key` and `keys` say the same thing twice",
    "list all type codes in `keys`, the one that is read back first",
    "`key: T1` is short for `keys: [T1]`.",
    declared("""
    products:
      Mark: {variants: {Buoy: {key: T1, keys: [T2, T3]}, Beacon: {}}}
    """),
)
KEY_TWICE = kind(
    "key-twice",
    "the key '{key}' of {variant} belongs to {other} already",
    "give one of them another key",
    "A key names one variant; of two, one could never be made.",
    declared("""
    products:
      Mark: {variants: {Buoy: {key: mark}, Beacon: {key: mark}}}
    """),
)
