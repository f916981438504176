//! `oak-drum-server`: the application's server.

use anyhow::Context;
use clap::Parser;
use oak_drum_server::app::{Settings, serve};
use oak_drum_server::state::State;
use oak_drum_store::Store;
use std::net::SocketAddr;
use std::path::PathBuf;

/// Trying remedies asks for a great many small pieces of memory.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

#[derive(Parser)]
#[command(
    name = "oak-drum-server",
    version,
    about = "Serves the application; on this machine only unless told otherwise."
)]
struct Arguments {
    /// Address and port to listen at; port 0 takes a free one.
    #[arg(long, default_value = "127.0.0.1:7410", env = "OAK_DRUM_LISTEN")]
    listen: SocketAddr,
    /// Listen where other machines can reach it, though there are no accounts yet.
    #[arg(long)]
    without_accounts: bool,
    /// A further host name to answer to; may be repeated.
    #[arg(long = "name", value_name = "HOST")]
    names: Vec<String>,
    /// URL of the PostgreSQL database.
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database: String,
    /// Folder of the built front end.
    #[arg(long, default_value = "web/dist")]
    web: PathBuf,
    /// Load the demo workshop if the workshop is empty.
    #[arg(long)]
    demo: bool,
}

#[actix_web::main]
async fn main() -> anyhow::Result<()> {
    let filter = tracing_subscriber::EnvFilter::try_from_default_env()
        .unwrap_or_else(|_| tracing_subscriber::EnvFilter::new("info"));
    tracing_subscriber::fmt().json().with_env_filter(filter).with_writer(std::io::stderr).init();

    let arguments = Arguments::parse();
    if !arguments.listen.ip().is_loopback() {
        let means = "there are no accounts yet: whoever reaches this address reads, changes and deletes everything, and nothing \
                     between is encrypted";
        anyhow::ensure!(
            arguments.without_accounts,
            "{} is not on this machine alone, and {means}. Listen at 127.0.0.1, or say --without-accounts to do it all the same.",
            arguments.listen
        );
        eprintln!("Listening at {} without accounts: {means}.", arguments.listen);
    }
    let state = State::new(Store::new(&arguments.database, 8));
    let preparing = state.clone();
    std::thread::spawn(move || {
        preparing.prepare(arguments.demo);
        preparing.work();
    });
    let workers = std::thread::available_parallelism().map_or(2, usize::from).max(2);
    let settings = Settings { address: arguments.listen, names: arguments.names, web: arguments.web, workers };
    let (server, address) =
        serve(&settings, state).with_context(|| format!("cannot listen at {}", arguments.listen))?;
    println!("Oak Drum listens at http://{address}");
    server.await?;
    tracing::info!("closed in good order");
    Ok(())
}
