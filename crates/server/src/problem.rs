//! Errors as problem documents (RFC 9457) with pointers to the fields.

use actix_web::http::{StatusCode, header};
use actix_web::{HttpResponse, ResponseError};
use oak_drum_store::Error;
use oak_drum_text::Text;
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;

/// A problem document.
#[derive(Debug, Serialize, ToSchema)]
pub struct Problem {
    /// Stable name of the kind of problem.
    #[serde(rename = "type")]
    pub kind: String,
    /// The kind in a few words.
    pub title: &'static str,
    /// HTTP status.
    pub status: u16,
    /// What happened here.
    pub detail: String,
    /// The fields it is about.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub errors: Vec<FieldProblem>,
    /// For a conflict: the version that stands.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub version: Option<i32>,
    /// For a conflict: the document that stands.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Object)]
    pub current: Option<Value>,
}

/// One field's problem.
#[derive(Debug, Serialize, ToSchema)]
pub struct FieldProblem {
    /// Stable name.
    pub code: String,
    /// JSON pointer into the design.
    pub pointer: String,
    /// What is wrong and what is expected.
    #[schema(schema_with = crate::schemas::text)]
    pub message: Text,
}

impl Problem {
    /// A problem of a kind.
    pub fn new(kind: &str, title: &'static str, status: StatusCode, detail: impl Into<String>) -> Problem {
        Problem {
            kind: format!("urn:oak-drum:problem:{kind}"),
            title,
            status: status.as_u16(),
            detail: detail.into(),
            errors: Vec::new(),
            version: None,
            current: None,
        }
    }

    /// A design that has problems.
    pub fn design(problems: &[oak_drum_document::Problem]) -> Problem {
        let detail = problems.first().map_or_else(String::new, ToString::to_string);
        let mut problem =
            Problem::new("invalid-design", "The design has problems", StatusCode::UNPROCESSABLE_ENTITY, detail);
        problem.errors = problems
            .iter()
            .map(|p| FieldProblem {
                code: serde_json::to_value(p.code).ok().and_then(|c| c.as_str().map(str::to_owned)).unwrap_or_default(),
                pointer: p.pointer.clone(),
                message: p.message.clone(),
            })
            .collect();
        problem
    }

    /// A woofer that has problems.
    pub fn woofer(problems: &[oak_drum_document::Problem]) -> Problem {
        Problem {
            kind: "urn:oak-drum:problem:invalid-woofer".into(),
            title: "The woofer has problems",
            ..Problem::design(problems)
        }
    }

    /// An amplifier that has problems, or several of a file.
    pub fn amplifier(problems: &[oak_drum_document::Problem]) -> Problem {
        Problem {
            kind: "urn:oak-drum:problem:invalid-amplifier".into(),
            title: "The amplifier has problems",
            ..Problem::design(problems)
        }
    }

    /// One bad field of a request that is not a design.
    pub fn field(pointer: &str, message: &str) -> Problem {
        let mut problem =
            Problem::new("invalid-field", "A field has a problem", StatusCode::UNPROCESSABLE_ENTITY, message);
        problem.errors.push(FieldProblem {
            code: "out_of_range".into(),
            pointer: pointer.into(),
            message: message.into(),
        });
        problem
    }

    /// Nothing there.
    pub fn not_found(detail: impl Into<String>) -> Problem {
        Problem::new("not-found", "Not found", StatusCode::NOT_FOUND, detail)
    }
}

impl From<Error> for Problem {
    fn from(error: Error) -> Problem {
        match error {
            Error::NotFound(what) => Problem::not_found(format!("there is no such {what}")),
            Error::Stale { version, current } => {
                let detail = format!("version {version} was saved in the meantime");
                let mut problem = Problem::new("stale", "Saved elsewhere", StatusCode::CONFLICT, detail);
                problem.version = Some(version);
                problem.current = Some(current);
                problem
            }
            Error::Closed(why) => Problem::new("closed", "Closed", StatusCode::CONFLICT, why),
            Error::File(why) => Problem::new(
                "unreadable-file",
                "The file is not taken",
                StatusCode::UNPROCESSABLE_ENTITY,
                why.to_string(),
            ),
            Error::Invalid(problems) => Problem::design(&problems),
            Error::Away(cause) => {
                tracing::warn!(cause, "the database is away");
                Problem::new(
                    "store-away",
                    "Not reachable now",
                    StatusCode::SERVICE_UNAVAILABLE,
                    "the store does not answer; nothing was saved, try again",
                )
            }
            Error::Unforeseen(cause) => {
                tracing::error!(cause, "unforeseen");
                Problem::new(
                    "unforeseen",
                    "Something went wrong",
                    StatusCode::INTERNAL_SERVER_ERROR,
                    "the cause is in the server's log",
                )
            }
        }
    }
}

impl std::fmt::Display for Problem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{}: {}", self.title, self.detail)
    }
}

impl ResponseError for Problem {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        let mut response = HttpResponse::build(self.status_code());
        if self.status == 503 {
            response.insert_header((header::RETRY_AFTER, "1"));
        }
        let body = serde_json::to_string(self).unwrap_or_default();
        response.insert_header((header::CONTENT_TYPE, "application/problem+json")).body(body)
    }
}
