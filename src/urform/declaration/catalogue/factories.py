"""Problems of factories."""

from urform.declaration.problems import declared, kind

FACTORY_WITHOUT_VARIANTS = kind(
    "factory-without-variants",
    "{product} has no variants to choose from",
    "drop the factory, or declare variants",
    "A factory makes one of several types; for one type the constructor is the simplest form.",
    declared("""
    products:
      Mark: {required: {station: integer}, factory: {form: simple}}
    """),
)
MISPLACED_FACTORY_KEY = kind(
    "misplaced-factory-key",
    "'{key}' does not go with the form {form}",
    "`unknown` goes with simple, registry and creators; `refuse` and `choose` with by_values",
    "Factories by key know keys, factories by values know conditions.",
    declared("""
    products:
      Mark:
        variants: {Buoy: {}, Beacon: {}}
        factory: {form: simple, choose: [{use: Buoy}]}
    """),
)
FACTORY_NEEDS_MORE = kind(
    "factory-needs-more",
    "a factory of form {form} takes the fields of {product}, and {variant} needs {fields} too",
    "add `records: true` at the top; or make it optional, move it to {product}, or use the form by_values",
    "Every kind is made from the same parameters. With records it is made from those of its own, or from a record.",
    declared("""
    products:
      Mark:
        required: {station: integer}
        variants: {Buoy: {required: {draught: real}}, Beacon: {}}
        factory: {form: registry}
    """),
)
NOTHING_TO_CHOOSE = kind(
    "nothing-to-choose",
    "a factory by values needs `choose`",
    "list the variants with their conditions, the last one without",
    "Without it nothing says which variant is made.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {}, NoOffset: {}}
        factory: {form: by_values}
    """),
)
CHOICE_WITHOUT_CONDITION = kind(
    "choice-without-condition",
    "{name} has no condition, so the entries after it are never reached",
    "add `when`, or move it to the end",
    "The first entry that holds is taken.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {required: {centimetres: integer}}, NoOffset: {}}
        factory: {form: by_values, choose: [{use: NoOffset}, {use: KnownOffset}]}
    """),
)
LAST_CHOICE_HAS_CONDITION = kind(
    "last-choice-has-condition",
    "the last entry is what is left, and takes no `when`",
    "drop the condition of {name}, or add an entry without one",
    "Values for which no entry holds would give nothing, unsaid; `refuse` says it.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {required: {centimetres: integer}}}
        factory: {form: by_values, choose: [{use: KnownOffset, when: centimetres != 0}]}
    """),
)
PARAMETER_TYPES = kind(
    "parameter-types",
    "'{field}' is {first} in one variant and {second} here",
    "give both the same type, or rename one",
    "The parameters of a factory by values are the fields of all its variants.",
    declared("""
    products:
      TideOffset:
        variants:
          KnownOffset: {required: {datum: text}}
          CodedOffset: {required: {datum: integer}}
        factory: {form: by_values, choose: [{use: KnownOffset, when: blank(datum)}, {use: CodedOffset}]}
    """),
)
NEVER_CHOSEN = kind(
    "never-chosen",
    "no entry of `choose` makes {name}, and nothing else can",
    "add an entry that uses {name}, or drop the variant",
    "The constructors of variants that are chosen by values are hidden: what is not chosen is never made.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {required: {centimetres: integer}}, NoOffset: {}, Guess: {}}
        factory:
          form: by_values
          choose: [{use: NoOffset, when: centimetres == 0}, {use: KnownOffset}]
    """),
)
