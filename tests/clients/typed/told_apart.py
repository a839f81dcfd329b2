"""What a type checker sees of the generated types; it is checked, not run."""

from typing import assert_never

from fairway import AnyTideOffset, Buoy, KnownOffset, MarkRegistry, NoOffset, Outfit, Side, outfit, tide_offset


def centimetres(offset: AnyTideOffset) -> int:
    match offset:
        case KnownOffset():
            return offset.centimetres
        case NoOffset():
            return 0
        case _:
            assert_never(offset)


def leaves_one_out(offset: AnyTideOffset) -> int:
    match offset:
        case NoOffset():
            return 0
        case _:
            assert_never(offset)  # type: ignore[arg-type]


def leaves_a_word_out(side: Side) -> int:
    match side:
        case Side.PORT:
            return 0
        case _:
            assert_never(side)  # type: ignore[arg-type]


def takes_a_class_for_a_maker(registry: MarkRegistry) -> None:
    registry.register("port_buoy", Buoy)


def takes_keys_from_elsewhere(key: str) -> tuple[Outfit, int]:
    return outfit(key), centimetres(tide_offset(centimetres=40, datum="chart"))
