//! Where computing is done: off the event loop, by few threads, from two queues.
//!
//! The quick queue reads what comes in and answers light questions; heavy ones ([`Cost::is_light`] tells) wait for each other in
//! the patient queue and never for a hand that moves. Every question has so long from its arrival; then, or when nobody waits for
//! the answer any more, its work stops ([`halt`]).

use crate::problem::Problem;
use actix_web::dev::Payload;
use actix_web::http::StatusCode;
use actix_web::rt::time::timeout;
use actix_web::web::Data;
use actix_web::{FromRequest, HttpRequest};
use oak_drum_acoustics::halt;
use oak_drum_design::evaluation::cost::Cost;
use oak_drum_document::Checked;
use oak_drum_store::Error;
use std::any::Any;
use std::future::{Ready, ready};
use std::io::ErrorKind;
use std::net::TcpStream;
use std::os::fd::AsFd;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::{Receiver, SyncSender, sync_channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};
use tokio::sync::oneshot;

/// Most questions that wait in a queue; further ones are told to come again.
const WAITING: usize = 128;

/// Kinds of questions, by how long they may take.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Question {
    /// What is read, and what a moving hand asks for.
    Curves,
    /// What a station shows beside its inputs.
    Station,
    /// What one waits for: findings, drawings, sheets, searches.
    Work,
}

impl Question {
    fn within(self) -> Duration {
        Duration::from_secs(match self {
            Question::Curves => 5,
            Question::Station => 10,
            Question::Work => 30,
        })
    }
}

type Job = Box<dyn FnOnce() + Send>;

/// The queues, as one request reaches them.
#[derive(Clone, Debug)]
pub struct Pool {
    quick: SyncSender<Job>,
    patient: SyncSender<Job>,
    /// Whose request it is.
    peer: Option<Peer>,
}

/// How often it is looked whether the asker is still there.
const LOOK: Duration = Duration::from_millis(100);

/// The other end of a connection: a second handle on its socket, to see whether it was closed (the server itself goes on with a
/// request whose asker has left).
#[derive(Clone, Debug)]
pub struct Peer(Arc<TcpStream>);

impl Peer {
    /// The peer of a connection as the server hands it out.
    pub fn of(connection: &dyn Any) -> Option<Peer> {
        let stream = connection.downcast_ref::<actix_web::rt::net::TcpStream>()?;
        Some(Peer(Arc::new(TcpStream::from(stream.as_fd().try_clone_to_owned().ok()?))))
    }

    fn has_left(&self) -> bool {
        match self.0.peek(&mut [0]) {
            Ok(length) => length == 0,
            Err(error) => error.kind() != ErrorKind::WouldBlock,
        }
    }
}

impl FromRequest for Pool {
    type Error = Problem;
    type Future = Ready<Result<Pool, Problem>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let missing = || Problem::from(Error::Unforeseen("there is no pool".into()));
        let pool = request
            .app_data::<Data<Pool>>()
            .map(|pool| Pool { peer: request.conn_data().cloned(), ..pool.as_ref().clone() });
        ready(pool.ok_or_else(missing))
    }
}

/// Raises the flag of a piece of work when its asker is gone.
struct Wanted(Arc<AtomicBool>);

impl Drop for Wanted {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

fn queue(name: &str, threads: usize) -> SyncSender<Job> {
    let (send, receive) = sync_channel::<Job>(WAITING);
    let receive = Arc::new(Mutex::new(receive));
    let next = |queue: &Mutex<Receiver<Job>>| queue.lock().unwrap_or_else(PoisonError::into_inner).recv();
    for i in 0..threads {
        let queue = receive.clone();
        let work = move || {
            while let Ok(job) = next(&queue) {
                job();
            }
        };
        // without its threads there is no server
        std::thread::Builder::new().name(format!("{name}-{i}")).spawn(work).expect("a thread can be started");
    }
    send
}

impl Pool {
    /// Queues of so many threads each: the system shares the cores among both, so that neither waits for the other.
    pub fn new(threads: usize) -> Pool {
        Pool { quick: queue("quick", threads), patient: queue("patient", threads), peer: None }
    }

    /// Reads what came in.
    ///
    /// # Errors
    /// What reading finds; 503 where too much is asked at once.
    pub async fn take<T: Send + 'static>(
        &self,
        read: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        self.run(&self.quick, Question::Curves, read).await?
    }

    /// Works on something long that is about no design, a recording or a large file: no moving hand waits for it.
    ///
    /// # Errors
    /// What the work finds; 503 where too much is asked at once or the time is up.
    pub async fn patient<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        self.run(&self.patient, Question::Work, work).await?
    }

    /// Works something out about a design that reads, in the queue its cost belongs to.
    ///
    /// # Errors
    /// 503 where too much is asked at once or the time is up.
    pub async fn work<T: Send + 'static>(
        &self,
        question: Question,
        design: Checked,
        work: impl FnOnce(&Checked) -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let (design, cost) =
            self.run(&self.quick, question, move || (Cost::of(&design), design)).await.map(|(c, d)| (d, c))?;
        let queue = if cost.is_light() && question != Question::Work { &self.quick } else { &self.patient };
        self.run(queue, question, move || work(&design)).await
    }
}

impl Pool {
    async fn run<T: Send + 'static>(
        &self,
        queue: &SyncSender<Job>,
        question: Question,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let flag = Arc::new(AtomicBool::new(false));
        let wanted = Wanted(flag.clone());
        let (send, mut receive) = oneshot::channel();
        let job = Box::new(move || {
            // whoever fell over must not take the queue along; the cause stands in the log
            let done = catch_unwind(AssertUnwindSafe(|| halt::under(&flag, work)));
            let _ = send.send(done);
        });
        let busy = |detail: &str| Problem::new("busy", "Too busy", StatusCode::SERVICE_UNAVAILABLE, detail);
        queue.try_send(job).map_err(|_| busy("too much is asked for at once; nothing was worked out, try again"))?;
        let until = Instant::now() + question.within();
        let answer = loop {
            let answer = timeout(LOOK, &mut receive).await;
            if answer.is_ok() || Instant::now() >= until || self.peer.as_ref().is_some_and(Peer::has_left) {
                break answer;
            }
        };
        drop(wanted);
        match answer {
            Ok(Ok(Ok(Ok(done)))) => Ok(done),
            Err(_) | Ok(Ok(Ok(Err(halt::Halted)))) => Err(busy(&format!(
                "this was not worked out within {} s; ask for less, or try again",
                question.within().as_secs()
            ))),
            Ok(Ok(Err(_)) | Err(_)) => Err(Error::Unforeseen("working it out fell over".into()).into()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::mpsc::{Sender, channel};

    /// Tells when it is let go of.
    struct Ended(Sender<()>);

    impl Drop for Ended {
        fn drop(&mut self) {
            let _ = self.0.send(());
        }
    }

    /// Work without an end of its own ends with its asker, and its queue is free for the next.
    #[actix_web::test]
    async fn work_stops_when_its_asker_is_gone() {
        let pool = Pool::new(1);
        let (begin, begun) = oneshot::channel();
        let (end, ended) = channel();
        let asking = pool.clone();
        let asker = actix_web::rt::spawn(async move {
            let endless = move || -> Result<(), Problem> {
                let _ended = Ended(end);
                let _ = begin.send(());
                loop {
                    halt::check();
                }
            };
            asking.take(endless).await
        });
        begun.await.expect("the work has begun");
        assert!(ended.try_recv().is_err(), "it ended by itself");
        asker.abort();
        assert!(asker.await.is_err_and(|e| e.is_cancelled()));
        ended.recv_timeout(Duration::from_secs(20)).expect("it stopped");
        assert_eq!(pool.take(|| Ok(3)).await.ok(), Some(3));
    }

    #[actix_web::test]
    async fn what_falls_over_is_a_500_and_the_lane_goes_on() {
        let pool = Pool::new(1);
        let fallen = pool.take(|| -> Result<(), Problem> { panic!("on purpose") }).await;
        assert_eq!(fallen.err().map(|p| p.status), Some(500));
        assert_eq!(pool.take(|| Ok(4)).await.ok(), Some(4));
    }
}
