//! Products that hold others of their own type, thousands deep.

use PACKAGE::*;

const DEPTH: usize = 4000;

fn chain() -> Link {
    let mut first = Link::new("first", LinkOptions::default());
    for _ in 0..DEPTH {
        let options = LinkOptions {
            next: Some(first),
            serial: Some(7),
            ..Default::default()
        };
        first = Link::new("outer", options);
    }
    first
}

#[test]
fn chains_are_moved_together_and_start_again_at_every_level() {
    let original = chain();
    let duplicate = original.duplicate();
    let mut levels = 0;
    let mut each = Some(&duplicate);
    while let Some(link) = each {
        assert_eq!(link.serial(), None);
        each = link.next();
        levels += 1;
    }
    assert_eq!(levels, DEPTH + 1);
    assert_eq!(original.serial(), Some(7));
}

#[test]
fn a_change_to_the_end_of_a_clone_does_not_reach_its_original() {
    let original = chain();
    let mut clone = original.clone();
    assert!(clone == original);
    let mut last = &mut clone;
    while last.next().is_some() {
        last = last.next_mut().unwrap();
    }
    last.set_label("last");
    assert!(clone != original);
}
