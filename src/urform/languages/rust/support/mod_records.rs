
/// An object of these names, in their order.
pub fn of_names<const N: usize>(entries: [(&str, Value); N]) -> Value {
    Value::Object(entries.map(|(name, value)| (name.to_owned(), value)).into())
}

/// A list of these values.
pub fn of_items<const N: usize>(values: [Value; N]) -> Value {
    Value::List(values.into())
}

pub fn of_text(text: &str) -> Value {
    Value::from(text)
}

pub fn of_integer(number: i64) -> Value {
    Value::Integer(number)
}

pub fn of_real(number: f64) -> Value {
    Value::Real(number)
}

pub fn of_truth(truth: bool) -> Value {
    Value::Boolean(truth)
}

pub fn of_nothing() -> Value {
    Value::Null
}

/// Fails unless a record is refused for just these reasons.
#[track_caller]
pub fn refuses_record<T>(result: Result<T, RecordError>, wanted: &[&str]) {
    let Err(error) = result else {
        panic!("problems: got none, want {wanted:?}");
    };
    says_all(&error.problems, wanted);
}

/// Fails unless these problems are told, and no others.
#[track_caller]
pub fn says_all(found: &[RecordProblem], wanted: &[&str]) {
    let said: Vec<String> = found.iter().map(RecordProblem::to_string).collect();
    assert!(said == wanted, "problems: got {said:?}, want {wanted:?}");
}
