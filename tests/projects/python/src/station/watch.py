"""What the watch writes down."""

from varrow.marks import MarkRegistry, Round, RoundBuilder
from varrow.tides import Reading


def begin(watch: str, kind: str, station: int) -> Round:
    """A round that has seen one mark."""
    mark = MarkRegistry().create(kind, station=station)
    return RoundBuilder().watch(watch).add_sighting(f"{mark.key} {mark.station}").build()


def tide(centimetres: int) -> Reading:
    return Reading(gauge="east mole", centimetres=centimetres)
