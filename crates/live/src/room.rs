//! How much room the machine has, and whether something covers whom it looks at, is found beside the floor: the question is everything that the answer needs,
//! the floor goes on stepping, and the last answer is what it tells. A set of any size costs the floor nothing.

use rovnek_core::DVec3;
use rovnek_core::clearance::{Around, Clearance, MachineHulls, Obstacles};
use rovnek_core::ids::SetupId;
use rovnek_core::playing::{Carriages, MoverId};
use rovnek_core::space::Pose;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;
use std::sync::mpsc::{Receiver, SyncSender, TryRecvError, sync_channel};
use std::time::{Duration, Instant};

/// Steps of the floor from one question to the next at least: ten questions a second.
pub const STEPS_PER_QUESTION: u64 = 24;
/// Rest of the answering thread, as a multiple of its last answer's time: it takes at most a third of a core.
const RESTS: u32 = 2;

/// The machine that is driven among everything it may run into, at one moment.
pub struct RoomQuestion {
    /// The parts of the machine.
    pub hulls: Arc<MachineHulls>,
    /// Poses of those parts in the world.
    pub bodies: Vec<Pose>,
    /// Solids and people that the machine may run into.
    pub obstacles: Arc<Obstacles>,
    /// Time of the scene, seconds.
    pub time_s: f64,
    /// The performer or prop that is driven just now, with the poses of its parts.
    pub acting: Option<(MoverId, Vec<Pose>)>,
    /// Poses of the carriages that somebody or something stands on, by setup.
    pub carriages: Carriages,
    /// The piece or performer that carries the machine.
    pub carrier: Option<MoverId>,
    /// The machine's setup.
    pub setup_id: SetupId,
    /// Position of the lens in the world, metres.
    pub lens: DVec3,
    /// The performer who is largest in the picture, with the positions of eyes and chest, metres.
    pub subject: Option<(MoverId, [DVec3; 2])>,
}

/// The room of a setup's machine; none where nothing is near enough to be looked for.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RoomAnswer {
    /// The machine's setup.
    pub setup_id: SetupId,
    /// Clearance of the machine.
    pub clearance: Option<Clearance>,
    /// The piece or performer between the lens and that subject; none where the subject is seen.
    pub covered_by: Option<MoverId>,
}

impl RoomQuestion {
    /// Looks for what is nearest.
    pub fn answer(&self) -> RoomAnswer {
        let around = Around {
            time_s: self.time_s,
            acting: self.acting.as_ref().map(|(of, poses)| (*of, poses.as_slice())),
            carriages: Some(&self.carriages),
            carrier: self.carrier,
            setup: self.setup_id,
        };
        let clearance = self.obstacles.clearance(&self.hulls, &self.bodies, &around);
        let covers = |(of, places)| self.obstacles.covers(self.lens, of, places, &around);
        RoomAnswer { setup_id: self.setup_id, clearance, covered_by: self.subject.and_then(covers) }
    }
}

/// The thread that answers. It ends when this is dropped.
pub struct RoomFinder {
    questions: SyncSender<RoomQuestion>,
    answers: Receiver<RoomAnswer>,
    /// True while a question has no answer yet.
    asked: bool,
}

impl RoomFinder {
    /// Starts the thread.
    pub fn start() -> RoomFinder {
        let (questions, inbox) = sync_channel::<RoomQuestion>(1);
        let (outbox, answers) = sync_channel(1);
        let find = move || {
            for question in inbox {
                let began = Instant::now();
                // A fault in one answer is no reason never to give another one.
                let answer = catch_unwind(AssertUnwindSafe(|| question.answer()));
                let none = RoomAnswer { setup_id: question.setup_id, clearance: None, covered_by: None };
                if outbox.send(answer.unwrap_or(none)).is_err() {
                    return;
                }
                std::thread::sleep((began.elapsed() * RESTS).min(Duration::from_secs(2)));
            }
        };
        std::thread::Builder::new().name("room".into()).spawn(find).expect("a thread can be started");
        RoomFinder { questions, answers, asked: false }
    }

    /// The answer to what was asked, once it is there.
    pub fn answered(&mut self) -> Option<RoomAnswer> {
        match self.answers.try_recv() {
            Ok(answer) => {
                self.asked = false;
                Some(answer)
            }
            Err(TryRecvError::Empty | TryRecvError::Disconnected) => None,
        }
    }

    /// Asks, unless the last question still waits for its answer.
    pub fn ask(&mut self, question: impl FnOnce() -> RoomQuestion) {
        if !self.asked {
            self.asked = self.questions.try_send(question()).is_ok();
        }
    }
}
