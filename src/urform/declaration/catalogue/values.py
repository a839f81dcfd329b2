"""Problems of values: defaults, answers, presets, exemplars, values of family members."""

from urform.declaration.problems import declared, kind

FIELD_TWICE = kind(
    "field-twice",
    "the product has a field '{field}' already",
    "drop one of them, or use `defaults` to give an inherited field another default",
    "A field is either required or optional, and a variant inherits those of its base.",
    declared("""
    products:
      Mark: {required: {station: integer}, optional: {station: integer}}
    """),
)
VALUE_TYPE = kind(
    "value-type",
    "{found} is no {type}",
    "write a value of type {type}",
    "Values that are written in a declaration are checked when it is read, not when generated code runs.",
    declared("""
    products:
      Mark: {optional: {reflective: {type: boolean, default: 'yes'}}}
    """),
)
VALUE_LIMIT = kind(
    "value-limit",
    "the value is outside the limit {limit} of '{field}'",
    "choose a value within the limit, or change the limit",
    "A default, preset or exemplar passes the same limits as a caller's value; one that cannot would never be made.",
    declared("""
    products:
      RefitPlan: {optional: {crew: {type: integer, min: 1, default: 0}}}
    """),
)
NOT_TOLD = kind(
    "no-such-value",
    "{text!r} is not {wanted}",
    "write {wanted}",
    "A date is written as RFC 3339 has it, and has to be a day of the years 0001 to 9999: nothing is converted, and no day is "
    "carried over into the next month. An instant is written as RFC 3339 has it, with its offset, and at most six digits of a "
    "second. A time of day has its seconds. A duration is written as ISO 8601 has it, in weeks, or in days, hours, minutes and "
    "seconds. A decimal number has no exponent. A UUID has five groups of digits with hyphens between them, and nothing "
    "around them.",
    declared("""
    products:
      RefitPlan: {optional: {begun: {type: date, default: 2026-02-30}}}
    """),
)
INTEGER_RANGE = kind(
    "integer-range",
    "{number} is beyond 2^53 - 1",
    "stay within -9007199254740991 to 9007199254740991, or use text",
    "This is the range that JSON and every target hold exactly.",
    declared("""
    products:
      Mark: {optional: {number: {type: integer, default: 9007199254740992}}}
    """),
)
NOT_FINITE = kind(
    "not-finite",
    "a real has to be finite",
    "write a number",
    "NaN and the infinities are refused everywhere, so no default may be one.",
    declared("""
    products:
      Mark: {optional: {height: {type: real, default: .inf}}}
    """),
)
UNKNOWN_CHOICE = kind(
    "unknown-choice",
    "'{word}' is no word of {choice}.{hint}",
    "use one of: {words}",
    "A choice is a closed set of words.",
    declared("""
    choices: {Side: {values: [port, starboard]}}
    products:
      Mark: {optional: {side: {type: Side, default: prot}}}
    """),
)
VARIANT_NEEDED = kind(
    "variant-needed",
    "{product} is abstract: say which variant",
    "write {{use: VARIANT, …}} with one of: {names}",
    "A value of an abstract product names the variant that it is.",
    declared("""
    products:
      Mark: {variants: {Buoy: {}, Beacon: {}}}
      Berth: {optional: {mark: {type: Mark, default: {}}}}
    """),
)
NOT_A_VARIANT = kind(
    "not-a-variant",
    "'{name}' is no variant of {product}.{hint}",
    "use one of: {names}",
    "`use` names a variant that the product declares.",
    declared("""
    products:
      Mark:
        variants: {Buoy: {}, Beacon: {}}
        factory: {form: simple, unknown: {use: Bouy}}
    """),
)
MISSING_FIELD = kind(
    "missing-field",
    "{product} needs {fields} too",
    "give a value for each required field",
    "A product that is written down is whole, like one that a caller makes.",
    declared("""
    products:
      Chart: {required: {sheet: text}}
      Berth: {optional: {chart: {type: Chart, default: {}}}}
    """),
)
UNKNOWN_FIELD = kind(
    "unknown-field",
    "{product} has no field '{field}'.{hint}",
    "use one of: {known}",
    "Values are given by the names of the product's own and inherited fields.",
    declared("""
    products:
      RefitPlan:
        mutable: true
        required: {title: text, crew: integer, hours: real}
        builder: {presets: {spring: {crews: 4}}}
    """),
)
VALUE_REFUSED = kind(
    "value-refused",
    "these values of {product} are refused: {reason}",
    "write values that the factory of {product} makes something of",
    "A value that is written down is made through the same entry as a caller's, and would fail whenever the code is loaded.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {required: {centimetres: integer}}, NoOffset: {}}
        factory:
          form: by_values
          refuse: [centimetres < -500]
          choose: [{use: NoOffset, when: centimetres == 0}, {use: KnownOffset}]
      Gauge: {optional: {offset: {type: TideOffset, default: {centimetres: -501}}}}
    """),
)
HIDDEN_VARIANT = kind(
    "hidden-variant",
    "{product} is chosen by the values of {base}, and cannot be written by itself",
    "make the type {base}, whose factory chooses the variant",
    "The constructors of variants that are chosen by values are hidden: a value goes through the factory of their base.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {required: {centimetres: integer}}, NoOffset: {}}
        factory:
          form: by_values
          choose: [{use: NoOffset, when: centimetres == 0}, {use: KnownOffset}]
      Gauge: {optional: {offset: {type: KnownOffset, default: {centimetres: 5}}}}
    """),
)
