"""Circles of required fields: who leads back to itself, and what has an instance that ends."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from tests.batches import plan_of
from urform.plan import claims_of
from urform.plan.circles import circles_of, components
from urform.plan.operands import Several, Witness
from urform.plan.text import plan_text
from urform.plan.witnesses import Witnesses

NAMES = [f"n{number}" for number in range(8)]
GRAPHS = st.fixed_dictionaries({name: st.lists(st.sampled_from(NAMES), max_size=3) for name in NAMES})


def reached(uses: dict[str, list[str]], start: str) -> set[str]:
    found, waiting = set[str](), [start]
    while waiting:
        for name in uses[waiting.pop()]:
            if name not in found:
                found.add(name)
                waiting.append(name)
    return found


@given(GRAPHS)
def test_circles_are_those_that_reach_each_other(uses: dict[str, list[str]]) -> None:
    numbers = components(uses)
    for one in NAMES:
        for other in NAMES:
            together = one == other or (other in reached(uses, one) and one in reached(uses, other))
            assert (numbers[one] == numbers[other]) is together
            if other in uses[one]:
                assert numbers[other] <= numbers[one], "what is used comes first"


RECURSIVE = """
urform: 1
name: circles
products:
  Channel: {required: {arms: list<Channel>}}
  Light: {variants: {Framed: {required: {inner: Light}}, Bare: {required: {watts: integer}}}}
  Sound: {variants: {Quiet: {}, Echo: {required: {of: Cave}}}}
  Cave: {variants: {Small: {}, Deep: {required: {heard: Sound}}}}
"""


def test_the_shallowest_instance_ends_a_circle() -> None:
    plan = plan_of(RECURSIVE)
    circles = circles_of(plan)
    assert [circles.shallowest(name) for name in ("Light", "Sound", "Cave")] == ["Bare", "Quiet", "Small"]
    framed = plan.products["Framed"]
    assert circles.leads_back(framed, framed.field("inner").type)
    witnesses = Witnesses(plan)
    assert witnesses.arguments(framed) == {"inner": Witness("Bare")}
    channel = plan.products["Channel"]
    arms = channel.field("arms").type
    assert witnesses.arguments(channel) == {"arms": Several(arms, ())}
    assert witnesses.of(channel.field("arms")) == Several(arms, (Witness("Channel"),))


def test_a_long_chain_of_products_is_planned() -> None:
    chain = "".join(f"  P{n}: {{required: {{label: text, inner: P{n - 1}}}}}\n" for n in range(1, 400))
    plan = plan_of(f"urform: 1\nname: chain\nproducts:\n  P0: {{required: {{label: text}}}}\n{chain}")
    assert len(list(claims_of(plan))) > 2000


NEVER = """
urform: 1
name: never
products:
  Light:
    required: {watts: integer}
    variants: {Lit: {}}
    factory: {form: by_values, refuse: ["watts < 3 or not (watts < 3)"], choose: [{use: Lit}]}
  Mast: {required: {lights: {type: list<Light>, min_length: 1}, yards: list<Yard>}}
  Yard: {required: {of: Mast}}
  Keeper: {operations: {find: {returns: Yard}}, variants: {Old: {}}}
families:
  Crew: {makes: {keeper: Keeper}, members: {Day: {keeper: Old}}, stand_in: true}
"""


def test_what_is_made_of_what_can_never_be_made_has_no_witness() -> None:
    """No type tells: the one that the circle ends in is refused by the conditions of a factory."""
    plan = plan_of(NEVER)
    witnesses = Witnesses(plan)
    assert [witnesses.arguments(plan.products[name]) for name in ("Lit", "Mast", "Yard")] == [None] * 3
    (crew,) = plan.families
    assert crew.stand_in is None, "there is nothing that it could answer"
    assert "  no stand-in: Keeper.find returns Yard, and none can be made\n" in plan_text(
        plan, claims_of(plan)
    )
