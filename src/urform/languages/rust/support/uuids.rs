//! UUIDs.

use std::error::Error;
use std::fmt;
use std::str::FromStr;

/// A UUID (RFC 9562): 128 bits, told as 32 hexadecimal digits in five groups.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Uuid([u8; 16]);

impl Uuid {
    /// The UUID of these bytes.
    #[must_use]
    pub const fn new(bytes: [u8; 16]) -> Self {
        Self(bytes)
    }

    /// The UUID of these bits, the first byte the most significant one.
    #[must_use]
    pub const fn from_bits(bits: u128) -> Self {
        Self(bits.to_be_bytes())
    }

    /// Its bytes.
    #[must_use]
    pub const fn bytes(self) -> [u8; 16] {
        self.0
    }
}

impl fmt::Display for Uuid {
    /// In lower case.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (at, byte) in self.0.iter().enumerate() {
            let hyphen = if matches!(at, 4 | 6 | 8 | 10) {
                "-"
            } else {
                ""
            };
            write!(f, "{hyphen}{byte:02x}")?;
        }
        Ok(())
    }
}

impl FromStr for Uuid {
    type Err = NoUuid;

    /// Reads five groups of digits, in either case, with hyphens between them.
    fn from_str(text: &str) -> Result<Self, NoUuid> {
        let groups: Vec<&str> = text.split('-').collect();
        let lengths: Vec<usize> = groups.iter().map(|group| group.len()).collect();
        let digits = groups.concat();
        let is_one = lengths == [8, 4, 4, 4, 12] && digits.bytes().all(|b| b.is_ascii_hexdigit());
        let bits = u128::from_str_radix(&digits, 16).map_err(|_| NoUuid)?;
        is_one.then_some(Self::from_bits(bits)).ok_or(NoUuid)
    }
}

/// A text tells no UUID.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NoUuid;

impl fmt::Display for NoUuid {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("there is no UUID")
    }
}

impl Error for NoUuid {}
