"""Problems of names in records."""

from urform.declaration.problems import declared, kind

BAD_RECORD_NAME = kind(
    "bad-record-name",
    "a name in records is empty, longer than {most} characters, or has a control character",
    "use a text of 1 to {most} characters, such as originalName",
    "`as` and `kind_field` are names in records, which messages tell: nothing in them may be invisible or endless.",
    declared("""
    records: true
    products:
      Chart: {required: {sheet: {type: text, as: ""}}}
    """),
)
RECORD_NAME_TWICE = kind(
    "record-name-twice",
    "in records of {where}, '{name}' stands for {one} and for {other}",
    "give one of them another name with `as`, or the kind one with `records: {{kind_field: …}}`",
    """
    A record is an object whose names are those of the fields; that of a variant begins with its kind, under the name
    `kind` unless `kind_field` says otherwise. Words of a choice, and kinds of a product, are told apart by their names as well.
    """,
    declared("""
    records: true
    products:
      Mark:
        required: {kind: text}
        variants: {Buoy: {}, Beacon: {}}
    """),
)
RECORD_NAMES_DIFFER = kind(
    "record-names-differ",
    "'{field}' is called '{one}' in records of {first}, and '{other}' in those of {second}",
    "give both the same `as`",
    "Variants that are made by values share their parameters: a record of those has one name for each.",
    declared("""
    records: true
    products:
      TideOffset:
        variants:
          KnownOffset: {required: {centimetres: {type: integer, as: cm}}}
          OldOffset: {required: {centimetres: integer}}
        factory:
          form: by_values
          choose:
            - {use: OldOffset, when: centimetres < 0}
            - {use: KnownOffset}
    """),
)
