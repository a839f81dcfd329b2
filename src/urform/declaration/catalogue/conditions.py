"""Problems of conditions."""

from urform.declaration.problems import declared, kind


def _example(condition: str) -> str:
    return declared(f"""
    products:
      TideOffset:
        variants:
          KnownOffset: {{required: {{centimetres: integer, datum: text}}, optional: {{gauge: text}}}}
          NoOffset: {{single: true}}
        factory:
          form: by_values
          refuse: ['{condition}']
          choose: [{{use: NoOffset, when: centimetres == 0}}, {{use: KnownOffset}}]
    """)


BAD_CONDITION = kind(
    "bad-condition",
    "this is no condition: {why}",
    'use field names, numbers, "text", true, false; == != < <= > >=; and or not; blank(x), size(x), present(x)',
    "The condition language is small, so that it means the same in every target.",
    _example("centimetres <"),
)
CONDITION_FIELD = kind(
    "condition-field",
    "no variant that is chosen has a field '{field}'.{hint}",
    "use one of: {known}",
    "Conditions speak of the factory's parameters: the fields of the variants that `choose` names.",
    _example("centimeters < 0"),
)
CONDITION_TYPES = kind(
    "condition-types",
    "{why}",
    "compare numbers with numbers, texts with texts, words with words",
    "Conditions are typed when the declaration is read; some languages would compare anything, others nothing.",
    _example("datum < 3"),
)
CONDITION_ABSENT = kind(
    "condition-absent",
    "'{field}' may be absent",
    "ask first: present({field}) and …",
    "An absent value has no size and no order.",
    _example('gauge == "A"'),
)
