//! A million lanterns with rhythms that they share, or with one each: `lanterns shared|own COUNT`.

use fairway::{Lantern, LightRhythm, LightRhythmOptions, LightRhythmPool, Position};
use std::sync::Arc;

const KINDS: usize = 50;

fn rhythm(code: &str, period_ms: i64) -> fairway::Creation<LightRhythm> {
    let options = LightRhythmOptions { pulses: (0..256).collect() };
    LightRhythm::new(code, period_ms, options)
}

fn main() {
    let arguments: Vec<String> = std::env::args().collect();
    let count: usize = arguments[2].parse().unwrap();
    let pool = LightRhythmPool::with_maker(rhythm);
    let position = Position::new(54.5, 10.25).unwrap();
    let lanterns: Vec<Lantern> = (0..count)
        .map(|number| {
            let code = format!("Fl {}", number % KINDS);
            let lit = match arguments[1].as_str() {
                "shared" => pool.get(&code, 4000),
                _ => rhythm(&code, 4000).map(Arc::new),
            };
            Lantern::new(lit.unwrap(), position.clone())
        })
        .collect();
    assert_eq!(lanterns.len(), count);
}
