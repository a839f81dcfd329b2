"""Factories by key in Go."""

from __future__ import annotations

from urform.languages.go.context import Context
from urform.languages.go.expressions import text_literal
from urform.languages.go.views import joined, types_of
from urform.languages.layout.columns import SECTION, begins_section
from urform.languages.naming.names import pascal
from urform.languages.rendering.prose import of_unknown_key
from urform.plan.model import Factory, Product
from urform.prose import with_article


class FactoryWriter:
    """Writes factories by key."""

    def __init__(self, context: Context) -> None:
        self._context = context

    def text(self, product: Product, factory: Factory) -> str:
        """A function, a registry, or creators."""
        variants = [self._context.plan.products[name] for name in product.variants]
        type_ = self._context.names.type(product.name)
        fallible = factory.needs_more or any(map(self._context.code.fallible, variants))
        always = factory.form == "registry"
        kinds = [self._kind(product, factory, key, name, fallible) for key, name in factory.kinds.items()]
        for kind, is_apart in zip(kinds, begins_section([kind["key"] for kind in kinds]), strict=True):
            kind["apart"] = SECTION if is_apart else ""
        creators = factory.form == "creators"
        typed = [("record", "any")] if factory.needs_more else self._context.typed(product)
        parameters = joined(typed)
        fails = ((always or fallible) and not creators) or factory.unknown == "error"
        made_type = f"{type_}Creator" if creators else type_
        for kind in kinds:
            kind["creator"] = f"{kind['type']}Creator{{}}" + self._success(factory, fails)
            if not creators:
                kind["made"] = self._returned(factory, kind, fallible, fails)
        return self._context.templates.render(
            "factory",
            product.name,
            g={
                "form": factory.form,
                "type": type_,
                "owner": product.name,
                "a": with_article(type_),
                "said": of_unknown_key(
                    factory.unknown, with_article(self._context.names.type(factory.unknown))
                ),
                "parameters": parameters,
                "calls": types_of(typed),
                "arguments": self._passed(product, factory),
                "key_and_parameters": f"key string{', ' if parameters else ''}{parameters}",
                "kinds": kinds,
                "creators": [self._kind(product, factory, "", v.name, fallible) for v in variants]
                if creators
                else [],
                "cases": [kind for kind in kinds if kind["variant"] != factory.unknown],
                "result": result_type(made_type, factory.unknown == "nothing", fails),
                "create_result": f"({type_}, error)" if fallible else type_,
                "otherwise": self._otherwise(product, factory, kinds, fails),
                "made": self._from_maker(product, factory),
                "makers": self._makers(product, factory, variants) if fallible or always else [],
            },
        )

    def _passed(self, product: Product, factory: Factory) -> str:
        """The names of what a maker takes: the fields of all kinds, or a record."""
        return "record" if factory.needs_more else self._context.arguments(product)

    def _kind(
        self, product: Product, factory: Factory, key: str, name: str, fallible: bool
    ) -> dict[str, str]:
        variant = self._context.plan.products[name]
        type_ = self._context.names.type(name)
        constant = f"{type_}Key" if variant.key == key else text_literal(key)
        own = factory.needs_more or self._context.code.fallible(variant)
        made = f"New{type_}({self._context.arguments(product, variant)})"
        call = f"make{type_}({self._passed(product, factory)})" if own else made
        suffix = ", nil" if fallible and not own else ""
        maker = f"make{type_}"
        return {
            "key": constant,
            "type": type_,
            "variant": name,
            "a": with_article(type_),
            "made": call + suffix,
            "maker": maker,
            "own": "yes" if own else "",
        }

    def _success(self, factory: Factory, fails: bool) -> str:
        return (", true" if factory.unknown == "nothing" else "") + (", nil" if fails else "")

    def _returned(self, factory: Factory, kind: dict[str, str], fallible: bool, fails: bool) -> str:
        """The expression that a case of a simple factory returns."""
        if factory.unknown != "nothing":
            return kind["made"] if fallible or not fails else f"{kind['made']}, nil"
        if not fallible:
            return f"{kind['made']}, true"
        return f"found({kind['made']})" if kind["own"] else f"{kind['made'].removesuffix(', nil')}, true, nil"

    def _otherwise(self, product: Product, factory: Factory, kinds: list[dict[str, str]], fails: bool) -> str:
        if factory.unknown == "error":
            known = "r.Keys()" if factory.form == "registry" else None
            keys = known or f"[]string{{{', '.join(text_literal(key) for key in factory.known)}}}"
            return f'return nil, &UnknownKeyError{{Owner: "{product.name}", Key: key, Known: {keys}}}'
        if factory.unknown == "nothing":
            return "return nil, false" + (", nil" if fails else "")
        kind = next(kind for kind in kinds if kind["variant"] == factory.unknown)
        if factory.form == "registry":
            return f"return {kind['maker']}({self._passed(product, factory)})"
        return f"return {kind['creator'] if factory.form == 'creators' else kind['made']}"

    def _from_maker(self, product: Product, factory: Factory) -> list[str]:
        call = f"maker({self._passed(product, factory)})"
        nothing = ", false" if factory.unknown == "nothing" else ""
        present = ", true" if factory.unknown == "nothing" else ""
        refused = f'&RefusedError{{Owner: "{product.name}", Reason: "its maker gives none"}}'
        return [
            f"made, err := {call}",
            "if err != nil {",
            f"\treturn nil{nothing}, err",
            "}",
            "if made == nil {",
            f"\treturn nil{nothing}, {refused}",
            "}",
            f"return made{present}, nil",
        ]

    def _makers(self, product: Product, factory: Factory, variants: list[Product]) -> list[dict[str, object]]:
        makers: list[dict[str, object]] = []
        for variant in variants:
            fallible = factory.needs_more or self._context.code.fallible(variant)
            if fallible or factory.form == "registry":
                type_ = self._context.names.type(variant.name)
                call = f"New{type_}({self._context.arguments(product, variant)})"
                if factory.needs_more:
                    call = f"Read{pascal(variant.name)}(record)"
                makers.append({"type": type_, "call": call, "fallible": fallible})
        return makers


def result_type(type_: str, nothing: bool, fails: bool) -> str:
    """The type that a lookup returns: a value, and perhaps whether there is one, and perhaps an error."""
    parts = [type_, *(["bool"] if nothing else []), *(["error"] if fails else [])]
    return parts[0] if len(parts) == 1 else f"({', '.join(parts)})"
