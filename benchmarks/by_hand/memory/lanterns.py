"""Makes lanterns whose rhythms are shared by a pool, or their own: lanterns.py shared|own COUNT."""

import sys

from fairway import Lantern, LightRhythm, LightRhythmPool, Position

PULSES = [number % 100 for number in range(256)]


def main(sharing: str, count: int) -> None:
    """Hold all of them at once."""
    position = Position(latitude=54.5, longitude=10.25)

    def make(code: str, period_ms: int) -> LightRhythm:
        return LightRhythm(code=code, period_ms=period_ms, pulses=PULSES)

    pool = LightRhythmPool(make)
    get = pool.get if sharing == "shared" else make
    lanterns = [Lantern(rhythm=get(f"Fl {number % 50}", 4000), position=position) for number in range(count)]
    assert len(lanterns) == count


if __name__ == "__main__":
    main(sys.argv[1], int(sys.argv[2]))
