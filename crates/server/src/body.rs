//! The body of a request as it came, to be read off the event loop.

use crate::limits::BODY_LIMIT;
use crate::problem::Problem;
use actix_web::dev::Payload;
use actix_web::http::StatusCode;
use actix_web::web::{self, Bytes};
use actix_web::{Error, FromRequest, HttpMessage, HttpRequest};
use serde::de::DeserializeOwned;
use std::future::Future;
use std::pin::Pin;

/// JSON that is not read yet: at most [`BODY_LIMIT`] bytes.
#[derive(Debug)]
pub struct Body(Bytes);

impl Body {
    /// Reads it.
    ///
    /// # Errors
    /// 400 where it is not the JSON expected.
    pub fn json<T: DeserializeOwned>(&self) -> Result<T, Problem> {
        serde_json::from_slice(&self.0).map_err(|error| {
            Problem::new("not-json", "Not the JSON expected", StatusCode::BAD_REQUEST, error.to_string())
        })
    }
}

impl FromRequest for Body {
    type Error = Error;
    type Future = Pin<Box<dyn Future<Output = Result<Body, Error>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let kind = request.mime_type().ok().flatten();
        let is_json = kind.is_some_and(|m| m.subtype() == "json" || m.suffix().is_some_and(|s| s == "json"));
        let stated = request.headers().get("content-length").and_then(|v| v.to_str().ok()?.parse::<usize>().ok());
        let body = web::Payload::from_request(request, payload);
        Box::pin(async move {
            if !is_json {
                let detail = "send application/json";
                return Err(Problem::new("not-json", "Not JSON", StatusCode::UNSUPPORTED_MEDIA_TYPE, detail).into());
            }
            let too_large = || {
                let detail = format!("at most {} kB are taken", BODY_LIMIT >> 10);
                Problem::new("too-large", "Too large", StatusCode::PAYLOAD_TOO_LARGE, detail)
            };
            if stated.is_some_and(|length| length > BODY_LIMIT) {
                return Err(too_large().into());
            }
            let bytes = body.await?.to_bytes_limited(BODY_LIMIT).await.map_err(|_| too_large())?;
            bytes.map(Body).map_err(|_| {
                let detail = "it did not arrive whole";
                Problem::new("not-readable", "Not readable", StatusCode::BAD_REQUEST, detail).into()
            })
        })
    }
}
