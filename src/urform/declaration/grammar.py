"""The shape of format 1, as a table. Editors complete from it, `urform check` holds files against it, and
`docs/format.md` and `urform explain` tell it.
"""

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
CONDITION = Words(
    "a condition",
    doc='Field names, numbers, "text", true, false; == != < <= > >=; and or not; '
    "blank(x), size(x), present(x).",
)
VALUES = Named(
    LOWER_SNAKE, AnyValue(doc="The value of the field."), doc="A value for each field that it names."
)
AS = Words(doc="The name in records, any short text.")


def lower_name(doc: str) -> Words:
    """A name in lower_snake."""
    return Words("a lower_snake name", LOWER_SNAKE.pattern, doc=doc)


def upper_name(doc: str) -> Words:
    """A name in UpperCamel."""
    return Words("an UpperCamel name", UPPER_CAMEL.pattern, doc=doc)


LIMIT_KEYS: dict[str, Key] = {
    "min": Key(Ordered(doc="Smallest allowed number, date, time or duration.")),
    "max": Key(Ordered(doc="Largest allowed number, date, time or duration.")),
    "above": Key(Ordered(doc="Every allowed number, date, time or duration is larger.")),
    "below": Key(Ordered(doc="Every allowed number, date, time or duration is smaller.")),
    "not_blank": Key(Flag(doc="Not only tabs, line ends and spaces."), default="false"),
    "min_length": Key(Number(whole=True, doc="Fewest code points or elements.")),
    "max_length": Key(Number(whole=True, doc="Most code points or elements.")),
    "one_of": Key(
        Listed(AnyValue(doc="A text or an integer."), some=True, doc="The only allowed texts or integers.")
    ),
    "pattern": Key(Words(doc="What the whole text looks like, in I-Regexp (RFC 9485).")),
}

FIELD = Record(
    "field",
    {
        "type": Key(
            Words(
                "a type",
                doc="text, integer, real, boolean, date, time, instant, duration, decimal, uuid, uri, a choice, a product, "
                "list<T>, set<S> or map<K to T>.",
            ),
            required=True,
            like="type: text",
        ),
        **LIMIT_KEYS,
        "unique": Key(
            Flag(doc="Of a list of texts, integers or words: no element is equal to another."),
            default="false",
        ),
        "each": Key(
            Record("set of limits", LIMIT_KEYS, doc="Limits on each element, or each value of a map.")
        ),
        "default": Key(
            AnyValue(doc="What the field has when it is not given; optional fields only."),
            default="absent; a collection is empty",
        ),
        "doc": Key(DOC),
        "item": Key(
            lower_name("Names one element: for a builder's adder, and for what changes a mutable product.")
        ),
        "copy": Key(
            Words(
                "one of the words",
                words={
                    "deep": "The product owns it, and a clone gets its own, at every level.",
                    "shallow": "A clone gets its own collection, with the same elements.",
                    "shared": "A clone has the same object.",
                    "fresh": "A clone starts again: with the default, empty or absent.",
                },
                doc="What a clone does with the field, and so how it is held.",
            ),
            default="deep; shared where the type is a flyweight or single",
        ),
        "secret": Key(Flag(doc="The text stands in no message of an error."), default="false"),
        "as": Key(AS, default="the field's name"),
    },
    short="type",
    instead=elsewhere.FIELD_KEYS,
    stands_for=elsewhere.FOR_TYPE,
    for_list=elsewhere.WORDS_FOR_FIELD,
    doc="A type, or a mapping with the type and more.",
)
REQUIRED = Named(LOWER_SNAKE, FIELD, doc="Mandatory fields, by name.")
OPTIONAL = Named(LOWER_SNAKE, FIELD, doc="Fields that need not be given, by name.")

OPERATION = Record(
    "operation",
    {
        "takes": Key(
            Named(LOWER_SNAKE, Words("a type", doc="Its type."), doc="Parameters and their types, in order.")
        ),
        "returns": Key(
            Words("a type", doc="The type of the answer, with ? if it may give none."),
            default="it gives nothing",
        ),
        "once": Key(Flag(doc="You write it once, on the product that has the variants."), default="false"),
        "doc": Key(DOC),
    },
    doc="What clients call.",
)
OPERATIONS = Named(LOWER_SNAKE, OPERATION, doc="What clients call, by name.")

UNKNOWN = Either(
    scalar=Words(
        "error, nothing or {use: …}",
        words={
            "error": "It fails, and the error names the key and those that are known.",
            "nothing": "It gives nothing, as the language says that.",
        },
        other="{use: NAME}",
    ),
    mapping=Record(
        "replacement",
        {"use": Key(upper_name("The variant, or the member of a family."), required=True, like="use: NAME")},
        doc="What is made in place of what an unknown key means.",
    ),
    doc="What an unknown key gives.",
)

FACTORY = Record(
    "factory",
    {
        "form": Key(
            Words(
                "a form",
                words={
                    "simple": "One function, from key and fields to product.",
                    "registry": "As simple, and open: kinds can be registered, removed and listed while running.",
                    "creators": "An abstract creator, one for each variant, and a lookup by key.",
                    "by_values": "Hidden constructors behind one entry that looks at the values.",
                },
                doc="How a variant is found and made.",
            ),
            required=True,
            like="form: simple",
        ),
        "unknown": Key(UNKNOWN, default="error"),
        "refuse": Key(
            Listed(
                Either(
                    scalar=CONDITION,
                    mapping=Record(
                        "refusal",
                        {
                            "when": Key(CONDITION, required=True),
                            "reason": Key(
                                Words(doc="Told to the caller."), default="the condition as written"
                            ),
                        },
                        doc="A condition, with a reason of its own.",
                    ),
                ),
                doc="Conditions under which the values give no product (by_values).",
            )
        ),
        "choose": Key(
            Listed(
                Record(
                    "choice of variant",
                    {
                        "use": Key(upper_name("The variant."), required=True, like="use: NAME"),
                        "when": Key(CONDITION, default="always; the last entry has none"),
                    },
                    doc="A variant, and when it is made.",
                ),
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
            Words(
                "a style",
                words={"fluent": "Setters return the builder.", "statements": "Setters return nothing."},
                doc="What setters return.",
            ),
            default="fluent",
        ),
        "after_build": Key(
            Words(
                "a word",
                words={
                    "keep": "It still has its values.",
                    "reset": "It is empty, and not back at its preset.",
                },
                doc="What a builder has after a build.",
            ),
            default="keep",
        ),
        "missing": Key(
            Words(
                "a word",
                words={
                    "at_build": "The build names all of them as it runs.",
                    "at_compile_time": "The compiler refuses the build, where the language can.",
                },
                doc="When required fields that were not given are told.",
            ),
            default="at_build",
        ),
        "presets": Key(Named(LOWER_SNAKE, VALUES, doc="Values that a builder can start from, by name.")),
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
        "key": Key(
            Listed(
                lower_name("A field of type text, integer, boolean or a choice."),
                some=True,
                doc="The fields that tell instances apart.",
            ),
            required=True,
        ),
        "hold": Key(
            Words(
                "a word",
                words={
                    "strong": "It keeps all that it made.",
                    "weak": "It lets go of what nobody else holds.",
                },
                doc="How long the pool holds an instance.",
            ),
            default="strong",
        ),
    },
    doc="A pool that gives one instance per key.",
)

VARIANT = Record(
    "variant",
    {
        "key": Key(Words(doc="The type code, any short text."), default="the name in lower_snake"),
        "keys": Key(
            Listed(
                Words(doc="A type code."),
                some=True,
                doc="Several type codes; the first is the one that is read back.",
            )
        ),
        "as": Key(AS, default="the key"),
        "doc": Key(DOC),
        "required": Key(REQUIRED),
        "optional": Key(OPTIONAL),
        "defaults": Key(
            Named(
                LOWER_SNAKE, AnyValue(doc="The default."), doc="Other defaults for inherited optional fields."
            )
        ),
        "operations": Key(OPERATIONS),
        "answers": Key(
            Named(
                LOWER_SNAKE,
                AnyValue(doc="What it gives; null for nothing."),
                doc="Constant answers of operations.",
            )
        ),
        "single": Key(Flag(doc="One instance only, no fields."), default="false"),
    },
    instead=elsewhere.PRODUCT_KEYS,
    loose=elsewhere.LOOSE_FIELD,
    doc="One of the kinds of a product. It inherits fields and operations, and may add some.",
)

PRODUCT = Record(
    "product",
    {
        "as": Key(AS, default="the product's name"),
        "doc": Key(DOC),
        "mutable": Key(Flag(doc="It has setters, and owns what it holds."), default="false"),
        "required": Key(REQUIRED),
        "optional": Key(OPTIONAL),
        "operations": Key(OPERATIONS),
        "answers": VARIANT.keys["answers"],
        "single": VARIANT.keys["single"],
        "variants": Key(
            Named(
                UPPER_CAMEL,
                VARIANT,
                some=True,
                absent=True,
                doc="Its kinds, by name; the product itself is abstract then.",
            )
        ),
        "factory": Key(FACTORY),
        "builder": Key(BUILDER),
        "prototype": Key(PROTOTYPE),
        "flyweight": Key(FLYWEIGHT),
    },
    instead=elsewhere.PRODUCT_KEYS,
    loose=elsewhere.LOOSE_FIELD,
    doc="A type with mandatory and optional fields, and the ways of making it.",
)

PART = Record(
    "part",
    {
        "use": Key(upper_name("The product."), required=True, like="use: NAME"),
        "with": Key(VALUES),
    },
    doc="What a member makes for a role, with values that its caller need not give.",
)
ROLE_VALUE = Either(scalar=upper_name("The product."), mapping=PART, doc="One of several.")

FAMILY = Record(
    "family",
    {
        "doc": Key(DOC),
        "makes": Key(
            Named(
                LOWER_SNAKE,
                Words("a product, or list<product>", doc="What is made: one, or several."),
                some=True,
                doc="The roles, and the product of each.",
            ),
            required=True,
        ),
        "members": Key(
            Named(
                UPPER_CAMEL,
                Named(
                    LOWER_SNAKE,
                    Either(
                        scalar=upper_name("The product."),
                        sequence=Listed(ROLE_VALUE, doc="The products of a list role."),
                        mapping=PART,
                        doc="What it makes for the role.",
                    ),
                    doc="What it makes for each role.",
                ),
                some=True,
                doc="The members, and what each makes for each role.",
            ),
            required=True,
        ),
        "unknown": Key(UNKNOWN, default="error"),
        "stand_in": Key(Flag(doc="Also a deterministic family for clients' own tests."), default="false"),
    },
    doc="An abstract factory, whose members make parts that fit together.",
)

WORD = Either(
    scalar=lower_name("The word."),
    mapping=Record(
        "word",
        {
            "word": Key(lower_name("The word in code."), required=True),
            "as": Key(AS, default="the word"),
        },
        doc="A word with another name in records.",
    ),
    doc="A word, or a mapping with its name in records.",
)

CHOICE = Record(
    "choice",
    {
        "doc": Key(DOC),
        "values": Key(Listed(WORD, some=True, doc="The words, in their order."), required=True),
    },
    doc="A closed set of words.",
)

RECORDS = Either(
    scalar=Flag(doc="true for the usual settings."),
    mapping=Record(
        "settings of records",
        {
            "unknown": Key(
                Words(
                    "a word",
                    words={
                        "refuse": "It is a problem, with the nearest known name.",
                        "ignore": "It is passed over.",
                    },
                    doc="What a name that is not declared comes to.",
                ),
                default="refuse",
            ),
            "kind_field": Key(Words(doc="The name under which a record tells its kind."), default="kind"),
            "write": Key(
                Words(
                    "a word",
                    words={
                        "needed": "What is absent, or has its default, is left out.",
                        "all": "Everything is written, what is absent as null.",
                    },
                    doc="What is written of a product.",
                ),
                default="needed",
            ),
        },
        doc="How products are read from records and written.",
    ),
    doc="Whether products are read from records, and written as such.",
)

DECLARATION = Record(
    "declaration",
    {
        "urform": Key(Number(whole=True, doc="The format number, 1."), required=True, like="urform: 1"),
        "name": Key(lower_name("Package, module or namespace stem."), required=True, like="name: harbour"),
        "doc": Key(DOC),
        "targets": Key(
            Named(
                LOWER_SNAKE,
                Named(
                    LOWER_SNAKE,
                    Words(doc="The setting."),
                    absent=True,
                    doc="Where its files go, and what they are called; `urform explain targets` tells more.",
                ),
                absent=True,
                doc="The targets that are meant where no -t says otherwise, with their settings.",
            ),
            default="all that are installed, in folders of their own",
        ),
        "records": Key(RECORDS, default="false"),
        "choices": Key(Named(UPPER_CAMEL, CHOICE, doc="Closed sets of words, by name.")),
        "products": Key(Named(UPPER_CAMEL, PRODUCT, absent=True, doc="What is made, by name.")),
        "families": Key(Named(UPPER_CAMEL, FAMILY, doc="Abstract factories, by name.")),
    },
    doc="One file, NAME.urform.yaml, in YAML 1.2 or JSON.",
)
