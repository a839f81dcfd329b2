//! Points in time: each that there is, as the system has them and as texts.

use std::time::{Duration, SystemTime};

use PACKAGE::*;

#[test]
fn every_day_begins_once() {
    let mut micros = Timestamp::utc(1, 1, 1, 0, 0, 0, 0).micros();
    for year in 1..=9999 {
        let is_shown = year % 25 == 0 || year % 100 < 5;
        for month in 1..=12 {
            let days = (1..=31).filter(|&day| CalendarDate::new(year, month, day).is_some());
            for day in days {
                let at = Timestamp::utc(year, month, day, 0, 0, 0, 0);
                assert_eq!(at.micros(), micros);
                if is_shown && (day == 1 || day > 27) {
                    let text = at.to_string();
                    assert_eq!(text, format!("{year:04}-{month:02}-{day:02}T00:00:00Z"));
                    assert_eq!(text.parse(), Ok(at));
                }
                micros += 86_400_000_000;
            }
        }
    }
    assert_eq!(Timestamp::from_micros(micros), None);
    assert_eq!(Timestamp::from_micros(micros - 1), Some(Timestamp::utc(9999, 12, 31, 23, 59, 59, 999_999)));
    assert_eq!(Timestamp::from_micros(Timestamp::utc(1, 1, 1, 0, 0, 0, 0).micros() - 1), None);
}

#[test]
fn the_time_of_the_system_goes_there_and_back() {
    for micros in [0, 1, -1, 1_796_126_400_000_000, -62_135_596_800_000_000, 253_402_300_799_999_999] {
        let at = Timestamp::from_micros(micros).unwrap();
        assert_eq!(Timestamp::try_from(SystemTime::from(at)), Ok(at));
    }
    let before = SystemTime::UNIX_EPOCH - Duration::from_nanos(1);
    assert_eq!(Timestamp::try_from(before).unwrap().micros(), -1);
    let after = SystemTime::UNIX_EPOCH + Duration::from_nanos(1_999);
    assert_eq!(Timestamp::try_from(after).unwrap().micros(), 1);
    let beyond = SystemTime::UNIX_EPOCH + Duration::from_secs(253_402_300_800);
    assert_eq!(Timestamp::try_from(beyond), Err(NoSuchInstant));
}

#[test]
fn texts_are_cut_nowhere() {
    for text in ["", "Z", "2026-12-01T12:00:00", "2026-12-01T12:00:0éZ", "２０２６-12-01T12:00:00Z", "2026-12-01T12:00:00.Z", "2026-12-01T12:00:00+éé:00", "2026-12-01T12:00:00.123456é", "2026-12-01T12:00:00+24:00", "0001-01-01T00:00:00+00:01"] {
        assert_eq!(text.parse::<Timestamp>(), Err(NoSuchInstant), "{text}");
    }
    for text in ["2026-12-01t12:00:00z", "2026-12-01T12:00:00.000-00:00", "2026-12-02T11:59:00+23:59"] {
        assert_eq!(text.parse(), Ok(Timestamp::utc(2026, 12, 1, 12, 0, 0, 0)), "{text}");
    }
}

#[test]
#[should_panic(expected = "no such day")]
fn what_there_has_to_be_panics() {
    let _ = Timestamp::utc(2026, 2, 30, 0, 0, 0, 0);
}
