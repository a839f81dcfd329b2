"""Problems of fields: limits, defaults, ownership."""

from urform.declaration.problems import declared, kind

MISPLACED_LIMIT = kind(
    "misplaced-limit",
    "'{limit}' does not go with {type}",
    "numbers, dates, times and durations take min, max, above, below; texts not_blank and pattern; texts and collections "
    "lengths; texts "
    "and integers one_of; collections each; lists of texts, integers or words unique",
    "A limit that means nothing for a type would be ignored in every language.",
    declared("""
    products:
      Mark: {required: {name: {type: text, min: 3}}}
    """),
)
BAD_BOUND = kind(
    "bad-bound",
    "{bound} is no bound for '{limit}': it has to be {wanted}",
    "write {wanted}",
    "Bounds are finite, whole for integers and lengths, and lengths are not negative.",
    declared("""
    products:
      Mark: {required: {name: {type: text, max_length: -1}}}
    """),
)
BAD_PATTERN = kind(
    "bad-pattern",
    "this is no pattern: {why}",
    "write I-Regexp (RFC 9485), in single quotes so that YAML leaves it alone: pattern: '[A-Z]+[0-9]?'",
    "Regular expressions differ from language to language; I-Regexp is what they have in common, and means one thing.",
    declared("""
    products:
      Mark: {required: {call_sign: {type: text, pattern: '^[A-Z]+'}}}
    """),
)
NO_VALUE_LEFT = kind(
    "no-value-left",
    "of '{field}', {of} no value at all",
    "widen the limits",
    "A field that no value fits can never be given, and a product that requires it never made.",
    declared("""
    products:
      Mark: {required: {station: {type: integer, min: 10, max: 5}}}
    """),
)
DEFAULT_ON_REQUIRED = kind(
    "default-on-required",
    "'{field}' is required, so its default is never used",
    "move the field to optional, or drop the default",
    "A default says what holds when a field is not given; a required field always is.",
    declared("""
    products:
      Mark: {required: {station: {type: integer, default: 1}}}
    """),
)
MISPLACED_ITEM = kind(
    "misplaced-item",
    "'{field}' is {type} and has no items to name",
    "drop `item`, or make the field a collection",
    "`item` names one element, for the adder of a builder.",
    declared("""
    products:
      Mark: {required: {name: {type: text, item: letter}}}
    """),
)
FRESH_REQUIRED = kind(
    "fresh-required",
    "'{field}' is required, so a clone cannot start without it",
    "make the field optional, or drop `copy: fresh`",
    "A clone starts a fresh field from its default, empty or absent.",
    declared("""
    products:
      RefitPlan: {mutable: true, required: {serial: {type: integer, copy: fresh}}}
    """),
)
SECRET_OF_NO_TEXT = kind(
    "secret-of-no-text",
    "'{field}' is {type}, and only texts can be secret",
    "drop `secret`, or make it a text",
    "A secret is left out of messages; numbers and words say little, and products have fields of their own.",
    declared("""
    products:
      Berth: {required: {number: {type: integer, secret: true}}}
    """),
)
COPY_OF_SCALAR = kind(
    "copy-of-scalar",
    "'{field}' is {type}, which has no depth: `copy: {copy}` means nothing there",
    "drop it, or use `copy: fresh`",
    "Scalars and words are copied as they are; only fresh makes a difference.",
    declared("""
    products:
      RefitPlan: {mutable: true, required: {title: {type: text, copy: deep}}}
    """),
)
SHALLOW_WITHOUT_CONTAINER = kind(
    "shallow-without-container",
    "'{field}' is one {type}, and shallow is about containers",
    "use `copy: shared` for the same object, or deep for an own one",
    "Shallow means: own container, the same elements.",
    declared("""
    products:
      Chart: {required: {sheet: text}}
      RefitPlan: {mutable: true, required: {chart: {type: Chart, copy: shallow}}}
    """),
)
ALWAYS_SHARED = kind(
    "always-shared",
    "{product} is a flyweight or single, and those are always shared",
    "drop `copy: deep`",
    "A deep copy of a pooled or single product would be a second instance of what may exist only once.",
    declared("""
    products:
      LightRhythm:
        required: {code: text, period_ms: integer}
        flyweight: {key: [code]}
      Lantern: {required: {rhythm: {type: LightRhythm, copy: deep}}}
    """),
)
SHARED_MUTABLE = kind(
    "shared-mutable",
    "{product} is mutable, so '{field}' cannot be {copy}",
    "use `copy: deep`, or make {product} immutable",
    "What is shared does not change: a change through one owner would reach every other.",
    declared("""
    products:
      Leg: {mutable: true, required: {label: text}}
      RefitPlan: {mutable: true, required: {legs: {type: list<Leg>, copy: shallow}}}
    """),
)
IMMUTABLE_OWNS_MUTABLE = kind(
    "immutable-owns-mutable",
    "{owner} is immutable and would own {product}, which is not",
    "make {owner} mutable, or {product} immutable",
    "Through '{field}' a caller could change what {owner} promises not to change.".replace("{", "").replace(
        "}", ""
    ),
    declared("""
    products:
      Leg: {mutable: true, required: {label: text}}
      RefitPlan: {required: {legs: list<Leg>}}
    """),
)
ENDLESS = kind(
    "endless",
    "{product} can never be made: {fields} leads back to it",
    "make the field optional, or a list",
    "A required field that leads back to its own product asks for one more, for ever.",
    declared("""
    products:
      Mark: {required: {next: Mark}}
    """),
)
