//! For tests only: a private PostgreSQL cluster, and a running server; both are gone when dropped.

use anyhow::{Context, Result, bail};
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicU32, Ordering};
use std::sync::{Arc, Mutex, PoisonError, Weak};
use std::time::{Duration, Instant};

/// The project's folder.
pub fn project() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// A private cluster made by `scripts/postgres`.
pub struct Cluster {
    folder: PathBuf,
    /// The database's URL.
    pub url: String,
}

impl Cluster {
    /// Makes and starts a cluster; `durable` keeps the durability settings on (for tests that kill things).
    pub fn start(durable: bool) -> Result<Cluster> {
        static COUNT: AtomicU32 = AtomicU32::new(0);
        let name = format!("oak-drum-test-{}-{}", std::process::id(), COUNT.fetch_add(1, Ordering::Relaxed));
        let folder = std::env::temp_dir().join(name);
        let mut cluster = Cluster { folder, url: String::new() };
        cluster.url = cluster.script("start", if durable { "" } else { "--test" })?;
        Ok(cluster)
    }

    /// The cluster the tests of one program share while any of them runs; it is not durable.
    pub fn shared() -> Result<Arc<Cluster>> {
        static SHARED: Mutex<Weak<Cluster>> = Mutex::new(Weak::new());
        let mut shared = SHARED.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(running) = shared.upgrade() {
            return Ok(running);
        }
        let fresh = Arc::new(Cluster::start(false)?);
        *shared = Arc::downgrade(&fresh);
        Ok(fresh)
    }

    /// The URL of another, empty database in it.
    pub fn database(&self) -> Result<String> {
        static COUNT: AtomicU32 = AtomicU32::new(0);
        self.script("database", &format!("test_{}", COUNT.fetch_add(1, Ordering::Relaxed)))
    }

    /// Stops the server the hard way and starts it again on the same port.
    pub fn crash_and_restart(&self) -> Result<()> {
        self.script("restart", "immediate").map(drop)
    }

    /// Stops the server.
    pub fn stop(&self) -> Result<()> {
        self.script("stop", "fast").map(drop)
    }

    /// Starts it again.
    pub fn start_again(&self) -> Result<()> {
        self.script("start", "").map(drop)
    }

    fn script(&self, verb: &str, option: &str) -> Result<String> {
        let output = Command::new("bash")
            .arg(project().join("scripts/postgres"))
            .arg(verb)
            .arg(&self.folder)
            .arg(option)
            .stdin(Stdio::null())
            .output()
            .context("scripts/postgres")?;
        if !output.status.success() {
            bail!("scripts/postgres {verb}: {}", String::from_utf8_lossy(&output.stderr));
        }
        Ok(String::from_utf8_lossy(&output.stdout).trim().to_owned())
    }
}

impl Drop for Cluster {
    fn drop(&mut self) {
        let _ = self.script("remove", "");
    }
}

/// A running server program.
pub struct Server {
    child: Child,
    /// Where it listens, as `http://127.0.0.1:PORT`.
    pub address: String,
}

impl Server {
    /// Starts the server program at `binary` with the arguments, and waits until it prints its address.
    pub fn start(binary: &Path, arguments: &[&str]) -> Result<Server> {
        let mut child = Command::new(binary)
            .args(arguments)
            .stdin(Stdio::null())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .with_context(|| binary.display().to_string())?;
        let stdout = child.stdout.take().context("no output")?;
        let mut lines = BufReader::new(stdout).lines();
        let address = loop {
            match lines.next() {
                Some(line) => {
                    if let Some(at) = line?.strip_prefix("Oak Drum listens at ") {
                        break at.trim().to_owned();
                    }
                }
                None => {
                    let _ = child.wait();
                    bail!("the server ended before it listened")
                }
            }
        };
        // keep the pipe open and drained
        std::thread::spawn(move || lines.for_each(drop));
        Ok(Server { child, address })
    }

    /// The largest memory the process has held so far, MB (Linux).
    pub fn most_memory_mb(&self) -> Option<f64> {
        let status = std::fs::read_to_string(format!("/proc/{}/status", self.child.id())).ok()?;
        let line = status.lines().find(|l| l.starts_with("VmHWM"))?;
        Some(line.split_whitespace().nth(1)?.parse::<f64>().ok()? / 1024.0)
    }

    /// Processor time the process has used so far, in the kernel's ticks (Linux).
    pub fn ticks_used(&self) -> Option<u64> {
        let stat = std::fs::read_to_string(format!("/proc/{}/stat", self.child.id())).ok()?;
        // after the name in brackets: state is the first, user and system time the twelfth and thirteenth
        let fields: Vec<&str> = stat.rsplit_once(')')?.1.split_whitespace().collect();
        Some(fields.get(11)?.parse::<u64>().ok()? + fields.get(12)?.parse::<u64>().ok()?)
    }

    /// `kill -9`.
    pub fn kill(&mut self) -> Result<()> {
        self.child.kill()?;
        self.child.wait()?;
        Ok(())
    }

    /// SIGTERM; returns how long it took to end.
    pub fn terminate(&mut self) -> Result<Duration> {
        let begin = Instant::now();
        Command::new("kill").arg(self.child.id().to_string()).status()?;
        self.child.wait()?;
        Ok(begin.elapsed())
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.kill();
    }
}
