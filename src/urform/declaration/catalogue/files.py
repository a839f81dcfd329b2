"""Problems of the file as such."""

from urform.declaration.problems import declared, kind

UNREADABLE = kind(
    "unreadable",
    "the file cannot be read: {why}",
    "name a file that is there and that you may read",
    "The declaration has to be a plain file. Nothing is read from folders, devices or pipes.",
    "",
)
TOO_LARGE = kind(
    "too-large",
    "the file is larger than {most} MiB",
    "split it into several declarations",
    "Ten thousand products fit into about ten MiB; what is larger is no declaration that a person keeps.",
    "",
)
NOT_UTF8 = kind(
    "not-utf8",
    "the byte {byte} is not UTF-8",
    "save the file as UTF-8",
    "A declaration is UTF-8 text, so that names and words mean the same on every machine.",
    "",
)
NOT_YAML = kind(
    "not-yaml",
    "this is not YAML: {said}",
    "mend the text here; often a quote, a bracket or an indent is missing just before",
    "A declaration is YAML 1.2, of which JSON is a part. What cannot be parsed is not guessed at.",
    declared("""
    products:
      Mark: {required: {station: integer}
    """),
)
TAB = kind(
    "tab",
    "a tab indents this line, which YAML does not allow",
    "indent with spaces",
    "Tabs are shown with different widths, so YAML tells by spaces what belongs to what.",
    "urform: 1\nname: harbour\nproducts:\n\tMark: {required: {station: integer}}\n",
)
EMPTY_FILE = kind(
    "empty-file",
    "the file declares nothing",
    "start with `urform: 1` and a name; `urform new` writes a declaration to begin with",
    "An empty declaration is more often a wrong path than a wish.",
    "# nothing yet\n",
)
NO_MAPPING = kind(
    "no-mapping",
    "a declaration is a mapping, with keys such as urform, name and products",
    "start with `urform: 1` and a name; `urform new` writes a declaration to begin with",
    "The file holds a list or a single value at its top, where keys are expected.",
    "- urform\n- products\n",
)
SEVERAL_DOCUMENTS = kind(
    "several-documents",
    "a second YAML document begins here",
    "keep one declaration per file, without '---' in between",
    "One file is one declaration, so that a place in it is always FILE:LINE:COLUMN.",
    declared("---\nname: second\n"),
)
TOO_DEEP = kind(
    "too-deep",
    "this nests deeper than {most} levels",
    "declare a product for the inner parts",
    "The format itself needs about ten levels.",
    declared("doc: " + "[" * 45 + "]" * 45 + "\n"),
)
ALIAS_BOMB = kind(
    "alias-bomb",
    "with its aliases expanded the file has more than {most} nodes",
    "write out what is needed instead of aliases of aliases",
    "Aliases that hold aliases grow beyond any memory. Plain reuse of an anchor is fine.",
    "a: &a [x, x, x, x, x, x, x, x, x, x]\n"
    + "".join(f"{b}: &{b} [{', '.join(['*' + a] * 10)}]\n" for a, b in zip("abcdef", "bcdefg", strict=True)),
)
TOO_MANY_PROBLEMS = kind(
    "too-many-problems",
    "these are the first {most} problems; the rest of the file is not looked at",
    "mend those above first, or is this another kind of file?",
    "A file of which nothing fits is most often no declaration at all.",
    "",
)
ENDLESS_ALIAS = kind(
    "endless-alias",
    "'*{anchor}' stands within what '&{anchor}' names",
    "write out what is meant",
    "A value that contains itself has no end.",
    declared("products: &all {Mark: *all}\n"),
)
DUPLICATE_KEY = kind(
    "duplicate-key",
    "'{key}' stands here twice, first in line {first}",
    "keep one of them",
    "Of two equal keys one would win silently.",
    declared("""
    products:
      Mark: {required: {station: integer}}
      Mark: {required: {name: text}}
    """),
)
COMMA_IN_TYPE = kind(
    "comma-in-type",
    "within {{ }} the comma ends this type",
    "write {type}, which needs no quotes",
    "To YAML a comma within braces begins another entry, whatever stands in angle brackets.",
    declared("""
    products:
      Leg: {required: {label: text}}
      RefitPlan: {required: {legs: {type: map<text, Leg>, min_length: 1}}}
    """),
)
ODD_KEY = kind(
    "odd-key",
    "a key has to be a word, not a list or a mapping",
    "use a plain name as the key",
    "YAML allows collections as keys, this format does not.",
    declared("products: {[Mark]: {}}\n"),
)
ODD_TAG = kind(
    "odd-tag",
    "the tag {tag} means nothing here",
    "leave the tag out",
    "Types are told by the format, not by YAML tags.",
    declared("doc: !harbour Fairway\n"),
)
