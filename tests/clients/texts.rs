//! Texts that are to have a form: endless, and just beside it.

use PACKAGE::*;

fn is_kept<T>(made: Creation<T>) -> bool {
    match made {
        Ok(_) => true,
        Err(CreationError::Limit { limit, .. }) => {
            assert_eq!(limit, "pattern");
            false
        }
        Err(error) => panic!("{error}"),
    }
}

fn is_sign(text: &str) -> bool {
    is_kept(MarkCall::new(text, "https://port-varrow.example/", MarkCallOptions::default()))
}

fn is_name(text: &str) -> bool {
    is_kept(Fixed::new(text))
}

#[test]
fn each_character_counts_once() {
    assert!(is_sign("ABC"));
    for text in ["ABC\n", "ABC\0", "\u{ff21}\u{ff22}\u{ff23}", "abc", ""] {
        assert!(!is_sign(text), "{text}");
    }
    assert!(is_name(&format!("\u{c4}{}", "\u{1f6df}".repeat(20))));
    assert!(!is_name(&format!("\u{c4}{}", "\u{1f6df}".repeat(21))));
}

#[test]
fn a_long_text_is_looked_at_once() {
    assert!(!is_name(&format!("A{}", "a".repeat(10_000_000))));
}
