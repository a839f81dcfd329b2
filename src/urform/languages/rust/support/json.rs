//! Records from JSON text, which `serde_json` reads.

use std::fmt;

use serde::de::{DeserializeSeed, Deserializer, Error, MapAccess, SeqAccess, Visitor};

use crate::records::{RecordError, Value};

/// More than any product is read of, and less than fills a stack.
const MOST_LEVELS: usize = 500;
/// Names of an object.
const USUAL: usize = 8;

/// Reads the record of a JSON text (RFC 8259). Names that stand twice are kept, for whoever reads the record to tell.
///
/// # Errors
///
/// What is no JSON, with its place; so are bytes that are no UTF-8, numbers beyond doubles, and what follows after the end.
pub fn parse(text: impl AsRef<[u8]>) -> Result<Value, RecordError> {
    let mut json = serde_json::Deserializer::from_slice(text.as_ref());
    json.disable_recursion_limit();
    let read = Node { level: 0 }.deserialize(&mut json);
    read.and_then(|record| json.end().map(|()| record))
        .map_err(|error| RecordError::of_text(error.to_string()))
}

/// What reads one value, so many levels deep.
#[derive(Clone, Copy)]
struct Node {
    level: usize,
}

impl Node {
    fn inner<E: Error>(self) -> Result<Self, E> {
        if self.level == MOST_LEVELS {
            let said = format!("this is more than {MOST_LEVELS} levels deep");
            return Err(E::custom(said));
        }
        let level = self.level + 1;
        Ok(Self { level })
    }
}

impl<'de> DeserializeSeed<'de> for Node {
    type Value = Value;

    fn deserialize<D: Deserializer<'de>>(self, json: D) -> Result<Value, D::Error> {
        json.deserialize_any(self)
    }
}

impl<'de> Visitor<'de> for Node {
    type Value = Value;

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("a value of JSON")
    }

    fn visit_unit<E: Error>(self) -> Result<Value, E> {
        Ok(Value::Null)
    }

    fn visit_bool<E: Error>(self, truth: bool) -> Result<Value, E> {
        Ok(Value::Boolean(truth))
    }

    fn visit_i64<E: Error>(self, number: i64) -> Result<Value, E> {
        Ok(Value::Integer(number))
    }

    #[allow(clippy::cast_precision_loss)] // it is refused as an integer, and rounded as any reader of a real does
    fn visit_u64<E: Error>(self, number: u64) -> Result<Value, E> {
        Ok(i64::try_from(number).map_or(Value::Real(number as f64), Value::Integer))
    }

    fn visit_f64<E: Error>(self, number: f64) -> Result<Value, E> {
        Ok(Value::Real(number))
    }

    fn visit_str<E: Error>(self, text: &str) -> Result<Value, E> {
        Ok(Value::Text(text.to_owned()))
    }

    fn visit_string<E: Error>(self, text: String) -> Result<Value, E> {
        Ok(Value::Text(text))
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut elements: A) -> Result<Value, A::Error> {
        let inner = self.inner()?;
        let mut list = Vec::new();
        while let Some(element) = elements.next_element_seed(inner)? {
            list.push(element);
        }
        Ok(Value::List(list))
    }

    fn visit_map<A: MapAccess<'de>>(self, mut entries: A) -> Result<Value, A::Error> {
        let inner = self.inner()?;
        let mut object = Vec::with_capacity(USUAL);
        while let Some(name) = entries.next_key()? {
            object.push((name, entries.next_value_seed(inner)?));
        }
        Ok(Value::Object(object))
    }
}
