//! JSON that was sent, and JSON that is answered. What cannot be read is told with the field in which it is wrong.

use rocket::Request;
use rocket::data::{Data, FromData, Limits, Outcome};
use rocket::http::Status;
use rocket::response::{Responder, Result as Answer};
use serde::Serialize;
use serde::de::DeserializeOwned;
use std::ops::Deref;

/// JSON of a request or of an answer.
pub struct Json<T>(pub T);

impl<T> Json<T> {
    /// Value of the body.
    pub fn into_inner(self) -> T {
        self.0
    }
}

impl<T> Deref for Json<T> {
    type Target = T;
    fn deref(&self) -> &T {
        &self.0
    }
}

/// Error in the body of a request, kept with the request for whoever words the refusal.
#[derive(Default)]
pub struct Wrong(pub Option<String>);

#[rocket::async_trait]
impl<'r, T: DeserializeOwned> FromData<'r> for Json<T> {
    type Error = ();

    async fn from_data(request: &'r Request<'_>, data: Data<'r>) -> Outcome<'r, Self> {
        let limit = request.limits().get("json").unwrap_or(Limits::JSON);
        let text = match data.open(limit).into_string().await {
            Ok(text) if text.is_complete() => text.into_inner(),
            Ok(_) => return Outcome::Error((Status::PayloadTooLarge, ())),
            Err(_) => return Outcome::Error((Status::BadRequest, ())),
        };
        match read(&text) {
            Ok(value) => Outcome::Success(Json(value)),
            Err((status, sentence)) => {
                request.local_cache(|| Wrong(Some(sentence)));
                Outcome::Error((status, ()))
            }
        }
    }
}

/// A value out of JSON, or the field that is wrong and why.
fn read<T: DeserializeOwned>(text: &str) -> Result<T, (Status, String)> {
    let mut reader = serde_json::Deserializer::from_str(text);
    let found = serde_path_to_error::deserialize(&mut reader).map_err(|error| {
        let place = error.path().to_string();
        let at = if place == "." { String::new() } else { format!("{place}: ") };
        let inner = error.inner();
        let status = if inner.is_data() { Status::UnprocessableEntity } else { Status::BadRequest };
        (status, format!("{at}{inner}"))
    })?;
    reader.end().map_err(|e| (Status::BadRequest, e.to_string()))?;
    Ok(found)
}

impl<'r, T: Serialize> Responder<'r, 'static> for Json<T> {
    fn respond_to(self, request: &'r Request<'_>) -> Answer<'static> {
        rocket::serde::json::Json(self.0).respond_to(request)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::floor::devices::Socket;

    #[test]
    fn what_is_wrong_is_named_with_its_field() {
        let said = |text: &str| read::<Vec<Socket>>(text).unwrap_err().1;
        let socket = |port: &str| {
            format!(r#"[{{"protocol":"opentrackio","address":"127.0.0.1","port":{port},"on":true}}]"#)
        };
        assert!(read::<Vec<Socket>>(&socket("4000")).is_ok());
        assert!(
            said(&socket("\"x\"")).starts_with("[0].port: invalid type: string"),
            "{}",
            said(&socket("\"x\""))
        );
        assert!(said(&socket("70000")).contains("[0].port"), "{}", said(&socket("70000")));
        let missing = said(r#"[{"protocol":"opentrackio","address":"127.0.0.1","on":true}]"#);
        assert!(missing.contains("missing field `port`"), "{missing}");
        assert_eq!(read::<Vec<Socket>>("[").unwrap_err().0, Status::BadRequest);
    }
}
