"""Problems under `targets:`, found by the targets themselves."""

from urform.declaration.problems import declared, kind

UNKNOWN_TARGET = kind(
    "unknown-target",
    "no target is called '{name}'.{hint}",
    "use one of: {known}; `urform targets` tells more",
    "Settings for a target that is not installed would never be used.",
    declared("""
    targets: {jave: {package: harbour.varrow}}
    """),
)
UNKNOWN_SETTING = kind(
    "unknown-setting",
    "the target {target} has no setting '{option}'.{hint}",
    "use one of: {known}",
    "Each target has a few settings with defaults that are derived from the name of the declaration.",
    declared("""
    targets: {java: {pakage: harbour.varrow}}
    """),
)
JSON_WITHOUT_RECORDS = kind(
    "json-without-records",
    "{target} reads JSON text into records, and there are none",
    "add `records: true` at the top, or drop `{option}`",
    "Text is read into records, and products are read from them.",
    declared("""
    targets: {rust: {json: serde_json}}
    products: {Chart: {required: {sheet: text}}}
    """),
)
BAD_SETTING = kind(
    "bad-setting",
    "'{text}' cannot be the {option} of {target}: it has to be {means}",
    "respell it",
    "The setting becomes part of the generated code as it stands.",
    declared("""
    targets: {java: {package: Harbour-Varrow}}
    """),
)
