//! The thread that runs the floor: absolute deadlines, late steps caught up, the clock set anew
//! after a stall.

use crate::command::{PageCommand, Status};
use crate::control_lease::PageId;
use crate::floor::{BaseTake, Floor, RecorderEvent, STEPS_HZ, Staged};
use crate::wire;
use rovnek_formats::tracking::Sample;
use rovnek_formats::tracking::capture::Packet;
use std::sync::mpsc::{Receiver, Sender, channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::JoinHandle;
use std::time::{Duration, Instant};
use tokio::sync::watch;

/// A stall longer than this is not caught up.
const STALL: Duration = Duration::from_millis(250);
/// Steps from one state frame to the next.
const STEPS_PER_FRAME: u64 = STEPS_HZ / 60;

/// To the floor, from sockets, the server and the recorder.
#[derive(Debug)]
pub enum Message {
    /// A page opened.
    Join(PageId),
    /// A page closed.
    Leave(PageId),
    /// A page asks.
    Asked(PageId, PageCommand),
    /// The scene, its setups and everybody in it, as they now are.
    Stage(Box<Staged>),
    /// Another setup is driven and looked through.
    Put(u32),
    /// A take is laid below, or none.
    SetBase(Option<BaseTake>),
    /// A tracked device sent something.
    Tracked(Box<Packed>),
    /// The recorder could not keep what it was given.
    RecorderFailed(String),
    /// The floor is closed; a rolling take is cut.
    Close,
}

/// What came from a tracked device.
#[derive(Clone, Debug)]
pub struct Packed {
    /// Which device; none where the packet makes no sample by itself.
    pub source: Option<String>,
    /// What it says.
    pub sample: Option<Sample>,
    /// To which port it came.
    pub port: u16,
    /// The packet.
    pub data: Vec<u8>,
    /// When it came.
    pub arrived: Instant,
}

/// The running floor, as the server holds it.
pub struct Runner {
    /// To the floor.
    pub messages: Sender<Message>,
    /// The newest state frame.
    pub frames: watch::Receiver<Arc<Vec<u8>>>,
    /// The newest status.
    pub status: watch::Receiver<Arc<Status>>,
    thread: Mutex<Option<JoinHandle<()>>>,
}

impl Runner {
    /// Starts the floor; what it records goes to `notes`.
    pub fn start(staged: Staged, setup: u32, notes: Sender<RecorderEvent>) -> Runner {
        let floor = Floor::new(staged, setup);
        let (messages, inbox) = channel();
        let (send_frame, frames) = watch::channel(Arc::new(wire::encode(&floor.state())));
        let (send_status, status) = watch::channel(Arc::new(floor.status()));
        let thread = std::thread::Builder::new()
            .name("floor".into())
            .spawn(move || run(floor, &inbox, &notes, &send_frame, &send_status))
            .expect("a thread can be started");
        Runner { messages, frames, status, thread: Mutex::new(Some(thread)) }
    }

    /// Closes the floor and waits until its last note is sent.
    pub fn close(&self) {
        let _ = self.messages.send(Message::Close);
        let thread = self.thread.lock().unwrap_or_else(PoisonError::into_inner).take();
        if let Some(thread) = thread {
            let _ = thread.join();
        }
    }
}

fn run(
    mut floor: Floor,
    inbox: &Receiver<Message>,
    notes: &Sender<RecorderEvent>,
    frames: &watch::Sender<Arc<Vec<u8>>>,
    statuses: &watch::Sender<Arc<Status>>,
) {
    let mut origin = Instant::now();
    let mut due = 0u64;
    loop {
        let mut open = true;
        for message in inbox.try_iter() {
            open &= !matches!(message, Message::Close);
            handle(&mut floor, message);
        }
        floor.step();
        due += 1;
        for note in floor.take_events() {
            // A recorder that is gone is the end of the process.
            let _ = notes.send(note);
        }
        if due.is_multiple_of(STEPS_PER_FRAME) {
            let _ = frames.send(Arc::new(wire::encode(&floor.state())));
            let status = floor.status();
            statuses.send_if_modified(|old| {
                let changed = **old != status;
                if changed {
                    *old = Arc::new(status);
                }
                changed
            });
        }
        if !open {
            return;
        }
        let deadline = origin + Duration::from_nanos(due * 1_000_000_000 / STEPS_HZ);
        let now = Instant::now();
        if deadline > now {
            std::thread::sleep(deadline - now);
        } else if now - deadline > STALL {
            floor.stalled((now - deadline).as_secs_f64());
            (origin, due) = (now, 0);
        }
    }
}

fn handle(floor: &mut Floor, message: Message) {
    match message {
        Message::Join(page) => floor.join(page),
        Message::Leave(page) => floor.leave(page),
        Message::Asked(page, asked) => floor.asked(page, asked),
        Message::Stage(staged) => floor.stage(*staged),
        Message::Put(setup) => floor.put(setup),
        Message::SetBase(below) => floor.set_base(below),
        Message::Tracked(packed) => {
            let Packed { source, sample, port, data, arrived } = *packed;
            let time_s = floor.clock_s() - arrived.elapsed().as_secs_f64();
            floor.tracked(source.as_deref(), sample.as_ref(), Packet { time_s, port, data });
        }
        Message::RecorderFailed(why) => floor.recorder_failed(why),
        Message::Close => floor.close(),
    }
}
