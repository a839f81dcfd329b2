"""Advice: what a plainer declaration would serve as well."""

from urform.declaration.problems import declared, kind

FACTORY_OF_ONE = kind(
    "factory-of-one",
    "the factory of {product} can only make a {variant}",
    "use the constructor until there is a second variant",
    "A choice of one costs a type, a lookup and an error path. Keep it when plug-ins will register more.",
    declared("""
    products:
      Mark:
        required: {station: integer}
        variants: {Buoy: {}}
        factory: {form: simple}
    """),
    advice=True,
)
SMALL_BUILDER = kind(
    "small-builder",
    "{product} has {fields} fields, which a constructor takes in one line",
    "drop the builder",
    """
    A builder pays with many optional fields, several of one type, or values that arrive over time. For two fields
    it is a second type to read.
    """,
    declared("""
    products:
      Lantern:
        required: {height: real, colour: text}
        builder: {style: fluent}
    """),
    advice=True,
)
IMMUTABLE_PROTOTYPE = kind(
    "immutable-prototype",
    "{product} is immutable, so a clone of it is as good as itself",
    "hand out the instance, or make the product mutable",
    "Cloning pays where the copy is changed. Keep it for named exemplars that clients look up.",
    declared("""
    products:
      Chart: {required: {sheet: text}, prototype: {}}
    """),
    advice=True,
)
BARE_POOL = kind(
    "bare-pool",
    "instances of {product} hold nothing beyond the key",
    "use the key itself, or a plain product",
    "A pool saves what is shared; here the key that callers bring is as large as what they get.",
    declared("""
    products:
      Topmark: {required: {shape: text}, flyweight: {key: [shape]}}
    """),
    advice=True,
)
SHALLOW_SCALARS = kind(
    "shallow-scalars",
    "the elements of '{field}' have no depth, so shallow is the same as deep",
    "drop `copy: shallow`",
    "Own container, same elements: for texts and numbers every copy is that.",
    declared("""
    products:
      RefitPlan: {mutable: true, required: {tags: {type: list<text>, copy: shallow}}}
    """),
    advice=True,
)
FAMILY_OF_ONE = kind(
    "family-of-one",
    "{family} has one member, so there is nothing to choose",
    "make the products directly until there is a second member",
    "A family pays when whole sets of parts are exchanged. Keep it when clients' tests need a stand-in.",
    declared("""
    products:
      Hull: {variants: {SteelHull: {}, SparHull: {}}}
    families:
      Outfit: {makes: {hull: Hull}, members: {Ice: {hull: SparHull}}}
    """),
    advice=True,
)
CREATORS_OR_FUNCTION = kind(
    "creators-or-function",
    "the creators of {product} are one class per variant for what a function does",
    "use `form: simple`, or registry if it has to stay open",
    "Creator objects pay when clients subclass them or pass them around. A key and a function are less to read.",
    declared("""
    products:
      Mark:
        required: {station: integer}
        variants: {Buoy: {}, Beacon: {}}
        factory: {form: creators}
    """),
    advice=True,
)
