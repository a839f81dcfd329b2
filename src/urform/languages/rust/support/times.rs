//! Times of day.

use std::error::Error;
use std::fmt;
use std::str::FromStr;

/// A time of day, to the microsecond, in no place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct TimeOfDay {
    hour: u8,
    minute: u8,
    second: u8,
    micro: u32,
}

impl TimeOfDay {
    /// A time of day, if there is one.
    #[must_use]
    pub const fn new(hour: u8, minute: u8, second: u8, micro: u32) -> Option<Self> {
        if hour > 23 || minute > 59 || second > 59 || micro > 999_999 {
            return None;
        }
        Some(Self {
            hour,
            minute,
            second,
            micro,
        })
    }

    /// A time of day that there is.
    ///
    /// # Panics
    ///
    /// If there is no such time of day.
    #[must_use]
    pub const fn at(hour: u8, minute: u8, second: u8, micro: u32) -> Self {
        match Self::new(hour, minute, second, micro) {
            Some(time) => time,
            None => panic!("there is no such time of day"),
        }
    }

    /// The hour.
    #[must_use]
    pub const fn hour(self) -> u8 {
        self.hour
    }

    /// The minute of the hour.
    #[must_use]
    pub const fn minute(self) -> u8 {
        self.minute
    }

    /// The second of the minute.
    #[must_use]
    pub const fn second(self) -> u8 {
        self.second
    }

    /// The microsecond of the second.
    #[must_use]
    pub const fn micro(self) -> u32 {
        self.micro
    }
}

impl fmt::Display for TimeOfDay {
    /// As `06:30:00.25`, without zeros at the end of a fraction.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:02}:{:02}:{:02}", self.hour, self.minute, self.second)?;
        if self.micro != 0 {
            let digits = format!("{:06}", self.micro);
            write!(f, ".{}", digits.trim_end_matches('0'))?;
        }
        Ok(())
    }
}

impl FromStr for TimeOfDay {
    type Err = NoSuchTime;

    /// Reads a time such as `06:30:00` or `06:30:00.25`, and no other form.
    fn from_str(text: &str) -> Result<Self, NoSuchTime> {
        read(text.as_bytes()).ok_or(NoSuchTime)
    }
}

fn read(text: &[u8]) -> Option<TimeOfDay> {
    if text.len() < 8 || text[2] != b':' || text[5] != b':' {
        return None;
    }
    let part = |at: usize| number(&text[at..at + 2]).and_then(|part| u8::try_from(part).ok());
    let micro = match text[8..] {
        [] => 0,
        [b'.', ref digits @ ..] if (1..=6).contains(&digits.len()) => {
            let missing = u32::try_from(6 - digits.len()).ok()?;
            number(digits)? * 10_u32.pow(missing)
        }
        _ => return None,
    };
    TimeOfDay::new(part(0)?, part(3)?, part(6)?, micro)
}

/// A few decimal digits, and nothing else.
fn number(digits: &[u8]) -> Option<u32> {
    digits.iter().try_fold(0, |sum, digit| {
        digit
            .is_ascii_digit()
            .then(|| sum * 10 + u32::from(digit - b'0'))
    })
}

/// A text tells no time of day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoSuchTime;

impl fmt::Display for NoSuchTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("there is no such time of day")
    }
}

impl Error for NoSuchTime {}
