from station.watch import begin, tide


def test_a_round_begins_with_what_was_seen() -> None:
    assert list(begin("first", "buoy", 7).seen) == ["buoy 7"]


def test_a_tide_is_read() -> None:
    assert tide(-20).centimetres == -20
