//! The forms of texts, as tables: a text is looked at once, and means the same in every language.

/// What texts look like: a row of `moves` leads from a state to others, by the kind of the next character; `kinds` are those
/// of the characters from each of `starts` on. State 0 refuses everything, state 1 is the first.
pub(crate) struct TextPattern {
    starts: &'static [u32],
    kinds: &'static [usize],
    moves: &'static [&'static [usize]],
    ends: &'static [usize],
}

impl TextPattern {
    /// Whether the whole text has the form.
    pub(crate) fn accepts(&self, text: &str) -> bool {
        let end = text
            .chars()
            .fold(1, |state, char| self.moves[state][self.kind(char)]);
        self.ends.binary_search(&end).is_ok()
    }

    fn kind(&self, char: char) -> usize {
        let after = self
            .starts
            .partition_point(|start| *start <= u32::from(char));
        self.kinds[after - 1]
    }
}
