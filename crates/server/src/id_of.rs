//! Ids in the paths of routes.

use rocket::request::FromParam;
use rovnek_core::ids::Id;

/// Id of a thing in a path; a path with anything but a number there leads nowhere.
pub struct IdOf<I>(pub I);

impl<'r, I: Id> FromParam<'r> for IdOf<I> {
    type Error = <u32 as FromParam<'r>>::Error;

    fn from_param(param: &'r str) -> Result<IdOf<I>, Self::Error> {
        u32::from_param(param).map(|number| IdOf(I::of(number)))
    }
}
