//! Records: what a product is read of, and what is written of one.

#![allow(dead_code)] // which of it is needed depends on the declaration

use std::cell::RefCell;
use std::collections::{BTreeMap, BTreeSet};
use std::error::Error;
use std::fmt;

use crate::errors::{quoted, real, Said};
use crate::values::repeated;
use crate::{Bound, Creation, CreationError, Found};

const FEW: usize = 16;
const MOST_LEVELS: usize = 200;
/// In characters: nothing is suggested for a longer name.
const FARTHEST: usize = 80;
/// The first whole number that has neighbours of the same real.
const EXACT: f64 = 9_007_199_254_740_992.0;

/// A value of a record, as any reader of JSON has it. Names of an object stand in their order.
#[derive(Debug, Clone, PartialEq)]
pub enum Value {
    Null,
    Boolean(bool),
    Integer(i64),
    Real(f64),
    Text(String),
    List(Vec<Value>),
    Object(Vec<(String, Value)>),
}

impl Value {
    /// The JSON text: no blanks, names in their order, numbers as ECMAScript writes them.
    #[must_use]
    pub fn to_text(&self) -> String {
        let mut text = String::new();
        self.append_to(&mut text);
        text
    }

    fn append_to(&self, text: &mut String) {
        match self {
            Self::Null => text.push_str("null"),
            Self::Boolean(value) => text.push_str(&value.to_string()),
            Self::Integer(value) => text.push_str(&value.to_string()),
            Self::Real(value) => {
                let shown = real(*value);
                text.push_str(shown.strip_suffix(".0").unwrap_or(&shown));
            }
            Self::Text(value) => append_string(text, value),
            Self::List(values) => {
                text.push('[');
                for (at, value) in values.iter().enumerate() {
                    text.push_str(if at > 0 { "," } else { "" });
                    value.append_to(text);
                }
                text.push(']');
            }
            Self::Object(entries) => {
                text.push('{');
                for (at, (name, value)) in entries.iter().enumerate() {
                    text.push_str(if at > 0 { "," } else { "" });
                    append_string(text, name);
                    text.push(':');
                    value.append_to(text);
                }
                text.push('}');
            }
        }
    }

    /// How it is shown in a message.
    fn shown(&self) -> String {
        match self {
            Self::Null => "null".to_owned(),
            Self::Boolean(value) => value.to_string(),
            Self::Integer(value) => value.to_string(),
            Self::Real(value) => real(*value),
            Self::Text(value) => quoted(value),
            Self::List(_) => "a list".to_owned(),
            Self::Object(_) => "a record".to_owned(),
        }
    }
}

fn append_string(text: &mut String, value: &str) {
    text.push('"');
    for char in value.chars() {
        match char {
            '"' => text.push_str("\\\""),
            '\\' => text.push_str("\\\\"),
            '\u{8}' => text.push_str("\\b"),
            '\u{c}' => text.push_str("\\f"),
            '\n' => text.push_str("\\n"),
            '\r' => text.push_str("\\r"),
            '\t' => text.push_str("\\t"),
            ..=' ' if char != ' ' => text.push_str(&format!("\\u{:04x}", u32::from(char))),
            _ => text.push(char),
        }
    }
    text.push('"');
}

impl From<bool> for Value {
    fn from(value: bool) -> Self {
        Self::Boolean(value)
    }
}

impl From<i64> for Value {
    fn from(value: i64) -> Self {
        Self::Integer(value)
    }
}

impl From<f64> for Value {
    fn from(value: f64) -> Self {
        Self::Real(value)
    }
}

impl From<&str> for Value {
    fn from(value: &str) -> Self {
        Self::Text(value.to_owned())
    }
}

/// One thing that is wrong with a record: where, and what.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct RecordProblem {
    /// The way to it, as `legs[1].hours`.
    pub path: String,
    /// What is wrong there.
    pub text: String,
    pub owner: String,
    pub field: String,
    /// A limit's name, or one of missing, type, kind, unknown, twice, refused, depth.
    pub limit: String,
    pub bound: Bound,
    /// What was found; nothing where it is a secret.
    pub value: Option<Value>,
    /// Its place in a list of records, counted from 0.
    pub record: Option<usize>,
}

impl fmt::Display for RecordProblem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.path.is_empty() {
            write!(f, "{}", self.text)
        } else {
            write!(f, "{}: {}", self.path, self.text)
        }
    }
}

/// No product is made of a record, for all of these problems.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct RecordError {
    pub owner: String,
    pub problems: Vec<RecordProblem>,
}

impl RecordError {
    /// What is wrong with a text of which there is no record at all.
    pub(crate) fn of_text(text: String) -> Self {
        let problem = RecordProblem {
            path: String::new(),
            text,
            owner: "JSON".to_owned(),
            field: String::new(),
            limit: "text".to_owned(),
            bound: Bound::None,
            value: None,
            record: None,
        };
        Self {
            owner: "JSON".to_owned(),
            problems: vec![problem],
        }
    }
}

impl fmt::Display for RecordError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: not made of this record", self.owner)?;
        for problem in &self.problems {
            write!(f, "\n  {problem}")?;
        }
        Ok(())
    }
}

impl Error for RecordError {}

/// What a factory fails with whose kinds are made of records.
impl From<RecordError> for CreationError {
    fn from(error: RecordError) -> Self {
        Self::maker(error)
    }
}

/// A limit that is checked, by its name; one on the form of texts has what tells them.
pub(crate) struct Limit {
    name: &'static str,
    bound: Bound,
    form: Option<fn(&str) -> bool>,
    is_free_if_empty: bool,
}

pub(crate) fn limit(name: &'static str, bound: impl Into<Bound>) -> Limit {
    Limit {
        name,
        bound: bound.into(),
        form: None,
        is_free_if_empty: false,
    }
}

/// A least length of collections that are not empty.
pub(crate) fn unless_empty(name: &'static str, least: i64) -> Limit {
    Limit {
        is_free_if_empty: true,
        ..limit(name, least)
    }
}

pub(crate) fn form(name: &'static str, bound: impl Into<Bound>, is_one: fn(&str) -> bool) -> Limit {
    Limit {
        name,
        form: Some(is_one),
        ..limit(name, bound)
    }
}

/// What leads from a value of a record to one within it; it is spelt where something is told.
#[derive(Clone, Copy)]
pub(crate) enum Step<'a> {
    /// To a field.
    Name(&'a str),
    /// To what a map has under a key, or to that key.
    Key(&'a str),
    Number(i64),
    Element(usize),
}

impl fmt::Display for Step<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Name(name) => f.write_str(&step_to(name)),
            Self::Key(name) => write!(f, "[{}]", quoted(name)),
            Self::Number(number) => write!(f, "[{number}]"),
            Self::Element(at) => write!(f, "[{at}]"),
        }
    }
}

/// A value in a record, and the field that it is for.
pub(crate) struct At<'a> {
    problems: &'a RefCell<Vec<RecordProblem>>,
    up: Option<&'a At<'a>>,
    step: Step<'a>,
    level: usize,
    owner: &'static str,
    field: &'static str,
    within: &'static str,
    is_secret: bool,
    value: Option<&'a Value>,
}

impl<'a> At<'a> {
    /// The same, but no message tells it.
    pub(crate) fn secret(mut self) -> Self {
        self.is_secret = true;
        self
    }

    fn path(&self) -> String {
        match self.up {
            Some(up) => up.path() + &self.step.to_string(),  // «#step#»
            None => String::new(),
        }
    }

    fn named(&self) -> String {
        let part = match self.within {
            "each." => "an element of ",
            "key." => "a key of ",
            _ => "",
        };
        let dot = if self.field.is_empty() { "" } else { "." };
        format!("{part}{}{dot}{}", self.owner, self.field)
    }

    fn tell(&self, step: &str, text: String, limit: &str, bound: Bound, value: Option<Value>) {
        let path = self.path() + step;
        let path = path.strip_prefix('.').unwrap_or(&path).to_owned();
        let told = RecordProblem {
            path,
            text,
            owner: self.owner.to_owned(),
            field: self.field.to_owned(),
            limit: format!("{}{limit}", self.within),
            bound,
            value,
            record: None,
        };
        self.problems.borrow_mut().push(told);  // «#tell#»
    }

    fn unfit<T>(&self, limit: &str, wanted: &str) -> Option<T> {
        let shown = self.value.map_or_else(|| "null".to_owned(), Value::shown);
        let (found, value) = if self.is_secret {
            (": ".to_owned(), None)
        } else {
            (format!(" is {shown}; "), self.value.cloned())
        };
        let text = format!("{}{found}{wanted}", self.named());
        self.tell("", text, limit, Bound::None, value);
        None
    }

    fn missing(&self) {
        let text = format!("{} is missing", self.named());
        self.tell("", text, "missing", Bound::None, None);
    }

    /// Whether no limit is broken; the first that is gets told.
    fn keeps(
        &self,
        limits: &[Limit],
        found: impl Into<Found>,
        breaks: impl Fn(&Limit) -> bool,
    ) -> bool {
        let Some(broken) = limits.iter().find(|each| breaks(each)) else {
            return true;
        };
        let found = found.into();
        let is_hidden = self.is_secret && matches!(found, Found::Text(_));
        let name = format!("{}{}", self.within, broken.name);
        let value = if is_hidden { Found::None } else { found };
        let said = Said {
            owner: self.owner,
            field: self.field,
            limit: &name,
            bound: &broken.bound,
            value: &value,
        };
        let told = match &value {
            Found::None => None,
            Found::Integer(value) => Some(Value::Integer(*value)),
            Found::Real(value) => Some(Value::Real(*value)),
            Found::Text(value) => Some(Value::from(value.as_str())),
        };
        self.tell("", said.to_string(), broken.name, broken.bound, told);
        false
    }

    pub(crate) fn text(&self, limits: &[Limit]) -> Option<String> {
        let Value::Text(text) = self.value? else {
            return self.unfit("type", "a text is wanted");
        };
        let breaks = |limit: &Limit| match (limit.form, limit.bound) {
            (Some(is_one), _) => !is_one(text),
            (None, Bound::Texts(words)) => !words.contains(&text.as_str()),
            (None, Bound::Integer(bound)) => {
                breaks_bound(limit.name, size(text.chars().count()), bound)
            }
            _ => text.chars().all(|char| matches!(char, '\t'..='\r' | ' ')),
        };
        self.keeps(limits, text, breaks).then(|| text.clone())
    }

    /// 5, and 5.0, which JSON does not tell apart.
    pub(crate) fn integer(&self, limits: &[Limit]) -> Option<i64> {
        let number = match self.value? {
            Value::Integer(number) => *number,
            #[allow(clippy::cast_possible_truncation)] // it is whole, and not large
            Value::Real(number) if number.fract() == 0.0 && number.abs() < EXACT => *number as i64,
            _ => return self.unfit("type", "an integer is wanted"),
        };
        let breaks = |limit: &Limit| match limit.bound {
            Bound::Integers(words) => !words.contains(&number),
            Bound::Integer(bound) => breaks_bound(limit.name, number, bound),
            _ => false,
        };
        self.keeps(limits, number, breaks).then_some(number)
    }

    pub(crate) fn real(&self, limits: &[Limit]) -> Option<f64> {
        let number = match self.value? {
            #[allow(clippy::cast_precision_loss)] // as every reader of a double does
            Value::Integer(number) => *number as f64,
            Value::Real(number) => *number,
            _ => return self.unfit("type", "a number is wanted"),
        };
        let breaks = |limit: &Limit| match limit.bound {
            Bound::Real(bound) => breaks_bound(limit.name, number, bound),
            _ => !number.is_finite(),
        };
        self.keeps(limits, number, breaks).then_some(number)
    }

    /// A value that a text tells, such as a date.
    pub(crate) fn told<T: PartialOrd + Copy + fmt::Display>(
        &self,
        kind: &str,
        wanted: &str,
        read: impl Fn(&str) -> Option<T>,
        limits: &[Limit],
    ) -> Option<T> {
        let Value::Text(text) = self.value? else {
            return self.unfit("type", wanted);
        };
        let Some(told) = read(text) else {  // «#date#»
            return self.unfit(kind, wanted);
        };
        let breaks = |limit: &Limit| match limit.bound {
            Bound::Text(text) | Bound::Measure(text) => {
                read(text).is_some_and(|bound| breaks_bound(limit.name, told, bound))
            }
            _ => false,
        };
        if limits.iter().any(breaks) {
            self.keeps(limits, told.to_string().as_str(), breaks);
            return None;
        }
        Some(told)
    }

    pub(crate) fn truth(&self) -> Option<bool> {
        match self.value? {
            Value::Boolean(truth) => Some(*truth),
            _ => self.unfit("type", "true or false is wanted"),
        }
    }

    /// A word of a choice, by its name in records.
    pub(crate) fn word<C: Copy>(&self, words: &[(&'static str, C)]) -> Option<C> {
        let value = self.value?;
        let found = words.iter().find(|(name, _)| match value {
            Value::Text(text) => text == name,
            _ => false,
        });
        match found {
            Some((_, word)) => Some(*word),
            None => self.unfit("choice", &one_of(words.iter().map(|(name, _)| *name))),
        }
    }

    fn is_too_deep(&self) -> bool {
        if self.level < MOST_LEVELS {
            return false;
        }
        let text = format!("this is more than {MOST_LEVELS} levels deep");
        let bound = Bound::Integer(size(MOST_LEVELS));
        self.tell("", text, "depth", bound, None);
        true
    }

    fn inside<'b>(&'b self, step: Step<'b>, within: &'static str, value: &'b Value) -> At<'b> {
        At {
            problems: self.problems,
            up: Some(self),
            step,
            level: self.level + 1,
            owner: self.owner,
            field: self.field,
            within,
            is_secret: self.is_secret,
            value: Some(value),
        }
    }

    fn element<'b>(&'b self, step: Step<'b>, value: &'b Value) -> At<'b> {
        let mut element = self.inside(step, "each.", value);
        if *value == Value::Null {
            element.value = None;
            element.missing();
        }
        element
    }

    fn keeps_size(&self, limits: &[Limit], length: usize) -> bool {
        let length = size(length);
        self.keeps(limits, length, |limit| match limit.bound {
            Bound::Integer(_) if limit.is_free_if_empty && length == 0 => false,
            Bound::Integer(bound) => breaks_bound(limit.name, length, bound),
            _ => false,
        })
    }

    /// A list in which no element stands twice; `told` is what an error tells of one.
    pub(crate) fn distinct<T: Ord>(
        &self,
        read: impl Fn(&At<'_>) -> Option<T>,
        told: impl Fn(&T) -> Found,
        limits: &[Limit],
    ) -> Option<Vec<T>> {
        let held = self.list(read, limits)?;
        let found = repeated(&held).map(told);
        match found {
            Some(found) => {
                self.keeps(&[limit("unique", Bound::None)], found, |_| true);
                None
            }
            None => Some(held),
        }
    }

    pub(crate) fn list<T>(
        &self,
        read: impl Fn(&At<'_>) -> Option<T>,
        limits: &[Limit],
    ) -> Option<Vec<T>> {
        let Value::List(values) = self.value? else {
            return self.unfit("type", "a list is wanted");
        };
        if self.is_too_deep() {
            return None;
        }
        let before = self.problems.borrow().len();
        let each = values.iter().enumerate();
        let held: Vec<T> = each
            .filter_map(|(at, value)| read(&self.element(Step::Element(at), value)))
            .collect();
        let is_sound = self.problems.borrow().len() == before;
        (is_sound && self.keeps_size(limits, held.len())).then_some(held)
    }

    pub(crate) fn set<T: Ord>(
        &self,
        read: impl Fn(&At<'_>) -> Option<T>,
        limits: &[Limit],
    ) -> Option<BTreeSet<T>> {
        let held: BTreeSet<T> = self.list(read, &[])?.into_iter().collect();
        self.keeps_size(limits, held.len()).then_some(held)
    }

    pub(crate) fn map<K: Ord, T>(
        &self,
        key: impl Fn(&At<'_>) -> Option<K>,
        read: impl Fn(&At<'_>) -> Option<T>,
        limits: &[Limit],
    ) -> Option<BTreeMap<K, T>> {
        let Value::Object(entries) = self.value? else {
            return self.unfit("type", "a record is wanted");
        };
        if self.is_too_deep() {
            return None;
        }
        let before = self.problems.borrow().len();
        self.tell_twice(entries);
        let by_name: BTreeMap<&String, &Value> =
            entries.iter().map(|(name, value)| (name, value)).collect();
        let mut held = BTreeMap::new();
        for (name, value) in by_name {
            let named = Value::from(name.as_str());
            let step = Step::Key(name);
            let found = key(&self.inside(step, "key.", &named));
            let one = read(&self.element(step, value));
            if let (Some(found), Some(one)) = (found, one) {
                held.insert(found, one);
            }
        }
        let is_sound = self.problems.borrow().len() == before;
        (is_sound && self.keeps_size(limits, held.len())).then_some(held)
    }

    /// The same of a map whose keys are whole numbers.
    pub(crate) fn numbered<T>(
        &self,
        read: impl Fn(&At<'_>) -> Option<T>,
        limits: &[Limit],
    ) -> Option<BTreeMap<i64, T>> {
        let Value::Object(entries) = self.value? else {
            return self.unfit("type", "a record is wanted");
        };
        if self.is_too_deep() {
            return None;
        }
        let before = self.problems.borrow().len();
        self.tell_twice(entries);
        let by_name: BTreeMap<&String, &Value> =
            entries.iter().map(|(name, value)| (name, value)).collect();
        let mut held = BTreeMap::new();
        for (name, value) in by_name {
            let number = name.parse::<i64>().ok();
            let number = number.filter(|number| number.to_string() == *name);
            let named = number.map_or_else(|| Value::from(name.as_str()), Value::Integer);
            let step = number.map_or(Step::Key(name), Step::Number);
            let found = self.inside(step, "key.", &named).integer(&[]);
            let one = read(&self.element(step, value));
            if let (Some(found), Some(one)) = (found, one) {
                held.insert(found, one);
            }
        }
        let is_sound = self.problems.borrow().len() == before;
        (is_sound && self.keeps_size(limits, held.len())).then_some(held)
    }

    fn tell_twice(&self, entries: &[(String, Value)]) {
        if all_once(entries) {
            return;
        }
        let mut names = BTreeSet::new();
        for (name, _) in entries {
            if !names.insert(name) {
                let text = "this name stands there twice".to_owned();
                self.tell(&step_to(name), text, "twice", Bound::None, None);
            }
        }
    }

    /// The record without one of its names, for a maker that reads it.
    pub(crate) fn without(&self, name: &str) -> Value {
        let Some(Value::Object(entries)) = self.value else {
            return Value::Null;
        };
        let rest = entries.iter().filter(|(each, _)| each != name);
        Value::Object(rest.cloned().collect())
    }

    /// What a maker made of the whole record, or nothing, and all that it found wrong.
    pub(crate) fn whole<T>(&self, made: Creation<T>) -> Option<T> {
        let error = match made {
            Ok(made) => return Some(made),
            Err(error) => error,
        };
        let wrong = match &error {
            CreationError::Maker(failure) => failure.downcast_ref::<RecordError>(),
            _ => None,
        };
        match wrong {
            Some(wrong) => self
                .problems
                .borrow_mut()
                .extend(wrong.problems.iter().cloned()),
            None => self.tell("", error.to_string(), "refused", Bound::None, None),
        }
        None
    }

    /// What a product is read of. `kind` is the name of the kind, and what may stand there.
    pub(crate) fn fields<'b>(
        &'b self,
        owner: &'static str,
        kind: Option<(&'static str, &[&str])>,
    ) -> Option<Fields<'b>> {
        let Value::Object(entries) = self.value? else {
            return self.unfit("type", "a record is wanted");
        };
        let at = At {
            owner,
            field: "",
            within: "",
            is_secret: false,
            ..*self
        };
        if at.is_too_deep() {
            return None;
        }
        let before = at.problems.borrow().len();
        at.tell_twice(entries);
        let fields = Fields {
            at,
            entries,
            before,
        };
        if let Some((name, kinds)) = kind {
            let found = fields.get(name);
            let is_known = found.is_none_or(|value| kinds.iter().any(|kind| is_text(value, kind)));
            if !is_known {
                fields.at.unknown_kind(name, found, kinds);
            }
        }
        Some(fields)
    }

    /// The kind that a record tells, if it is one of these; "" where it tells none, and needs none.
    pub(crate) fn kind<'k>(
        &self,
        owner: &'static str,
        name: &'static str,
        is_needed: bool,
        kinds: &[&'k str],
    ) -> Option<&'k str> {
        let Value::Object(entries) = self.value? else {
            return self.unfit("type", "a record is wanted");
        };
        let found = entries.iter().find(|(each, _)| each == name);
        let found = found
            .map(|(_, value)| value)
            .filter(|value| **value != Value::Null);
        let known = kinds
            .iter()
            .find(|kind| found.is_some_and(|value| is_text(value, kind)));
        if known.is_some() {
            return known.copied();
        }
        if found.is_none() && !is_needed {
            return Some("");
        }
        let at = At {
            owner,
            field: "",
            within: "",
            ..*self
        };
        at.unknown_kind(name, found, kinds);  // «#kind#»
        None
    }

    fn unknown_kind(&self, name: &str, found: Option<&Value>, kinds: &[&str]) {
        let (said, limit) = match found {
            None => (" is missing".to_owned(), "missing"),
            Some(value) => {
                let wanted = one_of(kinds.iter().copied());
                (format!(" is {}; {wanted}", value.shown()), "kind")
            }
        };
        let text = format!("{}.{name}{said}", self.owner);
        self.tell(&step_to(name), text, limit, Bound::None, found.cloned());
    }
}

/// An object that is read as one product.
pub(crate) struct Fields<'a> {
    at: At<'a>,
    entries: &'a [(String, Value)],
    before: usize,
}

impl Fields<'_> {
    fn get(&self, name: &str) -> Option<&Value> {
        let found = self.entries.iter().find(|(each, _)| each == name);
        found
            .map(|(_, value)| value)
            .filter(|value| **value != Value::Null)
    }

    pub(crate) fn optional(
        &self,
        name: &'static str,
        owner: &'static str,
        field: &'static str,
    ) -> At<'_> {
        At {
            problems: self.at.problems,
            up: Some(&self.at),
            step: Step::Name(name),
            level: self.at.level + 1,
            owner,
            field,
            within: "",
            is_secret: false,
            value: self.get(name),
        }
    }

    pub(crate) fn required(
        &self,
        name: &'static str,
        owner: &'static str,
        field: &'static str,
    ) -> At<'_> {
        let at = self.optional(name, owner, field);
        if at.value.is_none() {
            at.missing();
        }
        at
    }

    /// Tells the names that are none of these.
    pub(crate) fn refuse_others(&self, known: &[&'static str]) {
        let is_known = |(name, _): &(String, Value)| known.contains(&name.as_str());
        if self.entries.iter().all(is_known) {
            return;
        }
        let names: BTreeSet<&String> = self.entries.iter().map(|(name, _)| name).collect();
        for name in names {
            if known.contains(&name.as_str()) {
                continue;
            }
            let hint = nearest(name, known).map_or_else(String::new, |meant| {
                format!("; did you mean {}?", quoted(meant))
            });
            let text = format!("{} has no such field{hint}", self.at.owner);
            self.at
                .tell(&step_to(name), text, "unknown", Bound::None, None);
        }
    }

    /// Whether nothing is wrong so far.
    pub(crate) fn is_sound(&self) -> bool {
        self.at.problems.borrow().len() == self.before
    }

    /// What a constructor made, or nothing, and why.
    pub(crate) fn made<T>(&self, made: Creation<T>) -> Option<T> {
        let error = match made {
            Ok(made) => return Some(made),
            Err(error) => error,
        };
        match &error {
            CreationError::Limit {
                field,
                limit,
                bound,
                ..
            } => {
                let text = error.to_string();
                self.at.tell(&step_to(field), text, limit, *bound, None);
            }
            _ => self.refused(&error.to_string()),
        }
        None
    }

    fn refused(&self, text: &str) {
        self.at
            .tell("", text.to_owned(), "refused", Bound::None, None);
    }

    /// What a factory by values made is not of the kind that the record tells.
    pub(crate) fn another_kind<T>(&self) -> Option<T> {
        let owner = self.at.owner;
        self.refused(&format!("{owner}: refused, such values make another kind"));
        None
    }
}

/// The product of a record, or everything that is wrong with it.
pub(crate) fn read<T>(
    owner: &'static str,
    record: &Value,
    read: impl Fn(&At<'_>) -> Option<T>,
) -> Result<T, RecordError> {
    let problems = RefCell::new(Vec::new());
    let at = At {
        problems: &problems,
        up: None,
        step: Step::Element(0),
        level: 0,
        owner,
        field: "",
        within: "",
        is_secret: false,
        value: Some(record),
    };
    let made = read(&at);
    match (made, problems.into_inner()) {
        (Some(made), problems) if problems.is_empty() => Ok(made),
        (_, problems) => Err(RecordError {
            owner: owner.to_owned(),
            problems,
        }),
    }
}

/// The products that a list of records makes, and what is wrong with the others; nothing stops at the first.
pub fn create_all<T>(
    records: &Value,
    read: impl Fn(&Value) -> Result<T, RecordError>,
) -> (Vec<T>, Vec<RecordProblem>) {
    let mut made = Vec::new();
    let mut problems = Vec::new();
    let Value::List(values) = records else {
        let text = format!("the records are {}; a list is wanted", records.shown());
        problems.push(RecordProblem {
            path: String::new(),
            text,
            owner: String::new(),
            field: String::new(),
            limit: "type".to_owned(),
            bound: Bound::None,
            value: Some(records.clone()),
            record: None,
        });
        return (made, problems);
    };
    for (at, record) in values.iter().enumerate() {
        match read(record) {
            Ok(one) => made.push(one),
            Err(error) => problems.extend(error.problems.into_iter().map(|problem| {
                let is_apart = !problem.path.is_empty() && !problem.path.starts_with('[');
                let dot = if is_apart { "." } else { "" };
                RecordProblem {
                    path: format!("[{at}]{dot}{}", problem.path),
                    record: Some(at),
                    ..problem
                }
            })),
        }
    }
    (made, problems)
}

/// Whether no name stands twice. Of the few that objects have, each is compared with those before it.
fn all_once(entries: &[(String, Value)]) -> bool {
    if entries.len() > FEW {
        let names: BTreeSet<&String> = entries.iter().map(|(name, _)| name).collect();
        return names.len() == entries.len();
    }
    let mut rest = entries;
    while let Some(((name, _), others)) = rest.split_first() {
        if others.iter().any(|(other, _)| other == name) {
            return false;
        }
        rest = others;
    }
    true
}

fn is_text(value: &Value, text: &str) -> bool {
    matches!(value, Value::Text(found) if found == text)
}

fn step_to(name: &str) -> String {
    let is_letter = |char: char| char.is_ascii_alphabetic() || char == '_';
    let is_plain = name.starts_with(is_letter)
        && name
            .chars()
            .all(|char| is_letter(char) || char.is_ascii_digit());
    if is_plain {
        format!(".{name}")
    } else {
        format!("[{}]", quoted(name))
    }
}

fn one_of<'a>(names: impl Iterator<Item = &'a str>) -> String {
    let shown: Vec<String> = names.map(quoted).collect();
    format!("one of {} is wanted", shown.join(", "))
}

fn size(length: usize) -> i64 {
    i64::try_from(length).unwrap_or(i64::MAX)
}

fn breaks_bound<N: PartialOrd>(name: &str, number: N, bound: N) -> bool {
    match name {
        "min" | "min_length" => number < bound,
        "max" | "max_length" => number > bound,
        "above" => number <= bound,
        "below" => number >= bound,
        _ => false,
    }
}

/// The known name that is likely meant: the same but for case, or the one that takes the fewest changes.
fn nearest(name: &str, known: &[&'static str]) -> Option<&'static str> {
    let lower = name.to_lowercase();
    let same = known.iter().find(|each| each.to_lowercase() == lower);
    let letters: Vec<char> = name.chars().collect();
    if same.is_some() || letters.len() > FARTHEST {
        return same.copied();
    }
    let most = (letters.len() / 3).max(1);
    let far = known
        .iter()
        .map(|each| (distance(&letters, each), *each))
        .filter(|(changes, _)| *changes <= most);
    far.min_by_key(|(changes, _)| *changes)
        .map(|(_, each)| each)
}

/// How many letters have to be put in, dropped or replaced (Levenshtein).
fn distance(one: &[char], other: &str) -> usize {
    let other: Vec<char> = other.chars().collect();
    let mut row: Vec<usize> = (0..=other.len()).collect();
    for (at, letter) in one.iter().enumerate() {
        let mut last = row[0];
        row[0] = at + 1;
        for (place, second) in other.iter().enumerate() {
            let changed = last + usize::from(letter != second);
            last = row[place + 1];
            row[place + 1] = (last + 1).min(row[place] + 1).min(changed);
        }
    }
    row[other.len()]
}

/// An object that is written: names in their order.
#[derive(Default)]
pub(crate) struct Tree(Vec<(String, Value)>);

impl Tree {
    pub(crate) fn put(&mut self, name: &str, value: impl Into<Value>) {
        self.0.push((name.to_owned(), value.into()));
    }

    pub(crate) fn done(self) -> Value {
        Value::Object(self.0)
    }
}

/// What is written of each element.
pub(crate) fn each<'a, T: 'a>(
    held: impl IntoIterator<Item = &'a T>,
    write: impl Fn(&'a T) -> Value,
) -> Value {
    Value::List(held.into_iter().map(write).collect())
}

/// The same of a set of words, which records have in the order of their names.
pub(crate) fn sorted<'a, T: 'a>(
    held: impl IntoIterator<Item = &'a T>,
    name: impl Fn(&'a T) -> &'static str,
) -> Value {
    let names: BTreeSet<&'static str> = held.into_iter().map(name).collect();
    Value::List(names.into_iter().map(Value::from).collect())
}

/// What is written of a map, in the order of its keys.
pub(crate) fn entries<'a, K: 'a, T: 'a, N: Ord + ToString>(
    held: &'a BTreeMap<K, T>,
    name: impl Fn(&'a K) -> N,
    write: impl Fn(&'a T) -> Value,
) -> Value {
    let sorted: BTreeMap<N, &'a T> = held.iter().map(|(key, value)| (name(key), value)).collect();
    let entries = sorted.into_iter();
    Value::Object(
        entries
            .map(|(name, value)| (name.to_string(), write(value)))
            .collect(),
    )
}
