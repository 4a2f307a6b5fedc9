//! Errors as `application/problem+json` (RFC 9457), with a sentence that a person can act on.

use crate::http::sent::Wrong;
use rocket::http::{ContentType, Status};
use rocket::response::{Responder, Response, Result as Answer};
use rocket::{Request, catch};
use rovnek_store::StoreError;
use serde_json::{Map, Value};
use std::io::Cursor;

/// Refusal of a request.
#[derive(Debug)]
pub struct Problem {
    /// Status code of HTTP.
    pub status: Status,
    /// Sentence that says the fault, its place, and the remedy.
    pub sentence: String,
    /// More for the page (extension members of RFC 9457).
    pub more: Map<String, Value>,
}

/// The answer of a handler that may fail.
pub type Outcome<T> = Result<T, Problem>;

impl Problem {
    /// The request cannot be met as it is.
    pub fn refused(sentence: impl Into<String>) -> Problem {
        Problem::of(Status::UnprocessableEntity, sentence)
    }

    /// The request fits what was there before somebody else changed it.
    pub fn conflict(sentence: impl Into<String>) -> Problem {
        Problem::of(Status::Conflict, sentence)
    }

    /// With a status of its own.
    pub fn of(status: Status, sentence: impl Into<String>) -> Problem {
        Problem { status, sentence: sentence.into(), more: Map::new() }
    }

    /// Refusal with one more member for the page.
    pub fn with(mut self, key: &str, value: Value) -> Problem {
        self.more.insert(key.into(), value);
        self
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Problem {
        let status = match error {
            StoreError::Missing(..) => Status::NotFound,
            StoreError::Refused(_) => Status::UnprocessableEntity,
            _ => Status::InternalServerError,
        };
        Problem::of(status, error.to_string())
    }
}

impl<'r> Responder<'r, 'static> for Problem {
    fn respond_to(self, _: &'r Request<'_>) -> Answer<'static> {
        let mut body = self.more;
        body.insert("type".into(), "about:blank".into());
        body.insert("title".into(), self.status.reason_lossy().into());
        body.insert("status".into(), self.status.code.into());
        body.insert("detail".into(), self.sentence.into());
        let body = Value::Object(body).to_string();
        Response::build()
            .status(self.status)
            .header(ContentType::new("application", "problem+json"))
            .sized_body(body.len(), Cursor::new(body))
            .ok()
    }
}

/// Whatever Rocket itself refuses.
#[catch(default)]
pub fn refused(status: Status, request: &Request) -> Problem {
    let place = request.uri().path();
    let sentence = match status.code {
        404 => format!("there is nothing at {place}"),
        413 => "that is larger than is taken here".into(),
        400 | 422 => match &request.local_cache(Wrong::default).0 {
            Some(why) => format!("what was sent to {place} cannot be read: {why}"),
            None => format!(
                "what was sent to {place} cannot be read; check that it is complete and of the right kind"
            ),
        },
        code => format!("{place} answered {code} {}", status.reason_lossy()),
    };
    Problem::of(status, sentence)
}
