//! What a careful author writes by hand for the same jobs.

use std::collections::BTreeMap;
use std::sync::Arc;

#[derive(Debug)]
pub enum Refused {
    Limit(&'static str, &'static str, &'static str),
    Missing(Vec<&'static str>),
    Unknown(String),
}

#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Side {
    Port,
    Starboard,
}

#[derive(Debug, Clone, PartialEq)]
pub struct Position {
    latitude: f64,
    longitude: f64,
}

impl Position {
    pub fn new(latitude: f64, longitude: f64) -> Result<Self, Refused> {
        if !latitude.is_finite() || latitude < -90.0 || latitude > 90.0 {
            return Err(Refused::Limit("Position", "latitude", "min"));
        }
        if !longitude.is_finite() || longitude < -180.0 || longitude > 180.0 {
            return Err(Refused::Limit("Position", "longitude", "min"));
        }
        Ok(Self { latitude: latitude + 0.0, longitude: longitude + 0.0 })
    }

    pub fn latitude(&self) -> f64 {
        self.latitude
    }

    pub fn longitude(&self) -> f64 {
        self.longitude
    }
}

pub trait Mark: Send + Sync {
    fn station(&self) -> i64;
}

#[derive(Default)]
pub struct MarkOptions {
    pub side: Option<Side>,
    pub remarks: Option<String>,
    pub reflective: Option<bool>,
}

#[derive(Debug, Clone, PartialEq)]
pub struct MarkFields {
    station: i64,
    position: Position,
    side: Option<Side>,
    remarks: Option<String>,
    reflective: bool,
}

impl MarkFields {
    fn new(station: i64, position: Position, options: MarkOptions, reflective: bool) -> Result<Self, Refused> {
        if !(1..=9999).contains(&station) {
            return Err(Refused::Limit("Mark", "station", "min"));
        }
        if let Some(remarks) = &options.remarks {
            if remarks.chars().count() > 200 {
                return Err(Refused::Limit("Mark", "remarks", "max_length"));
            }
        }
        Ok(Self {
            station,
            position,
            side: options.side,
            remarks: options.remarks,
            reflective: options.reflective.unwrap_or(reflective),
        })
    }
}

#[derive(Debug, Clone, PartialEq)]
pub struct Buoy {
    fields: MarkFields,
    draught: f64,
}

impl Buoy {
    pub fn new(station: i64, position: Position, options: MarkOptions, draught: f64) -> Result<Self, Refused> {
        if !draught.is_finite() || draught <= 0.0 {
            return Err(Refused::Limit("Buoy", "draught", "above"));
        }
        let fields = MarkFields::new(station, position, options, true)?;
        Ok(Self { fields, draught })
    }
}

impl Mark for Buoy {
    fn station(&self) -> i64 {
        self.fields.station
    }
}

#[derive(Debug, Clone, PartialEq)]
pub struct Beacon {
    fields: MarkFields,
}

impl Beacon {
    pub fn new(station: i64, position: Position, options: MarkOptions) -> Result<Self, Refused> {
        let fields = MarkFields::new(station, position, options, false)?;
        Ok(Self { fields })
    }
}

impl Mark for Beacon {
    fn station(&self) -> i64 {
        self.fields.station
    }
}

type MarkMaker = Box<dyn Fn(i64, Position, MarkOptions) -> Result<Box<dyn Mark>, Refused> + Send + Sync>;

pub struct MarkRegistry {
    makers: BTreeMap<String, MarkMaker>,
}

impl MarkRegistry {
    pub fn new() -> Self {
        let buoy: MarkMaker = Box::new(|station, position, options| Ok(Box::new(Buoy::new(station, position, options, 1.5)?)));
        let beacon: MarkMaker = Box::new(|station, position, options| Ok(Box::new(Beacon::new(station, position, options)?)));
        Self {
            makers: BTreeMap::from([("buoy".to_owned(), buoy), ("beacon".to_owned(), beacon)]),
        }
    }

    pub fn make(&self, key: &str, station: i64, position: Position, options: MarkOptions) -> Result<Box<dyn Mark>, Refused> {
        match self.makers.get(key) {
            Some(maker) => maker(station, position, options),
            None => Err(Refused::Unknown(key.to_owned())),
        }
    }
}

#[derive(Debug, Clone, PartialEq)]
pub struct Leg {
    label: String,
    hours: f64,
}

fn is_blank(text: &str) -> bool {
    text.trim_matches([' ', '\t', '\n', '\u{b}', '\u{c}', '\r']).is_empty()
}

impl Leg {
    pub fn new(label: &str, hours: f64) -> Result<Self, Refused> {
        if is_blank(label) {
            return Err(Refused::Limit("Leg", "label", "not_blank"));
        }
        if !hours.is_finite() || hours < 0.0 {
            return Err(Refused::Limit("Leg", "hours", "min"));
        }
        Ok(Self { label: label.to_owned(), hours: hours + 0.0 })
    }

    pub fn set_label(&mut self, label: &str) -> Result<(), Refused> {
        if is_blank(label) {
            return Err(Refused::Limit("Leg", "label", "not_blank"));
        }
        label.clone_into(&mut self.label);
        Ok(())
    }

    pub fn hours(&self) -> f64 {
        self.hours
    }
}

#[derive(Debug, Clone)]
pub struct RefitPlan {
    title: String,
    legs: Vec<Leg>,
    crew: i64,
    tags: Vec<String>,
    sheets: Vec<Arc<String>>,
    chart: Option<Arc<String>>,
    serial: Option<i64>,
}

impl RefitPlan {
    pub fn new(title: String, legs: Vec<Leg>, crew: i64, tags: Vec<String>) -> Result<Self, Refused> {
        if is_blank(&title) {
            return Err(Refused::Limit("RefitPlan", "title", "not_blank"));
        }
        if legs.is_empty() {
            return Err(Refused::Limit("RefitPlan", "legs", "min_length"));
        }
        if crew < 1 {
            return Err(Refused::Limit("RefitPlan", "crew", "min"));
        }
        Ok(Self {
            title,
            legs,
            crew,
            tags,
            sheets: Vec::new(),
            chart: None,
            serial: None,
        })
    }

    pub fn fresh_clone(&self) -> Self {
        Self {
            serial: None,
            ..self.clone()
        }
    }

    /// Reads every field, so that none is left out by the compiler.
    pub fn weight(&self) -> usize {
        let chart = usize::from(self.chart.is_some()) + self.serial.map_or(0, |serial| serial as usize);
        self.title.len() + self.legs.len() + self.crew as usize + self.tags.len() + self.sheets.len() + chart
    }
}

#[derive(Default)]
pub struct RefitPlanBuilder {
    title: Option<String>,
    legs: Option<Vec<Leg>>,
    crew: Option<i64>,
    tags: Vec<String>,
}

impl RefitPlanBuilder {
    pub fn title(&mut self, title: &str) -> &mut Self {
        self.title = Some(title.to_owned());
        self
    }

    pub fn crew(&mut self, crew: i64) -> &mut Self {
        self.crew = Some(crew);
        self
    }

    pub fn tags(&mut self, tags: Vec<String>) -> &mut Self {
        self.tags = tags;
        self
    }

    pub fn add_leg(&mut self, leg: Leg) -> &mut Self {
        self.legs.get_or_insert_with(Vec::new).push(leg);
        self
    }

    pub fn build(&self) -> Result<RefitPlan, Refused> {
        match (&self.title, &self.legs) {
            (Some(title), Some(legs)) => {
                RefitPlan::new(title.clone(), legs.clone(), self.crew.unwrap_or(2), self.tags.clone())
            }
            (title, legs) => {
                let missing = [("title", title.is_none()), ("legs", legs.is_none())];
                Err(Refused::Missing(missing.iter().filter(|each| each.1).map(|each| each.0).collect()))
            }
        }
    }
}
