"""Problems of type expressions."""

from urform.declaration.problems import declared, kind

BAD_TYPE = kind(
    "bad-type",
    "'{text}' is no type: {why}",
    "write a type such as text, Side, list<Leg>, set<text> or map<text to integer>",
    "A type is a scalar, a name, or a collection with its element types in angle brackets.",
    declared("""
    products:
      Mark: {required: {names: 'list<text'}}
    """),
)
UNKNOWN_TYPE = kind(
    "unknown-type",
    "nothing is called '{name}'.{hint}",
    "use text, integer, real, boolean, date, time, instant, duration, decimal, uuid, or declare a choice or product of that name",
    "A field's type is a scalar, a choice or a product of this declaration.",
    declared("""
    products:
      Mark: {required: {position: Positon}}
      Position: {required: {latitude: real}}
    """),
)
BAD_ELEMENT = kind(
    "bad-element",
    "{role} are text, integer or a choice, not {type}",
    "use a list, or a key that has an order and a hash in every language",
    "Reals compare by bits in some languages and products by identity in others, so neither can be looked up reliably.",
    declared("""
    products:
      Mark: {required: {depths: set<real>}}
    """),
)
