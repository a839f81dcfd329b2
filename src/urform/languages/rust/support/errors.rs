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
    /// A value is outside a declared limit; `value` is what was found, of a collection its length.
    Limit {
        owner: &'static str,
        field: &'static str,
        limit: &'static str,
        bound: Bound,
        value: Found,
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
    /// A pattern.
    Text(&'static str),
    /// A duration or a decimal number.
    Measure(&'static str),
    Integers(&'static [i64]),
    Texts(&'static [&'static str]),
}

/// What an error tells of a value.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub enum Found {
    /// It is a secret.
    None,
    Integer(i64),
    Real(f64),
    Text(String),
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
                value,
            } => write!(
                f,
                "{}",
                Said {
                    owner,
                    field,
                    limit,
                    bound,
                    value
                }
            ),
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

/// The parts of what the error of a limit says.
pub(crate) struct Said<'a> {
    pub(crate) owner: &'a str,
    pub(crate) field: &'a str,
    pub(crate) limit: &'a str,
    pub(crate) bound: &'a Bound,
    pub(crate) value: &'a Found,
}

impl fmt::Display for Said<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (part, name) = self.limit.split_once('.').unwrap_or(("", self.limit));
        let within = match part {
            "each" => "an element of ",
            "key" => "a key of ",
            _ => "",
        };
        let (owner, field, bound) = (self.owner, self.field, self.bound);
        write!(f, "{within}{owner}.{field}")?;
        let is_in_time = matches!(bound, Bound::Text(_));
        let allowed = match name {
            "min" if is_in_time => format!("{bound} or later is allowed"),
            "max" if is_in_time => format!("{bound} or earlier is allowed"),
            "above" if is_in_time => format!("later than {bound} is wanted"),
            "below" if is_in_time => format!("earlier than {bound} is wanted"),
            "min" => format!("at least {bound} is allowed"),
            "max" => format!("at most {bound} is allowed"),
            "above" => format!("more than {bound} is wanted"),
            "below" => format!("less than {bound} is wanted"),
            "finite" => "a finite number is wanted".to_owned(),
            "not_blank" => "a text that is not blank is wanted".to_owned(),
            "min_length" => format!("at least {bound} is allowed"),
            "max_length" => format!("at most {bound} is allowed"),
            "one_of" => format!("one of {bound} is wanted"),
            "pattern" => format!("a text that matches {bound} is wanted"),
            "uri" => "a URI is wanted".to_owned(),
            "date" => "a date is wanted".to_owned(),
            "unique" => "each element is allowed once".to_owned(),
            _ => format!("{bound} is its {name}"),
        };
        let is_length = name.ends_with("_length");
        let of = if is_length { "a length of " } else { "" };
        let (is, twice) = if name == "unique" {
            ("has", " twice")
        } else {
            ("is", "")
        };
        match self.value {
            Found::None => write!(f, ": {of}{allowed}"),
            Found::Integer(length) if is_length => write!(f, " has the length {length}; {allowed}"),
            Found::Integer(value) => write!(f, " {is} {value}{twice}; {allowed}"),
            Found::Real(value) => write!(f, " is {}; {allowed}", real(*value)),
            Found::Text(value) => write!(f, " {is} {}{twice}; {of}{allowed}", quoted(value)),
        }
    }
}

const MOST_SHOWN: usize = 80;

/// A text in quotes, cut, its controls escaped.
pub(crate) fn quoted(text: &str) -> String {
    let more = if text.chars().nth(MOST_SHOWN).is_some() {
        "…"
    } else {
        ""
    };
    let shown: String = text.chars().take(MOST_SHOWN).map(escaped).collect();
    format!("\"{shown}{more}\"")
}

fn escaped(char: char) -> String {
    match char {
        '\n' => "\\n".to_owned(),
        '\r' => "\\r".to_owned(),
        '\t' => "\\t".to_owned(),
        '"' | '\\' => format!("\\{char}"),
        _ if char.is_control() => format!("\\u{:04x}", u32::from(char)),
        _ => char.to_string(),
    }
}

/// The fewest digits that read back as this number, laid out as in ECMAScript, with `.0` if it is whole.
pub(crate) fn real(number: f64) -> String {
    let size = number.abs();
    if number.is_nan() {
        "NaN".to_owned()
    } else if number.is_infinite() {
        let sign = if number > 0.0 { "" } else { "-" };
        format!("{sign}Infinity")
    } else if size == 0.0 {
        "0.0".to_owned()
    } else if (1e-6..1e21).contains(&size) {
        let shown = number.to_string();
        if shown.contains('.') {
            shown
        } else {
            format!("{shown}.0")
        }
    } else {
        let shown = format!("{number:e}");
        if size < 1.0 {
            shown
        } else {
            shown.replace('e', "e+")
        }
    }
}

/// The words of a list, with commas.
fn listed<T>(words: &[T], shown: impl Fn(&T) -> String) -> String {
    words.iter().map(shown).collect::<Vec<_>>().join(", ")
}

impl fmt::Display for Bound {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::None => Ok(()),
            Self::Integer(bound) => write!(f, "{bound}"),
            Self::Real(bound) => write!(f, "{}", real(*bound)),
            Self::Text(text) | Self::Measure(text) => write!(f, "{}", quoted(text)),
            Self::Integers(words) => write!(f, "{}", listed(words, i64::to_string)),
            Self::Texts(words) => write!(f, "{}", listed(words, |word| quoted(word))),
        }
    }
}

impl From<i64> for Found {
    fn from(value: i64) -> Self {
        Self::Integer(value)
    }
}

impl From<f64> for Found {
    fn from(value: f64) -> Self {
        Self::Real(value)
    }
}

impl From<&str> for Found {
    fn from(value: &str) -> Self {
        Self::Text(value.to_owned())
    }
}

impl From<&String> for Found {
    fn from(value: &String) -> Self {
        Self::Text(value.clone())
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

impl From<&'static str> for Bound {
    fn from(pattern: &'static str) -> Self {
        Self::Text(pattern)
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
