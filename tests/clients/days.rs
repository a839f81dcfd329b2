//! Days: each that there is, and nothing else.

use PACKAGE::*;

fn days_in(year: u16, month: u8) -> u8 {
    (1..=31)
        .filter(|&day| CalendarDate::new(year, month, day).is_some())
        .count()
        .try_into()
        .unwrap()
}

#[test]
fn every_day_is_one_and_no_other_is() {
    let mut before: Option<CalendarDate> = None;
    let mut count = 0_u32;
    for year in 0..=10_001 {
        for month in 0..=13 {
            for day in 0..=32 {
                let text = format!("{year:04}-{month:02}-{day:02}");
                let date = CalendarDate::new(year, month, day);
                assert_eq!(text.parse::<CalendarDate>().ok(), date, "{text}");
                if let Some(date) = date {
                    assert_eq!(date.to_string(), text);
                    assert!(before < Some(date));
                    before = Some(date);
                    count += 1;
                }
            }
        }
    }
    assert_eq!(count, 3_652_059);
}

#[test]
fn months_are_as_long_as_they_are() {
    assert_eq!([1900, 2000, 2023, 2024].map(|year| days_in(year, 2)), [28, 29, 28, 29]);
    let all: Vec<u8> = (0..=13).map(|month| days_in(2023, month)).collect();
    assert_eq!(all, [0, 31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31, 0]);
}

#[test]
fn texts_are_cut_nowhere() {
    for text in ["２０２6-1", "2026-12-0é", "2026–12-1", "----------", "2026-12-01\0", "+026-12-01", "2026-+1-01"] {
        assert_eq!(text.parse::<CalendarDate>(), Err(NoSuchDate), "{text}");
    }
}

#[test]
#[should_panic(expected = "no such day")]
fn what_there_has_to_be_panics() {
    let _ = CalendarDate::at(2026, 2, 30);
}
