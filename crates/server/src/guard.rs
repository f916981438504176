//! Refuses requests that come through a foreign name: DNS rebinding and cross-site requests.

use crate::problem::Problem;
use actix_web::http::{StatusCode, header};
use actix_web::{Error, body::MessageBody, dev::ServiceRequest, dev::ServiceResponse, middleware::Next};

/// The names the server answers to besides the loopback ones.
#[derive(Clone, Debug, Default)]
pub struct Names(pub Vec<String>);

impl Names {
    fn knows(&self, authority: &str) -> bool {
        let host = match authority.rsplit_once(':') {
            Some((host, port)) if port.bytes().all(|b| b.is_ascii_digit()) => host,
            _ => authority,
        };
        ["127.0.0.1", "localhost", "[::1]"].contains(&host) || self.0.iter().any(|name| name == host)
    }
}

/// Lets a request pass whose Host is one of ours and whose Origin, if any, is that same Host.
pub async fn guard(
    names: actix_web::web::Data<Names>,
    request: ServiceRequest,
    next: Next<impl MessageBody>,
) -> Result<ServiceResponse<impl MessageBody>, Error> {
    let text = |name: header::HeaderName| request.headers().get(name).and_then(|v| v.to_str().ok()).map(str::to_owned);
    let host = text(header::HOST).or_else(|| request.uri().authority().map(ToString::to_string)).unwrap_or_default();
    if !names.knows(&host) {
        let detail = "this server answers only to its own names; start it with --name to add one";
        return Err(Problem::new("foreign-host", "Foreign host", StatusCode::MISDIRECTED_REQUEST, detail).into());
    }
    if let Some(origin) = text(header::ORIGIN) {
        let authority = origin.split_once("://").map_or("", |(_, rest)| rest);
        if authority != host {
            let detail = "requests from other sites are refused";
            return Err(Problem::new("foreign-origin", "Foreign origin", StatusCode::FORBIDDEN, detail).into());
        }
    }
    next.call(request).await
}

#[cfg(test)]
mod tests {
    use super::Names;

    #[test]
    fn only_own_names() {
        let names = Names(vec!["workshop.lan".into()]);
        for good in ["localhost", "localhost:8080", "127.0.0.1:1", "[::1]:80", "[::1]", "workshop.lan:99"] {
            assert!(names.knows(good), "{good}");
        }
        for bad in ["", "example.org", "127.0.0.1.example.org", "localhost.example.org:80", "192.168.1.1"] {
            assert!(!names.knows(bad), "{bad}");
        }
    }
}
