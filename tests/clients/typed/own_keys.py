"""What a type checker sees of keys that are tied to the fields of their kinds; it is checked, not run."""

from own import Buoy, Deckhands, High, Horn, Light, PilotsCreator, Sector, TideRegistry, crew_creator, mark, signal


def takes_what_its_kind_has(sectors: list[Sector]) -> tuple[Light, Buoy, Horn | None]:
    light: Light = mark("T1", name="pier", period=4, sectors=sectors, racon=True)
    return light, mark("buoy", name="bar", draught=0.5), signal("horn", reach=1.5)


def takes_nothing_of_another_kind(sectors: list[Sector]) -> None:
    mark("buoy", name="bar", period=4)  # type: ignore[call-overload]
    mark("light", name="bar", sectors=sectors)  # type: ignore[call-overload]
    mark("light", name="bar", period="4", sectors=sectors)  # type: ignore[call-overload]
    mark("lihgt", name="bar")  # type: ignore[call-overload]
    crew_creator("pilots").create(boat="Petrel")  # type: ignore[call-arg]


def knows_what_it_makes(registry: TideRegistry) -> tuple[High, PilotsCreator, Deckhands]:
    high = registry.create("high", station="Quay", metres=4.5)
    return high, crew_creator("pilots"), crew_creator("deckhands").create(boat="Petrel", count=3)
