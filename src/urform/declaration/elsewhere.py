"""What people write who know another language or format, and what to write here instead."""

from __future__ import annotations

from collections.abc import Mapping

# Names of types.
TYPES: Mapping[str, str] = {
    **dict.fromkeys(("string", "str", "char", "varchar", "String", "Text"), "text"),
    **dict.fromkeys(
        (
            "int",
            "long",
            "short",
            "byte",
            "uint",
            "int32",
            "int64",
            "i32",
            "i64",
            "u32",
            "u64",
            "size_t",
            "Integer",
        ),
        "integer",
    ),
    **dict.fromkeys(("float", "double", "f32", "f64", "float32", "float64", "Float", "Double"), "real"),
    **dict.fromkeys(("Decimal", "BigDecimal", "numeric"), "decimal"),
    **dict.fromkeys(("number", "Number"), "integer or real"),
    **dict.fromkeys(("bool", "Boolean", "flag"), "boolean"),
    **dict.fromkeys(("datetime", "timestamp", "DateTime", "Instant", "Timestamp"), "instant"),
    **dict.fromkeys(("clock", "Time", "LocalTime"), "time"),
    **dict.fromkeys(("timedelta", "timespan", "interval", "Duration"), "duration"),
    **dict.fromkeys(("day", "Date"), "date"),
    **dict.fromkeys(("guid", "UUID", "Guid"), "uuid"),
    **dict.fromkeys(("url", "URL", "URI", "Url"), "uri"),
    **dict.fromkeys(("array", "vector", "Vec", "sequence", "tuple"), "list<T>, as in list<text>"),
    **dict.fromkeys(("dict", "object", "hash", "record", "Map"), "map<text to T>, or declare a product"),
    "enum": "the name of a choice, declared under choices",
}

# Names of types with elements.
COLLECTIONS: Mapping[str, str] = {
    **dict.fromkeys(("List", "Array", "array", "vector", "Vec", "Sequence", "seq", "tuple"), "list<T>"),
    **dict.fromkeys(("Set", "HashSet", "frozenset"), "set<T>"),
    **dict.fromkeys(("Map", "HashMap", "dict", "Dict", "Record", "object"), "map<text to T>"),
    **dict.fromkeys(
        ("Optional", "Option", "optional", "Maybe"), "the type within, and put the field under optional"
    ),
}

# Signs in conditions.
SIGNS: Mapping[str, str] = {"=": "==", "&": "and", "|": "or", "!": "not"}

# Values that are written for a type.
VALUES: Mapping[str, str] = {
    "boolean": "write true or false",
    "integer": "write a whole number, without quotes",
    "real": "write a number, without quotes",
    "text": "write a text; what YAML takes for something else goes in quotes",
}

_FIELDS = "write the mandatory fields under required, and the others under optional"
# Keys of a product.
PRODUCT_KEYS: Mapping[str, str] = {
    **dict.fromkeys(("fields", "properties", "attributes", "members"), _FIELDS),
    **dict.fromkeys(
        ("extends", "base", "inherits", "parent"), "write this product under the variants of the other one"
    ),
    **dict.fromkeys(("abstract", "sealed"), "leave it out: a product with variants is abstract"),
    **dict.fromkeys(
        ("immutable", "readonly", "frozen"), "leave it out: products are immutable unless mutable: true"
    ),
    **dict.fromkeys(("enum", "values", "words"), "declare a choice, under choices"),
    **dict.fromkeys(("pool", "cache"), "write flyweight: {key: […]}"),
    **dict.fromkeys(("clone", "copy"), "write prototype: {}"),
    **dict.fromkeys(("singleton",), "write single: true"),
    **dict.fromkeys(("description", "comment"), "write doc"),
    **dict.fromkeys(("methods", "functions"), "write operations"),
}
LOOSE_FIELD = _FIELDS

# Keys of a field.
FIELD_KEYS: Mapping[str, str] = {
    **dict.fromkeys(
        ("enum", "values", "choices", "words"),
        "declare a choice with these words, and write its name as the type",
    ),
    **dict.fromkeys(
        ("required", "mandatory", "optional", "nullable"), "put the field under required or under optional"
    ),
    **dict.fromkeys(("minimum", "ge"), "write min"),
    **dict.fromkeys(("maximum", "le"), "write max"),
    **dict.fromkeys(("exclusiveMinimum", "gt"), "write above"),
    **dict.fromkeys(("exclusiveMaximum", "lt"), "write below"),
    **dict.fromkeys(("minLength", "minItems"), "write min_length"),
    **dict.fromkeys(("maxLength", "maxItems"), "write max_length"),
    **dict.fromkeys(("length", "size"), "write min_length and max_length"),
    **dict.fromkeys(("regex", "regexp", "matches"), "write pattern"),
    **dict.fromkeys(("uniqueItems", "distinct"), "write unique"),
    **dict.fromkeys(("items", "of", "element"), "write it in the type, as in type: list<text>"),
    **dict.fromkeys(("description", "comment"), "write doc"),
    **dict.fromkeys(("alias", "json", "name"), "write as: the name in records"),
}
# Those of them that tell the type.
FOR_TYPE: Mapping[str, str] = dict.fromkeys(
    ("enum", "values", "choices", "words", "items", "of", "element"), "type"
)
WORDS_FOR_FIELD = "declare a choice with these words, and write its name as the type"
