"""Problems of builders, prototypes and flyweights."""

from urform.declaration.problems import declared, kind

WANTS_ONE_PRODUCT = kind(
    "wants-one-product",
    "{product} has variants, and a {way} makes one product",
    "declare the {way} on a product without variants",
    "Builders and flyweights on products with variants are not part of format 1.",
    declared("""
    products:
      Mark:
        required: {station: integer, name: text, light: text}
        variants: {Buoy: {}, Beacon: {}}
        builder: {style: fluent}
    """),
)
EMPTY_BUILDER = kind(
    "empty-builder",
    "{product} has no fields, and its builder nothing to set",
    "drop the builder, or declare fields",
    "A builder collects the values of fields; without any, a constructor says all that there is to say.",
    declared("""
    products:
      Fog: {builder: {}}
    """),
)
MISSING_BY_STATEMENTS = kind(
    "missing-by-statements",
    "setters of {product}'s builder return nothing, and a compiler cannot follow what they were given",
    "write `style: fluent`, or drop `missing: at_compile_time`",
    "What was given is told by the type that a setter returns. A statement leaves the type of its variable as it is.",
    declared("""
    products:
      RefitPlan:
        required: {station: integer, berth: text, crew: integer}
        builder: {style: statements, missing: at_compile_time}
    """),
)
NOTHING_MISSING = kind(
    "nothing-missing",
    "{product} has no required field, and nothing can be missing at compile time",
    "drop `missing: at_compile_time`, or make a field required",
    "A compiler tells of required fields that were not given; optional ones have their defaults.",
    declared("""
    products:
      RefitPlan:
        optional: {station: integer, berth: text, crew: {type: integer, default: 1}}
        builder: {missing: at_compile_time}
    """),
)
MUTABLE_FLYWEIGHT = kind(
    "mutable-flyweight",
    "{product} is mutable and would be shared by everybody",
    "make it immutable, or drop the flyweight",
    "A change through one holder would reach all others, and part the instance from its key.",
    declared("""
    products:
      LightRhythm:
        mutable: true
        required: {code: text, period_ms: integer}
        flyweight: {key: [code]}
    """),
)
KEY_FIELD_TYPE = kind(
    "key-field-type",
    "'{field}' is {type}, and cannot be part of the key",
    "use fields of type text, integer, boolean or a choice",
    "Keys are looked up, so they need an equality and a hash that are the same in every language.",
    declared("""
    products:
      LightRhythm:
        required: {code: text, period: real}
        flyweight: {key: [code, period]}
    """),
)
KEY_FIELD_ABSENT = kind(
    "key-field-absent",
    "'{field}' may be absent, and cannot be part of the key",
    "move it to required, give it a default, or leave it out of the key",
    "What has no value cannot be looked up by it.",
    declared("""
    products:
      LightRhythm:
        required: {code: text, note: text}
        optional: {colour: text}
        flyweight: {key: [code, colour]}
    """),
)
KEY_FIELD_TWICE = kind(
    "key-field-twice",
    "'{field}' is part of the key already",
    "name it once",
    "A field twice in a key tells no more than once.",
    declared("""
    products:
      LightRhythm:
        required: {code: text, period_ms: integer}
        flyweight: {key: [code, code]}
    """),
)
