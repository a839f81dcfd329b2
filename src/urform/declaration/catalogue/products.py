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
ANSWER_OF_ABSTRACT = kind(
    "answer-of-abstract",
    "{product} has variants, so each of them answers '{operation}'",
    "move the answer to the variants",
    "An abstract product has no instances that could answer.",
    declared("""
    products:
      Mark:
        operations: {chart_label: {returns: text}}
        answers: {chart_label: mark}
        variants: {Buoy: {}, Beacon: {}}
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
