"""Lowers each step of a test to calls, in the words of a target (`writer.py`)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from urform.languages.testing import factories
from urform.languages.testing.contract import Call, Lines
from urform.languages.testing.writer import StepWriter
from urform.plan import making_steps as m
from urform.plan import record_steps as r
from urform.plan import steps as s
from urform.plan.operands import Failure, UnknownKey
from urform.plan.outcomes import Fails, GivesNothing
from urform.plan.script import Case, Step
from urform.plan.walkthrough import Line, Print, PrintCounts, PrintSame

Written = Callable[[StepWriter, Any], Lines]


def written(writer: StepWriter, step: Step) -> Lines:
    """The lines of one step."""
    return _STEPS[type(step)](writer, step)


def case_lines(writer: StepWriter, case: Case) -> Lines:
    """The lines of a case; later cases of a test number the variables that they make again."""
    writer.begin(case.steps)
    for step in case.steps:
        writer.scope.enter(step)
        yield from written(writer, step)


def line(writer: StepWriter, each: Line) -> Lines:
    """The lines of what the walk-through does or prints."""
    match each:
        case Print(words, shown):
            return writer.printed(words, shown)
        case PrintSame(left, right):
            return writer.printed_same(left, right)
        case PrintCounts(pool):
            return writer.lines("print counts", on=writer.var(pool))
    writer.scope.enter(each)
    return written(writer, each)


# --- products ---------------------------------------------------------------------------------------------


def _make(w: StepWriter, step: s.Make) -> Lines:
    call, product = w.construction(step.product, step.arguments), w.plan.products[step.product]
    return w.keep(step, step.var, call) if w.plan.selected_by(product) is None else w.narrowed(step, call)


def _set(w: StepWriter, step: s.Set) -> Lines:
    return w.do(w.set_call(step.path, step.value))


def _change_one(w: StepWriter, step: s.ChangeOne) -> Lines:
    call = w.change_call(step)
    if step.was_there is None:
        return w.do(call)
    return w.told(call, step.was_there)


def _field_is(w: StepWriter, step: s.FieldIs) -> Lines:
    return w.field_is(step.path, w.scope.field(step.path), step.value)


def _equal(w: StepWriter, step: s.Equal) -> Lines:
    yield from w.equal(step.left, step.right)
    if step.hashes and "equal hashes" in w.words:
        left, right = w.reference(step.left), w.reference(step.right)
        yield from w.lines("equal hashes", left=left, right=right)


def _kind_is(w: StepWriter, step: s.KindIs) -> Lines:
    yield from w.kind_is(step.var, step.product)
    key = w.plan.product(step.product).key
    if key is not None:
        yield from w.key_is(step.var, key)


# --- factories --------------------------------------------------------------------------------------------


def _register(w: StepWriter, step: s.Register) -> Lines:
    before, call = factories.register(w, step)
    yield from before
    yield from w.do(call)


def _unregister(w: StepWriter, step: s.Unregister) -> Lines:
    phrase = "unregister" if step.found else "unregister nothing"
    told = w.literal(f"{step.key} was there")
    return w.lines(phrase, on=w.var(step.registry), key=w.literal(step.key), what=told)


def _keys_are(w: StepWriter, step: s.KeysAre) -> Lines:
    return w.lines("keys are", on=w.var(step.registry), texts=w.texts(step.keys))


def _ask(w: StepWriter, step: s.Ask) -> Lines:
    call = factories.ask(w, step)
    if factories.has_creators(w, step):
        before, call = factories.created(w, step, call)
        yield from before
    yield from w.keep(step, step.var, call)


def _select(w: StepWriter, step: m.Select) -> Lines:
    call = w.select(w.selection(step.product), step.arguments, or_nothing=step.or_nothing)
    return w.keep(step, step.var, call)


# --- builders ---------------------------------------------------------------------------------------------


def _on_builder(w: StepWriter, step: m.BuilderCall) -> Lines:
    owner = w.scope.owner(step.builder)
    return w.on_builder(step, w.builder(owner), w.builder_call(owner, step))


def _build(w: StepWriter, step: m.Build) -> Lines:
    fails = w.build_fails(w.plan.products[w.scope.owner(step.builder)])
    return w.keep(step, step.var, w.built(step, fails=fails))


# --- exemplars --------------------------------------------------------------------------------------------


def _exemplar_add(w: StepWriter, step: m.ExemplarAdd) -> Lines:
    return w.do(w.stored(step.store, step.name, step.product))


def _exemplar_get(w: StepWriter, step: m.ExemplarGet) -> Lines:
    return w.keep(step, step.var, w.exemplar_call(step.store, step.name))


def _names_are(w: StepWriter, step: m.NamesAre) -> Lines:
    return w.lines("names are", on=w.var(step.store), texts=w.texts(step.names))


# --- families ---------------------------------------------------------------------------------------------


def _family_of(w: StepWriter, step: m.FamilyOf) -> Lines:
    return w.keep(step, step.var, w.family_call(step.family, step.key))


def _family_is(w: StepWriter, step: m.FamilyIs) -> Lines:
    return w.lines("family is", var=w.var(step.var), member=w.member(step.family, step.member))


def _new_stand_in(w: StepWriter, step: m.NewStandIn) -> Lines:
    return w.lines("new stand-in", var=w.var(step.var), type=w.stand_in(step.family))


def _ask_role(w: StepWriter, step: m.AskRole) -> Lines:
    return w.keep(step, step.var, w.role_call(step.family, step.role, step.arguments))


def _asked_are(w: StepWriter, step: m.AskedAre) -> Lines:
    return w.lines("asked are", on=w.var(step.stand_in), texts=w.texts(step.roles))


# --- pools ------------------------------------------------------------------------------------------------


def _new_pool(w: StepWriter, step: m.NewPool) -> Lines:
    if step.arguments is None:
        return w.begun("new pool", step.var, step.product)
    maker = w.pool_maker(step.product, step.arguments)
    return w.begun("new pool with maker", step.var, step.product, maker=maker)


def _pool_ask(w: StepWriter, step: m.PoolAsk) -> Lines:
    return w.keep(step, step.var, w.asked_pool(step.pool, step.key, rebuilt=step.rebuilt))


def _counts_are(w: StepWriter, step: m.CountsAre) -> Lines:
    return w.lines("counts are", on=w.var(step.pool), made=step.made, reused=step.reused)


def _scenario(w: StepWriter, step: Any) -> Lines:
    return iter(w.templates.lines("pool_tests", type(step).__name__, w.scenario(step)))


# --- records ----------------------------------------------------------------------------------------------


def _record_is(w: StepWriter, step: r.RecordIs) -> Lines:
    places = {
        "var": w.reference(step.original),
        "text": w.literal(step.text),
        **w.record_entries(step.product),
    }
    return w.lines("record is", **places)


# --- what does not come of a call -------------------------------------------------------------------------


def _fails(w: StepWriter, step: Fails) -> Lines:
    match step.attempt:
        case s.Register():
            before, call = factories.register(w, step.attempt)
            yield from before
            yield from w.refused(call, step.failure)
        case s.Ask():
            yield from _ask_fails(w, step.attempt, step.failure)
        case s.Set(path, value):
            yield from w.refused_setting(w.set_call(path, value), step.failure)
        case _:
            yield from w.refused(_ATTEMPTS[type(step.attempt)](w, step.attempt), step.failure)


def _ask_fails(w: StepWriter, step: s.Ask, failure: Failure) -> Lines:
    call = factories.ask(w, step)
    is_found = w.creates_in_vain or not isinstance(failure, UnknownKey)
    if is_found and factories.has_creators(w, step):
        before, call = factories.created(w, step, call)
        yield from before
    yield from w.refused(w.failing(call), failure)


def _select_in_vain(w: StepWriter, step: m.Select) -> Call:
    or_nothing = step.or_nothing and w.two_entries
    return w.select(w.selection(step.product), step.arguments, or_nothing=or_nothing)


def _gives_nothing(w: StepWriter, step: GivesNothing) -> Lines:
    match step.attempt:
        case s.Ask():
            return w.nothing(factories.ask(w, step.attempt))
        case m.Select(_, product, arguments):
            return w.nothing(w.select(w.selection(product), arguments, or_nothing=True))
        case m.FamilyOf(_, family, key):
            return w.nothing(w.family_call(family, key))


_ATTEMPTS: Mapping[type, Callable[[StepWriter, Any], Call]] = {
    s.ChangeOne: lambda w, step: w.change_call(step),
    s.Make: lambda w, step: w.construction(step.product, step.arguments),
    s.ReadWord: lambda w, step: w.read_word(step.choice, step.text),
    m.Select: _select_in_vain,
    m.Build: lambda w, step: w.built(step, fails=True),
    m.ExemplarAdd: lambda w, step: w.stored(step.store, step.name, step.product),
    m.ExemplarGet: lambda w, step: w.exemplar_call(step.store, step.name),
    m.PoolAsk: lambda w, step: w.asked_pool(step.pool, step.key),
    m.FamilyOf: lambda w, step: w.family_call(step.family, step.key),
    m.AskRole: lambda w, step: w.role_call(step.family, step.role, step.arguments),
    r.ReadRecord: lambda w, step: w.read_record(step.product, step.record),
    r.ReadText: lambda w, step: w.read_text(step.product, step.text),
    r.ReadWith: lambda w, step: w.read_record(step.product, step.record, step.registry),
}
_STEPS: Mapping[type, Written] = {
    s.Make: _make,
    s.LeaveOut: lambda w, step: w.left_out(step),
    s.Hold: lambda w, step: w.hold(step),
    s.ChangeHeld: lambda w, step: w.emptied(step.var),
    s.ChangeInHeld: lambda w, step: w.handed(step),
    s.ChangeOut: lambda w, step: w.handed(step),
    s.Assign: lambda w, step: w.handed(step),
    s.Set: _set,
    s.Clear: lambda w, step: w.handed(step),
    s.ChangeOne: _change_one,
    s.FieldIs: _field_is,
    s.FieldAbsent: lambda w, step: w.field_absent(step.path),
    s.Equal: _equal,
    s.Unequal: lambda w, step: w.unequal(step.left, step.right, step.differing),
    s.KindIs: _kind_is,
    s.Answers: lambda w, step: w.answers(step),
    s.OneInstance: lambda w, step: w.one_instance(step),
    s.NewRegistry: lambda w, step: w.begun("new registry", step.var, step.factory),
    s.Register: _register,
    s.RegisterLoader: factories.register_loader,
    s.LoadsAre: lambda w, step: w.lines("loads are", loads=w.var(step.loads), count=step.count),
    s.LoadOnce: factories.load_once,
    s.RegisterNamed: factories.register_named,
    s.AskNamed: lambda w, step: w.keep(step, step.ask.var, factories.ask(w, step.ask, named=True)),
    s.Unregister: _unregister,
    s.KeysAre: _keys_are,
    s.Ask: _ask,
    s.ReadWord: lambda w, step: w.keep(step, step.var, w.read_word(step.choice, step.text)),
    s.WordIs: lambda w, step: w.word_is(step.var, step.choice, step.word),
    s.WordsAre: lambda w, step: w.words_are(step.choice, step.words),
    m.Select: _select,
    m.HiddenConstructor: lambda w, step: w.lines("hidden constructor", **w.named(step.product)),
    m.NewBuilder: lambda w, step: w.begun_builder(step),
    m.BuilderSet: _on_builder,
    m.BuilderAdd: _on_builder,
    m.BuilderClear: _on_builder,
    m.Build: _build,
    m.BuildRefused: lambda w, step: w.lines("build refused", on=w.var(step.builder)),
    m.BuildChained: lambda w, step: w.chained(step),
    m.Clone: lambda w, step: w.several(step),
    m.CloneEach: lambda w, step: w.several(step),
    m.Take: lambda w, step: w.several(step),
    m.SameObject: lambda w, step: w.several(step),
    m.NewExemplars: lambda w, step: w.begun("new exemplars", step.var, step.product),
    m.ExemplarAdd: _exemplar_add,
    m.ExemplarGet: _exemplar_get,
    m.NamesAre: _names_are,
    m.NewPool: _new_pool,
    m.PoolAsk: _pool_ask,
    m.CountsAre: _counts_are,
    m.PoolOnce: _scenario,
    m.PoolUnhindered: _scenario,
    m.PoolNested: _scenario,
    m.PoolFailedMaker: _scenario,
    m.PoolWrongKey: _scenario,
    m.PoolReleased: _scenario,
    m.FamilyOf: _family_of,
    m.FamilyIs: _family_is,
    m.NewStandIn: _new_stand_in,
    m.AskRole: _ask_role,
    m.AskRoles: lambda w, step: w.several(step),
    m.Narrow: lambda w, step: w.several(step),
    m.AskedAre: _asked_are,
    m.ClientGets: lambda w, step: w.client(step.family, step.name, step.products),
    r.ReadRecord: lambda w, step: w.keep(step, step.var, w.read_record(step.product, step.record)),
    r.ReadText: lambda w, step: w.keep(step, step.var, w.read_text(step.product, step.text)),
    r.ReadWith: lambda w, step: w.keep(
        step, step.var, w.read_record(step.product, step.record, step.registry)
    ),
    r.ReadBack: lambda w, step: w.keep(step, step.var, w.read_back(step.product, step.original)),
    r.RecordIs: _record_is,
    r.CreateAll: lambda w, step: w.create_all(step),
    Fails: _fails,
    GivesNothing: _gives_nothing,
}
