//! Days of the Gregorian calendar.

use std::error::Error;
use std::fmt;
use std::str::FromStr;

/// A day of the Gregorian calendar, which is taken to have held always, in the years 1 to 9999.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct CalendarDate {
    year: u16,
    month: u8,
    day: u8,
}

impl CalendarDate {
    /// A day, if there is one.
    #[must_use]
    pub const fn new(year: u16, month: u8, day: u8) -> Option<Self> {
        if year < 1 || year > 9999 || day < 1 || day > days_in(year, month) {
            return None;
        }
        Some(Self { year, month, day })
    }

    /// A day that there is.
    ///
    /// # Panics
    ///
    /// If there is no such day.
    #[must_use]
    pub const fn at(year: u16, month: u8, day: u8) -> Self {
        match Self::new(year, month, day) {
            Some(date) => date,
            None => panic!("there is no such day"),
        }
    }

    /// The year.
    #[must_use]
    pub const fn year(self) -> u16 {
        self.year
    }

    /// The month, counted from 1.
    #[must_use]
    pub const fn month(self) -> u8 {
        self.month
    }

    /// The day of the month.
    #[must_use]
    pub const fn day(self) -> u8 {
        self.day
    }
}

/// How many days a month has; none if there is no such month.
const fn days_in(year: u16, month: u8) -> u8 {
    match month {
        1 | 3 | 5 | 7 | 8 | 10 | 12 => 31,
        4 | 6 | 9 | 11 => 30,
        2 if year % 4 == 0 && (year % 100 != 0 || year % 400 == 0) => 29,
        2 => 28,
        _ => 0,
    }
}

impl fmt::Display for CalendarDate {
    /// As `2026-12-01`.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:04}-{:02}-{:02}", self.year, self.month, self.day)
    }
}

impl FromStr for CalendarDate {
    type Err = NoSuchDate;

    /// Reads a day such as `2026-12-01`, and no other form.
    fn from_str(text: &str) -> Result<Self, NoSuchDate> {
        let bytes = text.as_bytes();
        if bytes.len() != 10 || bytes[4] != b'-' || bytes[7] != b'-' {
            return Err(NoSuchDate);
        }
        let year = number(&bytes[..4]).ok_or(NoSuchDate)?;
        let month = number(&bytes[5..7]).and_then(|month| u8::try_from(month).ok());
        let day = number(&bytes[8..]).and_then(|day| u8::try_from(day).ok());
        match (month, day) {
            (Some(month), Some(day)) => Self::new(year, month, day).ok_or(NoSuchDate),
            _ => Err(NoSuchDate),
        }
    }
}

/// A few decimal digits, and nothing else.
fn number(digits: &[u8]) -> Option<u16> {
    digits.iter().try_fold(0, |sum, digit| {
        digit
            .is_ascii_digit()
            .then(|| sum * 10 + u16::from(digit - b'0'))
    })
}

/// A text tells no day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoSuchDate;

impl fmt::Display for NoSuchDate {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("there is no such day")
    }
}

impl Error for NoSuchDate {}
