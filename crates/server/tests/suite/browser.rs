//! The browser tests: Playwright in Debian's Chromium against the real server and a real PostgreSQL.

use oak_drum_testkit::{Cluster, Server, project};
use std::path::Path;
use std::process::{Command, Stdio};
use std::time::Duration;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

/// Where Debian has it, or where OAK_DRUM_CHROMIUM says.
fn chromium() -> String {
    std::env::var("OAK_DRUM_CHROMIUM").unwrap_or_else(|_| "/usr/bin/chromium".into())
}

#[test]
fn the_slice_in_a_browser() {
    assert!(Path::new(&chromium()).exists(), "Chromium is not installed; scripts/test installs it");
    let web = project().join("web/dist");
    assert!(web.join("index.html").exists(), "the front end is not built; scripts/test builds it");
    let cluster = Cluster::start(false).unwrap();
    let web = web.to_str().unwrap();
    let start = |listen: &str| {
        let arguments = ["--database", &cluster.url, "--demo", "--web", web, "--listen", listen];
        Server::start(Path::new(BINARY), &arguments).unwrap()
    };
    let mut server = start("127.0.0.1:0");
    let address = server.address.clone();
    crate::client::Client::new(&address).wait_until_ready();
    let listen = address.strip_prefix("http://").unwrap().to_owned();
    let signals = std::env::temp_dir().join(format!("oak-drum-signals-{}", std::process::id()));
    std::fs::create_dir_all(&signals).unwrap();

    let mut playwright = Command::new("node")
        .args(["node_modules/@playwright/test/cli.js", "test", "--project=tests"])
        .current_dir(project().join("e2e"))
        .env("OAK_DRUM_ADDRESS", &address)
        .env("OAK_DRUM_SIGNALS", &signals)
        .env("OAK_DRUM_CHROMIUM", chromium())
        .stdin(Stdio::null())
        .spawn()
        .expect("node");
    // The tests ask for the server to be killed and started through files in the folder of signals.
    let status = loop {
        if let Some(status) = playwright.try_wait().unwrap() {
            break status;
        }
        for word in ["kill", "start"] {
            let asked = signals.join(word);
            if asked.exists() {
                std::fs::remove_file(&asked).unwrap();
                match word {
                    "kill" => server.kill().unwrap(),
                    _ => server = start(&listen),
                }
                std::fs::write(signals.join(format!("{word}.done")), "").unwrap();
            }
        }
        std::thread::sleep(Duration::from_millis(50));
    };
    let _ = std::fs::remove_dir_all(&signals);
    assert!(status.success(), "browser tests failed");
}
