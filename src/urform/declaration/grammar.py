"""The shape of format 1, as a table. Editors complete from it, `urform check` holds files against it."""

from __future__ import annotations

from urform.declaration import elsewhere
from urform.declaration.shape import (
    LOWER_SNAKE,
    UPPER_CAMEL,
    AnyValue,
    Either,
    Flag,
    Key,
    Listed,
    Named,
    Number,
    Ordered,
    Record,
    Words,
)

FORMAT = 1

DOC = Words(doc="One or more sentences, carried into the documentation comment of what is generated.")
LOWER_NAME = Words("a lower_snake name", LOWER_SNAKE.pattern)
UPPER_NAME = Words("an UpperCamel name", UPPER_CAMEL.pattern)
CONDITION = Words(
    "a condition",
    doc='Field names, numbers, "text", true, false; == != < <= > >=; and or not; '
    "blank(x), size(x), present(x).",
)
VALUES = Named(LOWER_SNAKE, AnyValue(), doc="A value for each field that it names.")
AS = Words(doc="The name in records, any short text; by default the declared one.")

LIMIT_KEYS: dict[str, Key] = {
    "min": Key(Ordered(doc="Smallest allowed number or date.")),
    "max": Key(Ordered(doc="Largest allowed number or date.")),
    "above": Key(Ordered(doc="Every allowed number or date is larger.")),
    "below": Key(Ordered(doc="Every allowed number or date is smaller.")),
    "not_blank": Key(Flag(doc="Not only tabs, line ends and spaces.")),
    "min_length": Key(Number(whole=True, doc="Fewest code points or elements.")),
    "max_length": Key(Number(whole=True, doc="Most code points or elements.")),
    "one_of": Key(Listed(AnyValue(), some=True, doc="The only allowed texts or integers.")),
    "pattern": Key(Words(doc="What the whole text looks like, in I-Regexp (RFC 9485).")),
}

FIELD = Record(
    "field",
    {
        "type": Key(
            Words(
                "a type",
                doc="text, integer, real, boolean, date, uuid, uri, a choice, a product, list<T>, set<S> or map<K to T>.",
            ),
            required=True,
            like="type: text",
        ),
        **LIMIT_KEYS,
        "unique": Key(Flag(doc="Of a list of texts, integers or words: no element is equal to another.")),
        "each": Key(
            Record("set of limits", LIMIT_KEYS, doc="Limits on each element, or each value of a map.")
        ),
        "default": Key(AnyValue(doc="What the field has when it is not given; optional fields only.")),
        "doc": Key(DOC),
        "item": Key(
            Words(
                "a lower_snake name",
                LOWER_SNAKE.pattern,
                doc="Names one element: for a builder's adder, and for what changes a mutable product.",
            )
        ),
        "copy": Key(
            Words(
                "one of the words",
                words=("deep", "shallow", "shared", "fresh"),
                doc="What a clone does with the field.",
            )
        ),
        "secret": Key(Flag(doc="The text stands in no message of an error.")),
        "as": Key(AS),
    },
    short="type",
    instead=elsewhere.FIELD_KEYS,
    stands_for=elsewhere.FOR_TYPE,
    for_list=elsewhere.WORDS_FOR_FIELD,
)
FIELDS = Named(LOWER_SNAKE, FIELD)

OPERATION = Record(
    "operation",
    {
        "takes": Key(Named(LOWER_SNAKE, Words("a type"), doc="Parameters and their types, in order.")),
        "returns": Key(
            Words(
                "a type",
                doc="The type of the answer, with ? if it may give none; left out, it gives nothing.",
            )
        ),
        "once": Key(Flag(doc="Written once, on the product that has the variants.")),
        "doc": Key(DOC),
    },
)

UNKNOWN = Either(
    scalar=Words("error, nothing or {use: …}", words=("error", "nothing"), other="{use: NAME}"),
    mapping=Record("replacement", {"use": Key(UPPER_NAME, required=True)}),
    doc="What an unknown key gives: error, nothing, or {use: NAME}.",
)

FACTORY = Record(
    "factory",
    {
        "form": Key(
            Words("a form", words=("simple", "registry", "creators", "by_values")),
            required=True,
            like="form: simple",
        ),
        "unknown": Key(UNKNOWN),
        "refuse": Key(
            Listed(
                Either(
                    scalar=CONDITION,
                    mapping=Record(
                        "refusal",
                        {
                            "when": Key(CONDITION, required=True),
                            "reason": Key(Words(doc="Told to the caller.")),
                        },
                    ),
                ),
                doc="Conditions under which the values give no product (by_values).",
            )
        ),
        "choose": Key(
            Listed(
                Record("choice of variant", {"use": Key(UPPER_NAME, required=True), "when": Key(CONDITION)}),
                some=True,
                doc="The first entry whose condition holds names the variant (by_values).",
            )
        ),
    },
    doc="Makes a variant from its key, or from values.",
)

BUILDER = Record(
    "builder",
    {
        "style": Key(
            Words("a style", words=("fluent", "statements"), doc="Whether setters return the builder.")
        ),
        "after_build": Key(
            Words("a word", words=("keep", "reset"), doc="Whether a build empties the builder.")
        ),
        "missing": Key(
            Words(
                "a word",
                words=("at_build", "at_compile_time"),
                doc="When a required field that was not given is told: as the build runs, or by the compiler where the "
                "language can.",
            )
        ),
        "presets": Key(Named(LOWER_SNAKE, VALUES, doc="Values that a builder can start from.")),
    },
    doc="Makes the product step by step, in any order.",
)

PROTOTYPE = Record(
    "prototype",
    {"exemplars": Key(Named(LOWER_SNAKE, VALUES, doc="Named instances, of which clones are handed out."))},
    doc="A clone operation that keeps the concrete type and follows `copy` per field.",
)

FLYWEIGHT = Record(
    "flyweight",
    {
        "key": Key(Listed(LOWER_NAME, some=True, doc="The fields that tell instances apart."), required=True),
        "hold": Key(Words("a word", words=("strong", "weak"), doc="weak lets go of what nobody else holds.")),
    },
    doc="A pool that gives one instance per key.",
)

VARIANT = Record(
    "variant",
    {
        "key": Key(Words(doc="The type code, any short text; by default the name.")),
        "keys": Key(
            Listed(Words(), some=True, doc="Several type codes; the first is the one that is read back.")
        ),
        "as": Key(AS),
        "doc": Key(DOC),
        "required": Key(FIELDS),
        "optional": Key(FIELDS),
        "defaults": Key(Named(LOWER_SNAKE, AnyValue(), doc="Other defaults for inherited optional fields.")),
        "operations": Key(Named(LOWER_SNAKE, OPERATION)),
        "answers": Key(Named(LOWER_SNAKE, AnyValue(), doc="Constant answers of operations.")),
        "single": Key(Flag(doc="One instance only, no fields.")),
    },
    instead=elsewhere.PRODUCT_KEYS,
    loose=elsewhere.LOOSE_FIELD,
)

PRODUCT = Record(
    "product",
    {
        "as": Key(AS),
        "doc": Key(DOC),
        "mutable": Key(Flag(doc="Has setters.")),
        "required": Key(FIELDS),
        "optional": Key(FIELDS),
        "operations": Key(Named(LOWER_SNAKE, OPERATION, doc="What clients call.")),
        "answers": Key(VARIANT.keys["answers"].shape),
        "single": Key(VARIANT.keys["single"].shape),
        "variants": Key(
            Named(UPPER_CAMEL, VARIANT, some=True, absent=True, doc="Makes the product abstract.")
        ),
        "factory": Key(FACTORY),
        "builder": Key(BUILDER),
        "prototype": Key(PROTOTYPE),
        "flyweight": Key(FLYWEIGHT),
    },
    instead=elsewhere.PRODUCT_KEYS,
    loose=elsewhere.LOOSE_FIELD,
)

ROLE_VALUE = Either(
    scalar=UPPER_NAME,
    mapping=Record("product with values", {"use": Key(UPPER_NAME, required=True), "with": Key(VALUES)}),
)

FAMILY = Record(
    "family",
    {
        "doc": Key(DOC),
        "makes": Key(
            Named(LOWER_SNAKE, Words("a product, or list<product>"), some=True, doc="Roles."), required=True
        ),
        "members": Key(
            Named(
                UPPER_CAMEL,
                Named(
                    LOWER_SNAKE,
                    Either(scalar=UPPER_NAME, sequence=Listed(ROLE_VALUE), mapping=ROLE_VALUE.mapping),
                ),
                some=True,
                doc="What each member makes for each role.",
            ),
            required=True,
        ),
        "unknown": Key(UNKNOWN),
        "stand_in": Key(Flag(doc="Also a deterministic family for clients' own tests.")),
    },
)

WORD = Either(
    scalar=LOWER_NAME,
    mapping=Record("word", {"word": Key(LOWER_NAME, required=True), "as": Key(AS)}),
)

CHOICE = Record(
    "choice",
    {"doc": Key(DOC), "values": Key(Listed(WORD, some=True, doc="The words."), required=True)},
)

RECORDS = Either(
    scalar=Flag(),
    mapping=Record(
        "settings of records",
        {
            "unknown": Key(
                Words("a word", words=("refuse", "ignore"), doc="What a name that is not declared comes to.")
            ),
            "kind_field": Key(Words(doc="The name under which a record tells its kind; `kind` by default.")),
            "write": Key(
                Words(
                    "a word",
                    words=("needed", "all"),
                    doc="Whether what is absent, or has its default, is written too.",
                )
            ),
        },
    ),
    doc="Whether products are read from records, and written as such.",
)

DECLARATION = Record(
    "declaration",
    {
        "urform": Key(Number(whole=True, doc="The format number, 1."), required=True, like="urform: 1"),
        "name": Key(
            Words("a lower_snake name", LOWER_SNAKE.pattern, doc="Package, module or namespace stem."),
            required=True,
            like="name: harbour",
        ),
        "doc": Key(DOC),
        "targets": Key(
            Named(
                LOWER_SNAKE,
                Named(LOWER_SNAKE, Words(), absent=True),
                absent=True,
                doc="Settings per target.",
            )
        ),
        "records": Key(RECORDS),
        "choices": Key(Named(UPPER_CAMEL, CHOICE, doc="Closed sets of words.")),
        "products": Key(Named(UPPER_CAMEL, PRODUCT, absent=True, doc="What is made.")),
        "families": Key(Named(UPPER_CAMEL, FAMILY, doc="Abstract factories.")),
    },
)
