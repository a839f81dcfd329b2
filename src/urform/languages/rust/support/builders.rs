//! What the types of builders say of required fields.

/// A required field that was given to a builder: where all of them are, there is a product to build.
#[diagnostic::on_unimplemented(
    message = "a required field was not given: `{Self}`",
    label = "give it before it is built"
)]
pub trait Given {}
