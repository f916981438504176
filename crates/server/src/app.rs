//! The application: routes, limits, headers.

use crate::guard::{Names, guard};
use crate::limits::{BODY_LIMIT, FILE_LIMIT};
use crate::pool::{Peer, Pool};
use crate::problem::Problem;
use crate::routes::documents::Described;
use crate::state::State;
use crate::{openapi, routes};
use actix_files::{Files, NamedFile};
use actix_web::error::JsonPayloadError;
use actix_web::http::{StatusCode, header};
use actix_web::middleware::{Compress, DefaultHeaders, from_fn};
use actix_web::{App, HttpRequest, HttpResponse, HttpServer, ResponseError, dev::Server, web};
use std::net::SocketAddr;
use std::path::PathBuf;
use utoipa_actix_web::AppExt;

/// Scripts and everything else only from here. Style attributes are allowed since the interface primitives
/// position their popovers with them; there are no inline scripts.
const CONTENT_SECURITY_POLICY: &str = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; \
     img-src 'self' data: blob:; object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

/// How the server is set up.
#[derive(Clone, Debug)]
pub struct Settings {
    /// Where to listen.
    pub address: SocketAddr,
    /// Further names to answer to.
    pub names: Vec<String>,
    /// The built front end.
    pub web: PathBuf,
    /// Worker threads.
    pub workers: usize,
}

/// Starts listening; returns the server and the address it got.
///
/// # Errors
/// When the address cannot be bound.
pub fn serve(settings: &Settings, state: State) -> std::io::Result<(Server, SocketAddr)> {
    let state = web::Data::new(state);
    let names = web::Data::new(Names(settings.names.clone()));
    let folder = settings.web.clone();
    let pool = web::Data::new(Pool::new(settings.workers));
    let described = web::Data::new(Described(openapi::document()));
    let server = HttpServer::new(move || {
        let index = folder.join("index.html");
        App::new()
            .into_utoipa_app()
            .app_data(state.clone())
            .app_data(pool.clone())
            .app_data(names.clone())
            .app_data(described.clone())
            .app_data(web::JsonConfig::default().limit(BODY_LIMIT).error_handler(json_problem))
            .app_data(web::PayloadConfig::new(FILE_LIMIT))
            .app_data(
                web::PathConfig::default().error_handler(|_, _| Problem::not_found("there is no such thing").into()),
            )
            .app_data(web::QueryConfig::default().error_handler(|e, _| Problem::field("", &e.to_string()).into()))
            .service(utoipa_actix_web::scope("/api").configure(routes::configure).default_service(web::to(unknown)))
            .into_app()
            .wrap(from_fn(guard))
            .wrap(Compress::default())
            .wrap(
                DefaultHeaders::new()
                    .add((header::CONTENT_SECURITY_POLICY, CONTENT_SECURITY_POLICY))
                    .add((header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
                    .add((header::REFERRER_POLICY, "no-referrer")),
            )
            .wrap(tracing_actix_web::TracingLogger::default())
            .service(Files::new("/assets", folder.join("assets")).use_etag(true).default_handler(web::to(unknown)))
            .default_service(web::to(move |request: HttpRequest| page(request, index.clone())))
    })
    .on_connect(|connection, data| drop(Peer::of(connection).map(|peer| data.insert(peer))))
    // An answer goes out at once instead of waiting for the client's delayed acknowledgement.
    .tcp_nodelay(true)
    .workers(settings.workers)
    .shutdown_timeout(10)
    .bind(settings.address)?;
    let address = server.addrs().first().copied().unwrap_or(settings.address);
    Ok((server.run(), address))
}

/// The one page of the front end, for every address of its router.
async fn page(request: HttpRequest, index: PathBuf) -> HttpResponse {
    match NamedFile::open_async(&index).await {
        Ok(file) => {
            let mut response = file.into_response(&request);
            response.headers_mut().insert(header::CACHE_CONTROL, header::HeaderValue::from_static("no-cache"));
            response
        }
        Err(_) => Problem::not_found("the front end is not built; scripts/demo builds it").error_response(),
    }
}

async fn unknown() -> Result<HttpResponse, Problem> {
    Err(Problem::not_found("there is nothing at this address"))
}

fn json_problem(error: JsonPayloadError, _request: &HttpRequest) -> actix_web::Error {
    match error {
        JsonPayloadError::OverflowKnownLength { .. } | JsonPayloadError::Overflow { .. } => {
            let detail = format!("at most {} kB are taken", BODY_LIMIT >> 10);
            Problem::new("too-large", "Too large", StatusCode::PAYLOAD_TOO_LARGE, detail)
        }
        JsonPayloadError::ContentType => {
            let detail = "send application/json";
            Problem::new("not-json", "Not JSON", StatusCode::UNSUPPORTED_MEDIA_TYPE, detail)
        }
        JsonPayloadError::Deserialize(error) => {
            Problem::new("not-json", "Not the JSON expected", StatusCode::BAD_REQUEST, error.to_string())
        }
        other => Problem::new("not-json", "Not readable", StatusCode::BAD_REQUEST, other.to_string()),
    }
    .into()
}
