//! Lengths of time.

use std::error::Error;
use std::fmt;
use std::str::FromStr;
use std::time::Duration;

const SECOND: i64 = 1_000_000;
const MINUTE: i64 = 60 * SECOND;
const HOUR: i64 = 60 * MINUTE;
const LONGEST: i64 = 2_400_000 * HOUR;

/// A length of time, to the microsecond, of at most 100,000 days, negative ones too.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct TimeSpan(i64);

impl TimeSpan {
    /// So many microseconds; none beyond 100,000 days.
    #[must_use]
    pub const fn from_micros(micros: i64) -> Option<Self> {
        if micros < -LONGEST || micros > LONGEST {
            return None;
        }
        Some(Self(micros))
    }

    /// The microseconds.
    #[must_use]
    pub const fn micros(self) -> i64 {
        self.0
    }

    /// Hours, minutes, seconds and microseconds together.
    ///
    /// # Panics
    ///
    /// If they are more than 100,000 days.
    #[must_use]
    pub const fn of(hours: i32, minutes: i32, seconds: i32, micros: i32) -> Self {
        let minutes = hours as i64 * HOUR + minutes as i64 * MINUTE;
        match Self::from_micros(minutes + seconds as i64 * SECOND + micros as i64) {
            Some(span) => span,
            None => panic!("there is no such time span"),
        }
    }
}

impl fmt::Display for TimeSpan {
    /// As `PT26H30M0.5S`: hours, minutes and seconds, those that are not zero.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let total = self.0.abs();
        let (hours, minutes, rest) = (total / HOUR, total / MINUTE % 60, total % MINUTE);
        f.write_str(if self.0 < 0 { "-PT" } else { "PT" })?;
        if hours != 0 {
            write!(f, "{hours}H")?;
        }
        if minutes != 0 {
            write!(f, "{minutes}M")?;
        }
        if rest != 0 || total == 0 {
            let seconds = format!("{}.{:06}", rest / SECOND, rest % SECOND);
            write!(
                f,
                "{}S",
                seconds.trim_end_matches('0').trim_end_matches('.')
            )?;
        }
        Ok(())
    }
}

impl FromStr for TimeSpan {
    type Err = NoTimeSpan;

    /// Reads a length of time as ISO 8601 has it: weeks, or days, hours, minutes and seconds, a day being 24 hours.
    fn from_str(text: &str) -> Result<Self, NoTimeSpan> {
        read(text).and_then(Self::from_micros).ok_or(NoTimeSpan)
    }
}

fn read(text: &str) -> Option<i64> {
    let (sign, unsigned) = text.strip_prefix('-').map_or((1, text), |rest| (-1, rest));
    let counted = unsigned.strip_prefix('P')?;
    if let Some(weeks) = counted.strip_suffix('W') {
        return Some(sign * number(weeks, 5)? * 7 * 24 * HOUR);
    }
    let (date, clock) = counted
        .split_once('T')
        .map_or((counted, None), |(date, clock)| (date, Some(clock)));
    if date.is_empty() && clock.is_none() || clock == Some("") {
        return None;
    }
    let (days, rest) = taken(date, 'D', 6)?;
    let (hours, clock) = taken(clock.unwrap_or_default(), 'H', 7)?;
    let (minutes, clock) = taken(clock, 'M', 9)?;
    if !rest.is_empty() {
        return None;
    }
    Some(sign * (((days * 24) + hours) * HOUR + minutes * MINUTE + seconds(clock)?))
}

/// The count before a unit, if that is there, and what follows it.
fn taken(text: &str, unit: char, most: usize) -> Option<(i64, &str)> {
    match text.split_once(unit) {
        Some((digits, rest)) => Some((number(digits, most)?, rest)),
        None => Some((0, text)),
    }
}

/// The microseconds of seconds with a fraction of at most six digits; none where nothing is told.
fn seconds(text: &str) -> Option<i64> {
    if text.is_empty() {
        return Some(0);
    }
    let text = text.strip_suffix('S')?;
    let Some((whole, fraction)) = text.split_once('.') else {
        return Some(number(text, 10)? * SECOND);
    };
    let missing = u32::try_from(6_usize.checked_sub(fraction.len())?).ok()?;
    Some(number(whole, 10)? * SECOND + number(fraction, 6)? * 10_i64.pow(missing))
}

/// So many decimal digits at most, one at least, and nothing else.
fn number(digits: &str, most: usize) -> Option<i64> {
    let is_one = (1..=most).contains(&digits.len()) && digits.bytes().all(|b| b.is_ascii_digit());
    is_one.then(|| digits.parse().ok()).flatten()
}

impl TryFrom<TimeSpan> for Duration {
    type Error = NoTimeSpan;

    /// What is not negative.
    fn try_from(span: TimeSpan) -> Result<Self, NoTimeSpan> {
        let micros = u64::try_from(span.0).map_err(|_| NoTimeSpan)?;
        Ok(Self::from_micros(micros))
    }
}

impl TryFrom<Duration> for TimeSpan {
    type Error = NoTimeSpan;

    /// Rounded down to a microsecond.
    fn try_from(length: Duration) -> Result<Self, NoTimeSpan> {
        let micros = i64::try_from(length.as_micros()).map_err(|_| NoTimeSpan)?;
        Self::from_micros(micros).ok_or(NoTimeSpan)
    }
}

/// A text, or a duration, tells no length of time of this kind.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoTimeSpan;

impl fmt::Display for NoTimeSpan {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("there is no such time span")
    }
}

impl Error for NoTimeSpan {}
