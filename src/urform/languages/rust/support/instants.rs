//! Points in time.

use std::error::Error;
use std::fmt;
use std::str::FromStr;
use std::time::{Duration, SystemTime};

const SECOND: i64 = 1_000_000;
const DAY: i64 = 86_400 * SECOND;
/// Days from the beginning of the year 1 to that of 1970.
const DAYS_BEFORE: i64 = 719_162;
const FIRST: i64 = -DAYS_BEFORE * DAY;
const LAST: i64 = 2_932_897 * DAY - 1;

/// A point in time, to the microsecond, in the years 1 to 9999 of UTC.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Timestamp(i64);

impl Timestamp {
    /// So many microseconds after the beginning of 1970 in UTC, or before it where they are negative; none beyond the years.
    #[must_use]
    pub const fn from_micros(micros: i64) -> Option<Self> {
        if micros < FIRST || micros > LAST {
            return None;
        }
        Some(Self(micros))
    }

    /// The microseconds since the beginning of 1970 in UTC.
    #[must_use]
    pub const fn micros(self) -> i64 {
        self.0
    }

    /// A point in time by the calendar and clock of UTC.
    ///
    /// # Panics
    ///
    /// If there is no such day, or no such time of day.
    #[must_use]
    pub const fn utc(
        year: u16,
        month: u8,
        day: u8,
        hour: u8,
        minute: u8,
        second: u8,
        micro: u32,
    ) -> Self {
        assert!(year >= 1 && year <= 9999, "there is no such year");
        assert!(
            day >= 1 && day <= days_in(year, month),
            "there is no such day"
        );
        assert!(
            hour < 24 && minute < 60 && second < 60 && micro < 1_000_000,
            "there is no such time of day"
        );
        let seconds = (hour as i64 * 60 + minute as i64) * 60 + second as i64;
        Self(days_before(year, month, day) * DAY + seconds * SECOND + micro as i64)
    }
}

const fn is_leap(year: u16) -> bool {
    year % 4 == 0 && (year % 100 != 0 || year % 400 == 0)
}

/// How many days a month has; none if there is no such month.
const fn days_in(year: u16, month: u8) -> u8 {
    match month {
        1 | 3 | 5 | 7 | 8 | 10 | 12 => 31,
        4 | 6 | 9 | 11 => 30,
        2 if is_leap(year) => 29,
        2 => 28,
        _ => 0,
    }
}

/// The days from the beginning of 1970 to that of a day.
const fn days_before(year: u16, month: u8, day: u8) -> i64 {
    let years = year as i64 - 1;
    let mut days = years * 365 + years / 4 - years / 100 + years / 400 - DAYS_BEFORE;
    let mut before = 1;
    while before < month {
        days += days_in(year, before) as i64;
        before += 1;
    }
    days + day as i64 - 1
}

impl fmt::Display for Timestamp {
    /// As `2026-12-01T05:30:00.25Z`, without zeros at the end of a fraction.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (days, time) = (self.0.div_euclid(DAY), self.0.rem_euclid(DAY));
        let (mut year, mut month) = (1, 1);
        let mut left = days + DAYS_BEFORE;
        for (length, years) in [(146_097, 400), (36_524, 100), (1_461, 4), (365, 1)] {
            // The last day of a leap year belongs to it, not to another one.
            let most = if years == 100 || years == 1 {
                3
            } else {
                i64::MAX
            };
            let whole = (left / length).min(most);
            left -= whole * length;
            year += u16::try_from(whole * years).unwrap_or(0);
        }
        while left >= i64::from(days_in(year, month)) {
            left -= i64::from(days_in(year, month));
            month += 1;
        }
        let (seconds, micros) = (time / SECOND, time % SECOND);
        let (hour, minute, second) = (seconds / 3600, seconds / 60 % 60, seconds % 60);
        write!(
            f,
            "{year:04}-{month:02}-{:02}T{hour:02}:{minute:02}:{second:02}",
            left + 1
        )?;
        if micros != 0 {
            write!(f, ".{}", format!("{micros:06}").trim_end_matches('0'))?;
        }
        f.write_str("Z")
    }
}

impl FromStr for Timestamp {
    type Err = NoSuchInstant;

    /// Reads a point in time as RFC 3339 has it, with any offset and at most six digits of a second.
    fn from_str(text: &str) -> Result<Self, NoSuchInstant> {
        read(text.as_bytes()).ok_or(NoSuchInstant)
    }
}

fn read(text: &[u8]) -> Option<Timestamp> {
    let signs = [(4, b'-'), (7, b'-'), (10, b'T'), (13, b':'), (16, b':')];
    let is_formed = |(at, sign): (usize, u8)| text[at].to_ascii_uppercase() == sign;
    if text.len() < 20 || !signs.into_iter().all(is_formed) {
        return None;
    }
    let year = u16::try_from(number(&text[..4])?).ok()?;
    let part = |at: usize| number(&text[at..at + 2]).and_then(|part| u8::try_from(part).ok());
    let (month, day, hour, minute, second) = (part(5)?, part(8)?, part(11)?, part(14)?, part(17)?);
    if year < 1 || day < 1 || day > days_in(year, month) || hour > 23 || minute > 59 || second > 59
    {
        return None;
    }
    let (micro, zone) = fraction(&text[19..])?;
    let local = Timestamp::utc(year, month, day, hour, minute, second, micro);
    Timestamp::from_micros(local.0 - offset(zone)?)
}

/// The microseconds of a fraction, and what follows it.
fn fraction(text: &[u8]) -> Option<(u32, &[u8])> {
    let Some((b'.', rest)) = text.split_first() else {
        return Some((0, text));
    };
    let length = rest
        .iter()
        .take_while(|digit| digit.is_ascii_digit())
        .count();
    if !(1..=6).contains(&length) {
        return None;
    }
    let (digits, zone) = rest.split_at(length);
    let missing = u32::try_from(6 - length).ok()?;
    Some((number(digits)? * 10_u32.pow(missing), zone))
}

/// The microseconds that an offset is ahead of UTC.
fn offset(zone: &[u8]) -> Option<i64> {
    match zone {
        [b'Z' | b'z'] => Some(0),
        [sign @ (b'+' | b'-'), hours @ .., b':', ten, one] if hours.len() == 2 => {
            let (hours, minutes) = (number(hours)?, number(&[*ten, *one])?);
            let ahead = (i64::from(hours) * 60 + i64::from(minutes)) * 60 * SECOND;
            (hours < 24 && minutes < 60).then_some(if *sign == b'-' { -ahead } else { ahead })
        }
        _ => None,
    }
}

/// A few decimal digits, and nothing else.
fn number(digits: &[u8]) -> Option<u32> {
    digits.iter().try_fold(0, |sum, digit| {
        digit
            .is_ascii_digit()
            .then(|| sum * 10 + u32::from(digit - b'0'))
    })
}

impl From<Timestamp> for SystemTime {
    fn from(at: Timestamp) -> Self {
        let length = Duration::from_micros(at.0.unsigned_abs());
        if at.0 < 0 {
            Self::UNIX_EPOCH - length
        } else {
            Self::UNIX_EPOCH + length
        }
    }
}

impl TryFrom<SystemTime> for Timestamp {
    type Error = NoSuchInstant;

    /// Rounded down to a microsecond.
    fn try_from(at: SystemTime) -> Result<Self, NoSuchInstant> {
        let micros = match at.duration_since(SystemTime::UNIX_EPOCH) {
            Ok(after) => i64::try_from(after.as_micros()),
            Err(before) => {
                let nanos = before.duration().as_nanos();
                i64::try_from(nanos.div_ceil(1000)).map(|micros| -micros)
            }
        };
        micros.ok().and_then(Self::from_micros).ok_or(NoSuchInstant)
    }
}

/// A text, or a time of the system, tells no point in time of these years.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoSuchInstant;

impl fmt::Display for NoSuchInstant {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("there is no such instant")
    }
}

impl Error for NoSuchInstant {}
