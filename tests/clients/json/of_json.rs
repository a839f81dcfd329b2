//! Records from JSON text.

use std::fs;

use PACKAGE::json::parse;
use PACKAGE::records::{create_all, read_mark, read_plan, write_mark};

fn lines(name: &str) -> Vec<String> {
    let text = fs::read_to_string(format!("DATA_FOLDER/{name}")).unwrap();
    text.split_terminator('\n').map(str::to_owned).collect()
}

fn bytes(name: &str) -> Vec<u8> {
    fs::read(format!("DATA_FOLDER/{name}")).unwrap()
}

#[test]
fn a_file_is_made_into_products() {
    let (marks, problems) = create_all(&parse(bytes("records.json")).unwrap(), read_mark);
    let told: Vec<String> = problems.iter().map(ToString::to_string).collect();
    let written: Vec<String> = marks.iter().map(|mark| write_mark(&**mark).to_text()).collect();
    assert_eq!(told, lines("problems.txt"));
    assert_eq!(written, lines("written.txt"));
}

#[test]
fn what_nobody_should_send_is_told() {
    for (at, expected) in lines("hostile.txt").iter().enumerate() {
        let read = parse(bytes(&format!("{at}.json"))).and_then(|record| read_mark(&record));
        let told = read.map_or_else(
            |error| error.problems.iter().map(|each| format!("{} {}", each.limit, each.path)).collect(),
            |_| vec!["none ".to_owned()],
        );
        assert_eq!(&told.join(", "), expected, "{at}");
    }
}

#[test]
fn depth_is_bounded() {
    let error = read_plan(&parse(bytes("deep.json")).unwrap()).unwrap_err();
    assert!(error.problems.iter().all(|each| each.limit == "depth"));
}
