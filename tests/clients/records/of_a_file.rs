//! Records that stand in a file, as a JSON library would hand them out.

use std::fs;

use PACKAGE::records::{create_all, read_mark, read_plan, write_mark, Value};
use PACKAGE::*;

fn lines(name: &str) -> Vec<String> {
    let text = fs::read_to_string(format!("DATA_FOLDER/{name}")).unwrap();
    text.split_terminator('\n').map(str::to_owned).collect()
}

fn tree(name: &str) -> Value {
    let lines = lines(name);
    let mut steps = lines.iter().map(String::as_str);
    let first = steps.next().unwrap();
    tree_of(&mut steps, first)
}

fn text(digits: &str) -> String {
    let byte = |at: usize| u8::from_str_radix(&digits[at..at + 2], 16).unwrap();
    String::from_utf8((0..digits.len()).step_by(2).map(byte).collect()).unwrap()
}

fn tree_of<'a>(steps: &mut impl Iterator<Item = &'a str>, step: &str) -> Value {
    let (kind, told) = step.split_once(' ').unwrap_or((step, ""));
    match kind {
        "null" => Value::Null,
        "integer" => Value::Integer(told.parse().unwrap()),
        "real" => Value::Real(told.parse().unwrap()),
        "text" => Value::Text(text(told)),
        "list" => {
            let mut list = Vec::new();
            loop {
                match steps.next().unwrap() {
                    "end" => return Value::List(list),
                    next => list.push(tree_of(steps, next)),
                }
            }
        }
        "object" => {
            let mut object = Vec::new();
            loop {
                let next = steps.next().unwrap();
                let Some(name) = next.strip_prefix("text ") else {
                    return Value::Object(object);
                };
                let step = steps.next().unwrap();
                object.push((text(name), tree_of(steps, step)));
            }
        }
        truth => Value::Boolean(truth == "true"),
    }
}

fn texts(marks: &[Box<dyn Mark>]) -> Vec<String> {
    marks
        .iter()
        .map(|mark| write_mark(mark.as_ref()).to_text())
        .collect()
}

#[test]
fn a_file_is_made_into_products() {
    let (marks, problems) = create_all(&tree("records.steps"), read_mark);
    let told: Vec<String> = problems.iter().map(ToString::to_string).collect();
    assert_eq!(told, lines("problems.txt"));
    assert_eq!(texts(&marks), lines("written.txt"));
}

#[test]
fn what_is_written_is_read_by_every_other() {
    let (marks, problems) = create_all(&tree("again.steps"), read_mark);
    assert!(problems.is_empty());
    assert_eq!(texts(&marks), lines("written.txt"));
}

#[derive(Debug, Clone, PartialEq)]
struct Raft(MarkFields);

impl Mark for Raft {
    fn key(&self) -> &'static str {
        "raft"
    }

    fn fields(&self) -> &MarkFields {
        &self.0
    }

    fn chart_label(&self) -> String {
        "raft".to_owned()
    }
}

#[test]
fn a_kind_of_ones_own_is_written_with_what_all_kinds_have() {
    let position = Position::new(54.5, 8.25).unwrap();
    let options = MarkOptions {
        remarks: Some("two, tied".to_owned()),
        ..Default::default()
    };
    let raft = Raft(MarkFields::new(3, position, options).unwrap());
    let text = write_mark(&raft).to_text();
    assert_eq!(
        text,
        r#"{"type":"raft","station":3,"position":{"lat":54.5,"lon (°)":8.25},"toString":"two, tied"}"#
    );
}

#[test]
fn depth_is_bounded() {
    let error = read_plan(&tree("deep.steps")).unwrap_err();
    assert!(error.problems.iter().all(|each| each.limit == "depth"));
}
