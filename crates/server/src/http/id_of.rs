//! Ids in the addresses of routes.

use rocket::form::{self, FromFormField, ValueField};
use rocket::request::FromParam;
use rovnek_core::ids::Id;

/// Id of a thing in an address. A path with anything but a number there leads nowhere; a query without a number
/// names nothing.
pub struct IdOf<I>(pub I);

impl<'r, I: Id> FromParam<'r> for IdOf<I> {
    type Error = <u32 as FromParam<'r>>::Error;

    fn from_param(param: &'r str) -> Result<IdOf<I>, Self::Error> {
        u32::from_param(param).map(|number| IdOf(I::of(number)))
    }
}

impl<'r, I: Id + Send + Sync + 'r> FromFormField<'r> for IdOf<I> {
    fn from_value(field: ValueField<'r>) -> form::Result<'r, Self> {
        u32::from_value(field).map(|number| IdOf(I::of(number)))
    }
}
