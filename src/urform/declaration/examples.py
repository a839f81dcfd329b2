"""For each mapping of the format a whole declaration that uses all of its keys. A test holds that it is valid and does."""

from __future__ import annotations

from collections.abc import Mapping

from urform.declaration.problems import declared

_MARKS = declared("""
    doc: The fairway marks of Port Varrow.
    targets: {python: {package: varrow.marks}, go: {}}
    records: true
    choices: {Side: {values: [port, starboard]}}
    products: {Mark: {required: {station: integer, side: Side}}}
    families: {}
""")
_FIELDS = declared("""
    products:
      Chart: {required: {sheet: text}}
      Refit:
        mutable: true
        required:
          title: {type: text, not_blank: true, min_length: 2, max_length: 80, doc: What it is about.}
          code: {type: text, pattern: '[A-Z]{2}[0-9]+', secret: true, as: refitCode}
          state: {type: text, one_of: [planned, done]}
        optional:
          crew: {type: integer, min: 1, max: 12, default: 2}
          draught: {type: real, above: 0, below: 10}
          sheets: {type: list<Chart>, item: sheet, copy: shallow}
          channels: {type: list<integer>, unique: true, each: {min: 1, max: 88}}
""")
_LIMITS = declared("""
    products:
      Survey:
        optional:
          depths: {type: list<real>, each: {above: 0, below: 400}}
          stations: {type: set<integer>, each: {min: 1, max: 9999}}
          ranks: {type: list<integer>, each: {one_of: [1, 2, 3]}}
          notes: {type: map<text to text>, each: {not_blank: true, min_length: 2, max_length: 80}}
          codes: {type: list<text>, each: {pattern: '[A-Z]{2}'}}
""")
_MARK = declared("""
    records: true
    products:
      Mark:
        as: seamark
        doc: Anything that shows a pilot where the fairway runs.
        required: {station: integer}
        optional: {reflective: {type: boolean, default: true}}
        operations:
          chart_label: {returns: text, doc: The words printed beside the mark.}
          range_from: {takes: {eye_height: real}, returns: 'real?', once: true}
        variants:
          Buoy: {key: T1, as: BUOY, doc: A mark that floats., answers: {chart_label: floating mark}}
          Beacon:
            keys: [WX-811, WX-812]
            required: {height: real}
            optional: {colour: text}
            defaults: {reflective: false}
            operations: {lamp: {returns: text}}
            answers: {chart_label: fixed mark, lamp: none}
          NoMark: {answers: {chart_label: no mark}}
        factory: {form: registry, unknown: {use: Buoy}}
""")
_WAYS = declared("""
    products:
      Refit:
        mutable: true
        required: {title: text, crew: integer, place: text}
        optional: {tags: {type: list<text>, item: tag}}
        operations: {label: {returns: text}}
        answers: {label: refit}
        builder:
          style: fluent
          after_build: reset
          missing: at_build
          presets: {spring: {crew: 4, tags: [spring]}}
        prototype:
          exemplars: {plain: {title: Plain refit, crew: 2, place: quay}}
      LightRhythm:
        required: {code: text, period_ms: integer}
        optional: {pulses: list<integer>}
        flyweight: {key: [code, period_ms], hold: weak}
      Office: {single: true}
""")
_BY_VALUES = declared("""
    products:
      TideOffset:
        variants:
          KnownOffset: {required: {centimetres: integer, datum: text}}
          NoOffset: {single: true}
        factory:
          form: by_values
          refuse:
            - centimetres < -500
            - {when: centimetres != 0 and blank(datum), reason: a datum is missing}
          choose:
            - {use: NoOffset, when: centimetres == 0}
            - {use: KnownOffset}
""")
_FAMILY = declared("""
    products:
      Hull: {optional: {length: {type: real, default: 3.0}}, variants: {Steel: {}, Spar: {required: {planks: integer}}}}
      Mooring: {variants: {Chain: {}, Sinker: {}}}
    families:
      Outfit:
        doc: Everything one mark needs for a season.
        makes: {hull: Hull, moorings: list<Mooring>}
        members:
          OpenWater: {hull: Steel, moorings: [Chain, Chain]}
          Ice: {hull: {use: Spar, with: {planks: 9}}, moorings: [Sinker]}
        unknown: {use: OpenWater}
        stand_in: true
""")
_WORDS = declared("""
    records: {unknown: ignore, kind_field: type, write: all}
    choices:
      Side:
        doc: The side of the fairway, seen when coming in from sea.
        values: [port, {word: starboard, as: S}]
    products: {Mark: {required: {side: Side}}}
""")

EXAMPLES: Mapping[str, tuple[str, ...]] = {
    "declaration": (_MARKS,),
    "settings of records": (_WORDS,),
    "choice": (_WORDS,),
    "word": (_WORDS,),
    "product": (_MARK, _WAYS),
    "field": (_FIELDS,),
    "set of limits": (_LIMITS,),
    "operation": (_MARK,),
    "variant": (_MARK, _WAYS, _BY_VALUES),
    "factory": (_MARK, _BY_VALUES),
    "replacement": (_MARK,),
    "refusal": (_BY_VALUES,),
    "choice of variant": (_BY_VALUES,),
    "builder": (_WAYS,),
    "prototype": (_WAYS,),
    "flyweight": (_WAYS,),
    "family": (_FAMILY,),
    "part": (_FAMILY,),
}
