//! The thread that runs the floor: absolute deadlines, late steps caught up, the clock set anew
//! after a stall. A fault of the floor ends neither the thread nor the process: what rolled is closed,
//! every page is told, and a floor of the same scene takes its place.

use crate::command::{PageCommand, Status};
use crate::control_lease::PageId;
use crate::floor::{BaseTake, Floor, RecorderEvent, STEPS_HZ, Staged};
use crate::live_out::Due;
use crate::room::{RoomFinder, STEPS_PER_QUESTION};
use crate::wire;
use rovnek_core::ids::SetupId;
use rovnek_formats::tracking::Sample;
use rovnek_formats::tracking::capture::Packet;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::sync::mpsc::{Receiver, Sender, channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::JoinHandle;
use std::time::{Duration, Instant};
use tokio::sync::watch;

/// A stall longer than this is not caught up.
const STALL: Duration = Duration::from_millis(250);
/// Steps from one state frame to the next.
const STEPS_PER_FRAME: u64 = STEPS_HZ / 60;

/// Message to the floor, from sockets, the server and the recorder.
#[derive(Debug)]
pub enum Message {
    /// A page has opened.
    Join(PageId),
    /// A page has closed.
    Leave(PageId),
    /// Command of a page.
    Command(PageId, PageCommand),
    /// The scene, its setups and everybody in it, as they now are.
    Stage(Box<Staged>),
    /// The scene is to be left: when nothing rolls the recorder is told, after all else of this scene.
    LeaveScene,
    /// It stays after all.
    StayInScene,
    /// Another scene, and the setup of it that is driven.
    EnterScene(Box<Staged>, SetupId),
    /// Another setup is driven and looked through.
    Put(SetupId),
    /// The scene's time runs while nothing rolls, or stands.
    Run(bool),
    /// A take is laid below, or none.
    SetBase(Option<BaseTake>),
    /// A tracked device sent something.
    Tracked(Box<Packed>),
    /// The camera is told to other software from now on, or no longer.
    LiveOut(Option<Due>),
    /// The recorder could not keep what it was given.
    RecorderFailed(String),
    /// The floor is closed; a rolling take is cut.
    Close,
    /// The floor has a fault: nobody sends it but who tries what becomes of one.
    Fault,
}

/// Packet of a tracked device.
#[derive(Clone, Debug)]
pub struct Packed {
    /// Name of the device; none for a packet that makes no sample by itself.
    pub source: Option<String>,
    /// Sample that the packet completes.
    pub sample: Option<Sample>,
    /// UDP port that the packet came to.
    pub port: u16,
    /// Bytes of the packet.
    pub data: Vec<u8>,
    /// Time of arrival.
    pub arrived: Instant,
}

/// The running floor, as the server holds it.
pub struct Runner {
    /// Messages to the floor.
    pub messages: Sender<Message>,
    /// The newest state frame.
    pub frames: watch::Receiver<Arc<Vec<u8>>>,
    /// The newest status.
    pub status: watch::Receiver<Arc<Status>>,
    thread: Mutex<Option<JoinHandle<()>>>,
    beat: Arc<Beat>,
}

/// When the floor last made a step.
struct Beat {
    since: Instant,
    at_ms: AtomicU64,
    /// Floors that ended by a fault of their own.
    faults: AtomicU64,
}

impl Beat {
    fn strike(&self) {
        self.at_ms.store(self.since.elapsed().as_millis() as u64, Ordering::Relaxed);
    }
}

impl Runner {
    /// Starts the floor; what it records goes to `notes`.
    pub fn start(staged: Staged, setup: SetupId, notes: Sender<RecorderEvent>) -> Runner {
        let mut known = Known { staged, setup };
        let floor = Floor::new(known.staged.clone(), setup);
        let beat =
            Arc::new(Beat { since: Instant::now(), at_ms: AtomicU64::new(0), faults: AtomicU64::new(0) });
        let (messages, inbox) = channel();
        let (send_frame, frames) = watch::channel(Arc::new(wire::encode(&floor.state())));
        let (send_status, status) = watch::channel(Arc::new(floor.status()));
        let thread = std::thread::Builder::new()
            .name("floor".into())
            .spawn({
                let beat = beat.clone();
                let lines = Lines {
                    inbox,
                    notes,
                    frames: send_frame,
                    statuses: send_status,
                    beat,
                    rolling: AtomicBool::new(false),
                };
                move || watched(floor, &mut known, &lines)
            })
            .expect("a thread can be started");
        Runner { messages, frames, status, thread: Mutex::new(Some(thread)), beat }
    }

    /// Time since the floor's last step.
    pub fn silent_for(&self) -> Duration {
        let at = Duration::from_millis(self.beat.at_ms.load(Ordering::Relaxed));
        self.beat.since.elapsed().saturating_sub(at)
    }

    /// How often a floor ended by a fault of its own and was started again.
    pub fn restarts(&self) -> u64 {
        self.beat.faults.load(Ordering::Relaxed)
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

/// State that a floor is made from again after a fault.
struct Known {
    staged: Staged,
    /// The one that is driven.
    setup: SetupId,
}

/// From the floor to everybody, and to it.
struct Lines {
    inbox: Receiver<Message>,
    notes: Sender<RecorderEvent>,
    frames: watch::Sender<Arc<Vec<u8>>>,
    statuses: watch::Sender<Arc<Status>>,
    beat: Arc<Beat>,
    /// True while a take rolls whose end the recorder has not seen.
    rolling: AtomicBool,
}

/// Rest of a floor after a fault: a floor that fails at every step does not take the whole machine.
const REST: Duration = Duration::from_millis(250);

/// Runs floors one after the other until one is closed.
fn watched(mut floor: Floor, known: &mut Known, lines: &Lines) {
    let (mut again, mut told) = (false, None);
    let mut whole = || {
        if std::mem::replace(&mut again, true) {
            // Nothing of a floor that had a fault is used but its count of steps and its pages.
            floor = Floor::after(&floor, known.staged.clone(), known.setup);
        }
        run(&mut floor, known, &mut told, lines);
    };
    while catch_unwind(AssertUnwindSafe(&mut whole)).is_err() {
        lines.beat.faults.fetch_add(1, Ordering::Relaxed);
        eprintln!("rovnek: the floor ended by a fault of its own; it is started again");
        if lines.rolling.swap(false, Ordering::Relaxed) {
            let flags = vec!["the floor ended by a fault of its own".into()];
            let _ = lines.notes.send(RecorderEvent::End { flags });
        }
        std::thread::sleep(REST);
    }
}

fn run(floor: &mut Floor, known: &mut Known, told: &mut Option<Due>, lines: &Lines) {
    let mut origin = Instant::now();
    let mut due = 0u64;
    let mut room = RoomFinder::start();
    loop {
        let mut open = true;
        for message in lines.inbox.try_iter() {
            open &= !matches!(message, Message::Close);
            // What a floor fell over it is not given again.
            let staged = match &message {
                Message::Stage(staged) | Message::EnterScene(staged, _) => Some(Staged::clone(staged)),
                _ => None,
            };
            if let Message::LiveOut(due) = message {
                *told = due;
                continue;
            }
            handle(floor, message);
            if let Some(staged) = staged {
                known.staged = staged;
            }
        }
        floor.step();
        // Who listens no more is told no more.
        if told.as_ref().is_some_and(|due| due.at(floor.steps()) && !due.send(floor.seen())) {
            *told = None;
        }
        known.setup = floor.placed().setup_id;
        due += 1;
        for note in floor.take_events() {
            match note {
                RecorderEvent::Begin(_) | RecorderEvent::Act(_) => {
                    lines.rolling.store(true, Ordering::Relaxed)
                }
                RecorderEvent::End { .. } => lines.rolling.store(false, Ordering::Relaxed),
                RecorderEvent::Chunk { .. }
                | RecorderEvent::Acted { .. }
                | RecorderEvent::Packets(_)
                | RecorderEvent::Hands(_)
                | RecorderEvent::Left => {}
            }
            if lines.notes.send(note).is_err() {
                floor.recorder_failed("nothing is recorded any more; start Rovnek again".into());
            }
        }
        lines.beat.strike();
        if let Some(answer) = room.answered() {
            floor.told_room(answer);
        }
        if due.is_multiple_of(STEPS_PER_QUESTION) {
            room.ask(|| floor.room_question());
        }
        if due.is_multiple_of(STEPS_PER_FRAME) {
            let _ = lines.frames.send(Arc::new(wire::encode(&floor.state())));
            let status = floor.status();
            lines.statuses.send_if_modified(|old| {
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
        Message::Command(page, asked) => floor.asked(page, asked),
        Message::Stage(staged) => floor.stage(*staged),
        Message::LeaveScene => floor.leave_scene(),
        Message::StayInScene => floor.stay_in_scene(),
        Message::EnterScene(staged, setup) => floor.enter(*staged, setup),
        Message::Put(setup) => floor.put(setup),
        Message::Run(on) => floor.run(on),
        Message::SetBase(below) => floor.set_base(below),
        Message::Tracked(packed) => {
            let Packed { source, sample, port, data, arrived } = *packed;
            let time_s = floor.clock_s() - arrived.elapsed().as_secs_f64();
            floor.tracked(source.as_deref(), sample.as_ref(), Packet { time_s, port, data });
        }
        // Nothing of the floor's own.
        Message::LiveOut(_) => {}
        Message::RecorderFailed(why) => floor.recorder_failed(why),
        Message::Close => floor.close(),
        Message::Fault => panic!("a fault that was asked for"),
    }
}
