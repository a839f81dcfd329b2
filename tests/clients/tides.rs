//! Times, durations and decimal numbers: each that there is, and texts.

use std::time::Duration;

use PACKAGE::*;

#[test]
fn every_second_of_a_day_goes_there_and_back() {
    let mut last = None;
    for second in 0..86_400_u32 {
        let part = |number: u32| u8::try_from(number).unwrap();
        let time = TimeOfDay::at(part(second / 3600), part(second / 60 % 60), part(second % 60), second);
        assert_eq!(time.to_string().parse(), Ok(time));
        assert!(last < Some(time));
        last = Some(time);
    }
    assert_eq!(TimeOfDay::new(24, 0, 0, 0), None);
    assert_eq!(TimeOfDay::new(23, 59, 59, 1_000_000), None);
}

#[test]
fn lengths_go_there_and_back() {
    let most = 8_640_000_000_000_000;
    for micros in [0, 1, -1, 999_999, 59_999_999, 60_000_000, -3_600_000_001, 95_400_500_000, most, -most] {
        let span = TimeSpan::from_micros(micros).unwrap();
        assert_eq!(span.to_string().parse(), Ok(span), "{span}");
        let back = Duration::try_from(span).map(|length| TimeSpan::try_from(length));
        assert_eq!(back, if micros < 0 { Err(NoTimeSpan) } else { Ok(Ok(span)) });
    }
    for micros in [most + 1, -most - 1, i64::MIN, i64::MAX] {
        assert_eq!(TimeSpan::from_micros(micros), None);
    }
    assert_eq!(TimeSpan::try_from(Duration::MAX), Err(NoTimeSpan));
    assert_eq!(TimeSpan::of(-1, -30, 0, 0).to_string(), "-PT1H30M");
}

#[test]
fn decimals_are_numbers() {
    let in_order = ["-99999999999999999999.999999999999999999", "-10", "-9.5", "-0.000000000000000001", "0", "0.000000000000000001", "0.1", "0.25", "9", "10.000000000000000001", "10.1", "99999999999999999999.999999999999999999"];
    let numbers: Vec<Decimal> = in_order.iter().map(|text| text.parse().unwrap()).collect();
    assert!(numbers.windows(2).all(|pair| pair[0] < pair[1]));
    assert!(in_order.iter().zip(&numbers).all(|(text, number)| *text == number.to_string()));
    assert_eq!("-0.000".parse(), Ok(Decimal::of("0")));
    assert_eq!("12.500000000000000000".parse(), Ok(Decimal::of("12.5")));
    let most = Decimal::of("99999999999999999999.999999999999999999").units();
    assert_eq!(Decimal::from_units(most + 1), None);
    assert_eq!(Decimal::from_units(i128::MIN), None);
}

#[test]
fn texts_are_cut_nowhere() {
    for text in ["", "0", "06:00", "06:00:0é", "é6:00:00", "0é:00:00", "06:00:00.", "06:00:00.é", "06:00:00.1234567", "06-00-00"] {
        assert_eq!(text.parse::<TimeOfDay>(), Err(NoSuchTime), "{text}");
    }
    for text in ["", "-", "P", "-P", "PT", "PéH", "PT1é", "PTS", "PT.5S", "PT5.S", "P1DT", "P99999999999999999999W", "PT99999999999S", "--PT1H", "PT1M1H", "P1W1D", "PW", "PTH"] {
        assert_eq!(text.parse::<TimeSpan>(), Err(NoTimeSpan), "{text}");
    }
    for text in ["", "-", ".", "-.", "1.", ".1", "é", "1é", "01", "-01", "1.1234567890123456789", "123456789012345678901", "1e3", "1.2.3", "+1", "1-"] {
        assert_eq!(text.parse::<Decimal>(), Err(NoDecimal), "{text}");
    }
    assert_eq!("P1W".parse(), Ok(TimeSpan::of(168, 0, 0, 0)));
    assert_eq!("P1DT1M0.5S".parse(), Ok(TimeSpan::of(24, 1, 0, 500_000)));
}

#[test]
#[should_panic(expected = "no such decimal number")]
fn what_there_has_to_be_panics() {
    let _ = Decimal::of("12,5");
}
