use std::error::Error;
use std::fmt;
use std::ops::Deref;
use std::sync::Arc;

/// What came of making a product.
pub type Creation<T> = Result<T, CreationError>;

/// Why there is no product, or why a change was refused.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub enum CreationError {
    /// Required fields were not given; `fields` are in the order of the declaration.
    Missing {
        owner: &'static str,
        fields: Vec<&'static str>,
    },
    /// A value is outside a declared limit.
    Limit {
        owner: &'static str,
        field: &'static str,
        limit: &'static str,
        bound: Bound,
    },
    /// A key names nothing; `known` is sorted.
    UnknownKey {
        owner: &'static str,
        key: String,
        known: Vec<String>,
    },
    /// A key is taken.
    DuplicateKey { owner: &'static str, key: String },
    /// No product is made of such values.
    Refused {
        owner: &'static str,
        reason: &'static str,
    },
    /// A maker has a failure of its own.
    Maker(MakerFailure),
}

/// What a maker failed with; it is equal to itself alone.
#[derive(Debug, Clone)]
pub struct MakerFailure(Arc<dyn Error + Send + Sync>);

impl Deref for MakerFailure {
    type Target = dyn Error + Send + Sync;

    fn deref(&self) -> &Self::Target {
        self.0.as_ref()
    }
}

impl PartialEq for MakerFailure {
    fn eq(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}

/// The value of a limit.
#[derive(Debug, Clone, Copy, PartialEq)]
#[non_exhaustive]
pub enum Bound {
    None,
    Integer(i64),
    Real(f64),
    Integers(&'static [i64]),
    Texts(&'static [&'static str]),
}

impl CreationError {
    /// The failure of a maker, to be passed through.
    pub fn maker(failure: impl Into<Box<dyn Error + Send + Sync>>) -> Self {
        Self::Maker(MakerFailure(Arc::from(failure.into())))
    }
}

impl fmt::Display for CreationError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Missing { owner, fields } => write!(f, "{owner}: missing {}", fields.join(", ")),
            Self::Limit {
                owner,
                field,
                limit,
                bound,
            } => write!(f, "{owner}.{field}: breaks {limit}{bound}"),
            Self::UnknownKey { owner, key, known } => {
                let known = known.join(", ");
                write!(f, "{owner}: unknown key {key:?}, known: {known}")
            }
            Self::DuplicateKey { owner, key } => write!(f, "{owner}: key {key:?} is taken"),
            Self::Refused { owner, reason } => write!(f, "{owner}: refused, {reason}"),
            Self::Maker(failure) => write!(f, "{}", failure.0),
        }
    }
}

impl Error for CreationError {
    fn source(&self) -> Option<&(dyn Error + 'static)> {
        match self {
            Self::Maker(failure) => Some(failure.0.as_ref()),
            _ => None,
        }
    }
}

impl fmt::Display for Bound {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::None => Ok(()),
            Self::Integer(bound) => write!(f, " {bound}"),
            Self::Real(bound) => write!(f, " {bound:?}"),
            Self::Integers(words) => write!(f, " {words:?}"),
            Self::Texts(words) => write!(f, " {words:?}"),
        }
    }
}

impl From<i64> for Bound {
    fn from(bound: i64) -> Self {
        Self::Integer(bound)
    }
}

impl From<f64> for Bound {
    fn from(bound: f64) -> Self {
        Self::Real(bound)
    }
}

impl From<&'static [i64]> for Bound {
    fn from(words: &'static [i64]) -> Self {
        Self::Integers(words)
    }
}

impl From<&'static [&'static str]> for Bound {
    fn from(words: &'static [&'static str]) -> Self {
        Self::Texts(words)
    }
}
