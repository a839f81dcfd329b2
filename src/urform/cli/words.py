"""The glossary of Urform: claim groups and patterns, when they pay and when they are too much."""

# What a person comes with, and the word to begin with.
HAVING: dict[str, str] = {
    "a switch over a type code, in several places": "factory",
    "kinds that come as plug-ins, or from a file": "registry",
    "a constructor with many arguments": "builder",
    "a constructor that can only succeed or throw": "by_values",
    "a copy that shares its inner list": "prototype",
    "parts that have to fit together": "family",
    "many objects with few different contents": "flyweight",
    "records to read: a file, a form, a message": "records",
    "a project that exists already": "targets",
    "types in code, or a JSON Schema": "adopt",
    "a code base where such code is scattered": "audit",
    "tests that have never failed": "challenge",
}
PATTERNS = (
    "factory",
    "simple",
    "registry",
    "creators",
    "by_values",
    "family",
    "builder",
    "prototype",
    "flyweight",
    "single",
)

WORDS: dict[str, str] = {
    "required": "required (claims): leaving a field out is refused, naming it; null too, where the language has it.\n\n"
    "example: required/Mark.station",
    "default": "default (claims): a field that is not given has exactly its declared default; a mutable default is never\n"
    "shared between two products.\n\nexample: default/Mark.reflective",
    "absent": "absent (claims): an optional field without a default is absent until it is given, in the idiom of the\n"
    "language: None, an empty Optional, (value, false).\n\nexample: absent/Mark.remarks",
    "words": "words (claims): each word of a choice can be read from text and is listed, in the order of the declaration;\n"
    'any other text is refused with an error that names the known ones: `Side("port")` in Python, `Side.parse` in Java\n'
    'and TypeScript, `ParseSide` in Go, `"port".parse::<Side>()` in Rust, `parse_side` in C++.\n\nexample: words/Side',
    "limit": "limit (claims): the value just outside a limit is refused, naming field and limit; the value on the edge is\n"
    "accepted. Two limits need no declaring: a real is finite, a choice is one of its words.\n\n"
    "example: limit/Mark.station:min",
    "immutable": "immutable (claims): nothing that is handed in or out can be used to change a product.\n\n"
    "example: immutable/LightRhythm",
    "own": "own (claims): a mutable product owns what it holds. Changing what was handed in, or the container handed out,\n"
    "does not change it.\n\nexample: own/RefitPlan.legs:setter",
    "change": "change (claims): a mutable product whose field has an `item` is changed element by element: add and remove in a list\n"
    "or set, put in the place of another in a list, put and remove under the key of a map. The others stay what they were,\n"
    "the new one is the product's own, and a change that would break a limit is refused and leaves everything as it was.\n\n"
    "example: change/RefitPlan.legs:add",
    "equal": "equal (claims): equal content is equal; one field changed, or another variant, is not.\n\n"
    "example: equal/Position",
    "kind": "kind (claims): a key makes its type and no other, given fields arrive, and the key can be read back. It catches\n"
    "the copied branch that returns the wrong type.\n\nexample: kind/Mark.buoy",
    "unknown-kind": "unknown-kind (claims): an unknown key does what was declared: an error that names the key and\n"
    "the known ones, nothing, or a declared variant.\n\nexample: unknown-kind/Mark",
    "open": "open (claims): kinds can be added, removed and loaded while running; a key twice is refused; registries share\n"
    "nothing. A loader is called at the first ask for its key, once; one that gives no maker is refused and tried again.\n\n"
    "example: open/Mark:register, open/Mark:loaded-once",
    "single": "single (claims and products): one instance only, whoever asks, from several threads too.\n\n"
    "When it pays: a null object, a default that is compared by identity.\n"
    "When it is too much: for anything with state; a test cannot replace it.\n\nexample: single/NoOffset",
    **dict.fromkeys(
        ("key", "keys"),
        "key (kinds): the type code of a variant, by which a factory makes it and which is read back from it: any text of\n"
        "1 to 80 characters without controls. `keys` gives a variant several, of which it tells the first. Without either\n"
        "the key is the variant's name in lower_snake. Names in code come from the variant's name, never from the key.\n\n"
        '    variants: {Buoy: {key: T1}, Beacon: {keys: [WX-811, "WX 811"]}}',
    ),
    "secret": "secret (fields): a text, or a collection of texts, that stands in no message and in no data of an error.\n"
    "The errors of other fields tell the value that was found.\n\n"
    "    required: {code: {type: text, secret: true, min_length: 4}}",
    "json": "json (settings): the library by which JSON text is read into records, in the languages whose standard library reads\n"
    "none. Nothing else in the generated code needs it, and `verify` leaves the file that does out.\n\n"
    "    targets: {java: {json: jackson}, rust: {json: serde_json}, cpp: {json: nlohmann}}",
    "pattern": "pattern (limits): what a text looks like from its first character to its last, as an I-Regexp (RFC 9485), which\n"
    "means the same in every language: characters, `.`, classes like `[A-Z]`, categories of Unicode like `\\p{Lu}`, groups,\n"
    "`|`, `*`, `+`, `?`, `{2,5}`. There are no anchors, for it is always about the whole text, and no `\\d`, `\\w`, `\\s`.\n"
    "Urform makes a table of it; each generated library walks through that, one step a character, whatever the text.\n\n"
    "    required: {call_sign: {type: text, pattern: '[A-Z]{2}[0-9]+'}}",
    "uri": "uri (types): a text that is a URI as RFC 3986 has it, with its scheme. A field, the elements of a list or set and the\n"
    "values of a map can be one. In code it is the language's text; the limit that it keeps is called `uri`.\n\n"
    "    optional: {chart: uri, links: list<uri>}",
    "date": "date (types): a day of the Gregorian calendar, in the years 0001 to 9999, written as `2026-12-01` (RFC 3339) and in no\n"
    "other form. In code it is the language's own type where that has one, and a small one of the library else. `min`, `max`,\n"
    "`above` and `below` take dates; what a language's type holds beside days breaks the limit that is called `date`.\n\n"
    "    required: {issued: {type: date, min: 2000-01-01}}",
    "instant": "instant (types): a point in time, to the microsecond, in the years 0001 to 9999 of UTC. It is written as\n"
    "`2026-12-01T05:30:00Z` (RFC 3339); another offset is read too, and not kept, so the same point in time is equal however it\n"
    "was written. In code it is the language's own type where that has one, and a small one of the library else. `min`, `max`,\n"
    "`above` and `below` take instants; what a language's type holds beside them, such as a nanosecond, breaks the limit that is\n"
    "called `instant`.\n\n"
    "    required: {seen: {type: instant, min: 2000-01-01T00:00:00Z}}",
    "time": "time (types): a time of day, to the microsecond, without a time zone, written as `06:30:00` or `06:30:00.25` (RFC 3339).\n"
    "In code it is the language's own type where that has one, and a small one of the library else. `min`, `max`, `above` and\n"
    "`below` take times; what a language's type holds beside them, such as a nanosecond, breaks the limit that is called `time`.\n\n"
    "    required: {begins: {type: time, min: 06:00:00, below: 18:00:00}}",
    "duration": "duration (types): a length of time, to the microsecond, of at most 100,000 days, negative ones too. It is written as\n"
    "ISO 8601 has it, in weeks or in days, hours, minutes and seconds: `PT26H30M`, `P1DT2H30M`, `-PT0.5S`. A day is 24 hours, and\n"
    "there are no months. In code it is the language's own type where that has one, and a small one of the library else. What such\n"
    "a type holds beside these, such as a nanosecond, breaks the limit that is called `duration`.\n\n"
    "    optional: {pause: {type: duration, above: PT0S, max: PT8H, default: PT15M}}",
    "decimal": "decimal (types): an exact decimal number, with up to 20 digits before the point and 18 behind it. How many zeros it ends\n"
    "in is no part of it: 12.50 is 12.5. Declarations have it with quotes or without, records as a text, because readers of JSON\n"
    "round numbers. In code it is the language's own type where that has one, and a small one of the library else, which can be\n"
    "compared. What such a type holds beside these, such as more digits, breaks the limit that is called `decimal`.\n\n"
    "    required: {depth: {type: decimal, min: 0, below: 1000}}",
    "uuid": "uuid (types): 128 bits (RFC 9562), written as five groups of hexadecimal digits with hyphens between them, in either\n"
    "case, and shown in lower case. In code it is the language's own type where that has one, and a small one of the library else.\n\n"
    "    required: {id: uuid}",
    "unique": "unique (limits): no element of a list is equal to another. It goes with texts, integers and the words of a choice. Changes\n"
    "of one element keep it too. Where the order says nothing, a set is the plainer type.\n\n"
    "    optional: {channels: {type: list<integer>, unique: true}}",
    **dict.fromkeys(
        ("operation", "operations", "returns", "answers", "once"),
        "operations (products): what clients call. `answers` gives a constant, on a variant or, for all that have none, on the\n"
        "product that has the variants; what is not answered you write in a file of your own, for each variant or, with\n"
        "`once: true`, for all of them. Without `returns` an operation gives nothing; `text?` may give nothing.\n\n"
        "    operations: {label: {returns: text}, nickname: {returns: text?}, show: {once: true}}\n"
        "    answers: {label: mark, nickname: null}",
    ),
    "answer": "answer (claims): an operation gives the constant that was declared for it.\n\nexample: answer/Buoy.chart_label",
    "simple": "simple (factory): one function from key and fields to product.\n\n"
    "When it pays: the kinds are closed and known; one place to change when a kind is added.\n"
    "When it is too much: with one kind; the constructor says it.\n\n    factory: {form: simple, unknown: error}",
    "registry": "registry (factory): like simple, and open: kinds can be registered, removed and listed while running. One can be\n"
    "loaded at the first ask for its key, by a function, or by its name in Python, Java and TypeScript.\n\n"
    "When it pays: plug-ins add kinds; tests put in a kind of their own.\n"
    "When it is too much: when all kinds stand in one file; a function is shorter.\n\n"
    "    factory: {form: registry, unknown: error}",
    "creators": "creators (factory): an abstract creator, one per variant, and a lookup from key to creator.\n\n"
    "When it pays: a creator is passed around, or clients subclass it.\n"
    "When it is too much: where a function serves; each variant costs a class.\n\n"
    "    factory: {form: creators, unknown: nothing}",
    "by_values": "by_values (factory): hidden constructors behind one entry that looks at the values: it refuses some, with the\n"
    "reason, and chooses a variant for the others. A second entry gives the product or nothing.\n\n"
    "When it pays: a constructor could only succeed or throw, and the caller wants nothing, another type, or a null object.\n"
    "When it is too much: when the caller knows the type; a key or the constructor says it.\n\n"
    "    factory:\n      form: by_values\n      refuse: [centimetres < -500]\n"
    "      choose: [{use: NoOffset, when: centimetres == 0}, {use: KnownOffset}]",
    "choose": "choose (claims): values on both sides of a condition pick the declared variant, and where two conditions hold the\n"
    "first decides.\n\nexample: choose/TideOffset.NoOffset",
    "refuse": "refuse (claims): such values give no product: one entry fails with the reason, the other gives nothing. What is\n"
    "missing stays an error in both.\n\nexample: refuse/TideOffset:1",
    "factory": "factory (pattern): makes one of several types from a key or from values, in one place instead of a switch in\n"
    "many. Forms: simple, registry, creators, by_values.\n\n"
    "A kind with required fields of its own needs `records: true`. Python and TypeScript then tie its key to its fields;\n"
    "in Java, Go, Rust and C++ the entry by key takes a record, and the constructor is for who knows the kind.",
    "builder": "builder (pattern): values in any order, some left out, presets for usual cases, all that is missing told at once.\n\n"
    "When it pays: many optional fields, arguments of one type that get swapped, values that arrive one by one.\n"
    "When it is too much: for two fields, or where the language has named arguments and nothing else is asked.\n\n"
    "A product with variants has none: a builder has to know from the start which variant it builds, and those of several\n"
    "would repeat the setters of their base. Give what takes many values a product of its own, with a builder, and have\n"
    "the variants hold that.\n\n"
    "With `missing: at_compile_time` the compiler tells what was not given. In Python (for a type checker), TypeScript,\n"
    "Rust and C++ each setter gives a builder of another type, so calls are chained, or kept in a variable each. In Java\n"
    "required fields come one after the other, in declared order. Go cannot follow it: the build tells it as it runs.\n\n"
    "    builder: {style: fluent, after_build: keep, presets: {spring: {crew: 4}}}\n"
    "    builder: {missing: at_compile_time}",
    "build": "build (claims): any order gives the same; a build names everything that is missing, then the first limit; it keeps\n"
    "its values or is empty again, as declared; builders share nothing with each other or with what they built. With\n"
    "`missing: at_compile_time`, clients that leave a field out are compiled, and the compiler has to refuse each.\n\n"
    "example: build/RefitPlan:missing, build/RefitPlan:compile-time",
    "preset": "preset (claims): every declared value arrives, and the caller's own value wins.\n\nexample: preset/RefitPlan.spring_refit",
    "prototype": "prototype (pattern): a clone that keeps the concrete type and follows `copy` per field: deep, shallow, shared, fresh.\n\n"
    "When it pays: copies are changed, types are known only by their base, named exemplars are the start of new ones.\n"
    "When it is too much: for immutable products; a clone of one is itself.\n\n"
    "    prototype: {exemplars: {plain: {title: Plain refit, legs: [{label: Inspect}]}}}",
    "clone": "clone (claims): the clone has the type and content of the original; a change to one never reaches the other, at every\n"
    "level of what is owned; shared stays the same object, shallow has its own container, fresh starts again.\n\n"
    "example: clone/RefitPlan.legs:deep",
    "exemplar": "exemplar (claims): a named instance is handed out as clones, each for itself; names are listed, and a name twice is\n"
    "refused.\n\nexample: exemplar/RefitPlan.plain",
    "flyweight": "flyweight (pattern): a pool that gives one instance per key, made once however many ask, and counts.\n\n"
    "When it pays: many holders, few different values, a heavy or costly content. `urform measure` tells for your own.\n"
    "When it is too much: where an instance holds nothing beyond its key.\n\n"
    "A product with variants has none: which variant a key means would be one more part of each key. Pool what the\n"
    "variants have in common, as a product of its own, and have them share it (`copy: shared`).\n\n"
    "    flyweight: {key: [code, period_ms], hold: strong}",
    "pool": "pool (claims): same key, same instance; one construction however many threads ask; a maker that fails leaves nothing;\n"
    "a hit waits for nobody; the counts are exact. What waits for a garbage collector and is not seen is *not shown*.\n\n"
    "example: pool/LightRhythm:once",
    **dict.fromkeys(
        ("targets", "into", "code", "tests", "project"),
        "targets (settings): the targets that are meant where no -t says otherwise, and where the files of each go.\n"
        "`into` names the project's folder from that of the declaration, `code` and `tests` folders in it (`tests: none`\n"
        "leaves them out), and `project: none` the build files. A package, module, namespace or crate has the name that\n"
        "the language gives it. What is left out is as the language is used to.\n\n"
        "When it pays: in a project that exists. When it is too much: to look at what is generated; OUT/TARGET does.\n\n"
        "    targets: {python: {package: varrow.fairway, into: ../station, code: src, project: none}}",
    ),
    "records": "records (settings): reading a product from what the language's JSON reader gives, and writing it as such.\n\n"
    "A record has the fields under their names, or under those that `as` gives; a variant's tells its kind under `kind`\n"
    "(`kind_field`). Everything that is wrong is told at once, each problem with its path; an unknown name is refused, or\n"
    "ignored (`unknown: ignore`). What is absent or has its default is not written (`write: all` does).\n\n"
    "When it pays: what is to be made stands in files or messages, also those of others.\n"
    "When it is too much: where nothing is read; it is more code than the products themselves.\n\n"
    "    records: {kind_field: type, unknown: ignore}",
    "record": "record (claims): what is written is the same text everywhere and is read back as the same product, nothing is\n"
    "converted, and everything that is wrong is told in the declared order: path, value, and what is wanted.\n\n"
    "example: record/Mark:all-problems",
    "adopt": "adopt: a declaration drafted from what exists, JSON Schemas or types in source code. It tells what was carried\n"
    "over whole, in part and not, each loss with its place; the draft is valid, and a beginning.\n\n"
    "When it pays: types or payloads exist that one would else type again.\n"
    "When it is too much: for one small type; write it by hand.\n\n    urform adopt notices.schema.json -o notices.urform.yaml",
    "audit": "audit: creation code that a declaration would replace, or that is wrong already, found by reading source code:\n"
    "each finding with its place, the lines that show it, and a mend. A comment `urform: keep ID` keeps what is meant.\n\n"
    "When it pays: before one begins with a code base; in continuous integration, with --baseline.\n"
    "When it is too much: it cannot know what is meant to be shared, and it sees no reflection.\n\n"
    "    urform audit src --level warning",
    "challenge": "challenge: one fault at a time in the generated code, unchanged tests, and a verdict for each fault and target:\n"
    "caught (the test of the claim that it breaks failed), caught elsewhere (only another claim's test did), survived\n"
    "(none did), not expressible (the language makes the mistake impossible), not run.\n\n"
    "When it pays: before trusting tests that have never failed; after templates or your own tests were changed.\n"
    "When it is too much: on every save; verify is enough.\n\n    urform challenge --only clone",
    "fault": "fault: one mistake in what is generated, named after the claim that ought to notice it. Two kinds swapped, an edge\n"
    "moved by one, a setter that keeps the caller's list, a pool without its lock.\n\n"
    "example: limit/Mark.station:min~inwards",
    "family": "family (pattern and claims): an abstract factory, whose members make parts that fit together.\n\n"
    "When it pays: whole sets of parts are exchanged; clients see interfaces only and take a stand-in in their tests.\n"
    "When it is too much: with one member.\n\n"
    "    families: {Outfit: {makes: {hull: Hull}, members: {Ice: {hull: SparHull}, Open: {hull: SteelHull}}}}\n\n"
    "example: family/Outfit.Ice.hull",
}
