//! Decimal numbers.

use std::error::Error;
use std::fmt;
use std::str::FromStr;

const PLACES: usize = 18;
const ONE: i128 = 1_000_000_000_000_000_000;
const MOST: i128 = 100_000_000_000_000_000_000 * ONE - 1;

/// An exact decimal number, with up to twenty digits before the point and eighteen behind it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Decimal(i128);

impl Decimal {
    /// So many units of the eighteenth place behind the point; none beyond the digits.
    #[must_use]
    pub const fn from_units(units: i128) -> Option<Self> {
        if units < -MOST || units > MOST {
            return None;
        }
        Some(Self(units))
    }

    /// How many units of the eighteenth place behind the point it has.
    #[must_use]
    pub const fn units(self) -> i128 {
        self.0
    }

    /// The number that a text such as `12.5` tells.
    ///
    /// # Panics
    ///
    /// If the text tells none.
    #[must_use]
    pub const fn of(text: &str) -> Self {
        match read(text.as_bytes()) {
            Some(number) => number,
            None => panic!("there is no such decimal number"),
        }
    }
}

/// Digits with a point among them at most, and a minus before them at most: no exponent, and no needless zero at the beginning.
const fn read(text: &[u8]) -> Option<Decimal> {
    let is_negative = !text.is_empty() && text[0] == b'-';
    let begin = if is_negative { 1 } else { 0 };
    let mut point = begin;
    while point < text.len() && text[point] != b'.' {
        point += 1;
    }
    let whole = point - begin;
    if whole == 0 || whole > 20 || (whole > 1 && text[begin] == b'0') {
        return None;
    }
    let places = text.len() - point;
    if places == 1 || places > PLACES + 1 {
        return None;
    }
    let mut units: i128 = 0;
    let mut at = begin;
    while at < text.len() {
        if at != point {
            if !text[at].is_ascii_digit() {
                return None;
            }
            units = units * 10 + (text[at] - b'0') as i128;
        }
        at += 1;
    }
    let mut missing = if places == 0 {
        PLACES
    } else {
        PLACES + 1 - places
    };
    while missing > 0 {
        units *= 10;
        missing -= 1;
    }
    Some(Decimal(if is_negative { -units } else { units }))
}

impl fmt::Display for Decimal {
    /// As `12.5`, without zeros at its end.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (whole, fraction) = (self.0.abs() / ONE, self.0.abs() % ONE);
        write!(f, "{}{whole}", if self.0 < 0 { "-" } else { "" })?;
        if fraction != 0 {
            let digits = format!("{fraction:0PLACES$}");
            write!(f, ".{}", digits.trim_end_matches('0'))?;
        }
        Ok(())
    }
}

impl FromStr for Decimal {
    type Err = NoDecimal;

    /// Reads a number such as `12.5`, and no other form.
    fn from_str(text: &str) -> Result<Self, NoDecimal> {
        read(text.as_bytes()).ok_or(NoDecimal)
    }
}

/// A text tells no decimal number.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoDecimal;

impl fmt::Display for NoDecimal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("there is no such decimal number")
    }
}

impl Error for NoDecimal {}
