"""Advice: what a plainer declaration would serve as well."""

from urform.declaration.problems import declared, kind

FACTORY_OF_ONE = kind(
    "factory-of-one",
    "the factory of {product} can only make {variant}",
    "use the constructor until there is a second variant",
    "It costs a lookup and an error path for a choice of one. Keep it when plug-ins will register more.",
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
    It costs a second type to read, and moves what is missing from the compiler to the build. It pays with many
    optional fields, several of one type, or presets. Keep it when the values arrive one by one.
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
    "It costs an operation that gives nothing new: cloning pays where the copy is changed. Keep it for named exemplars "
    "that clients look up.",
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
    "It costs a look-up for what callers hold already: the key that they bring is as large as what they get. Keep it when "
    "identity matters, or the product will grow.",
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
    "It costs a word that promises nothing: own container, same elements, is what every copy of texts and numbers is. "
    "Keep it when the elements will become products.",
    declared("""
    products:
      RefitPlan: {mutable: true, required: {tags: {type: list<text>, copy: shallow}}}
    """),
    advice=True,
)
EMPTY_ANYWAY = kind(
    "empty-anyway",
    "'{field}' is empty when it is not given, so a least length of 1 refuses nothing",
    "make it required, or drop min_length",
    "It costs a limit that promises nothing: a collection with an element has one, and an empty one is as if not given. Keep "
    "it when the field will become required.",
    declared("""
    products:
      RefitPlan: {optional: {tags: {type: list<text>, min_length: 1}}}
    """),
    advice=True,
)
FAMILY_OF_ONE = kind(
    "family-of-one",
    "{family} has one member, so there is nothing to choose",
    "make the products directly until there is a second member",
    "It costs an interface and a look-up for a choice of one; it pays when whole sets of parts are exchanged. Keep it when "
    "clients' tests need a stand-in.",
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
    "It costs a class per variant. Keep it when clients subclass the creators or pass them around; a key and a function are "
    "less to read.",
    declared("""
    products:
      Mark:
        required: {station: integer}
        variants: {Buoy: {}, Beacon: {}}
        factory: {form: creators}
    """),
    advice=True,
)
