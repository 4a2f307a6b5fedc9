//! What the floor records, into the store: a thread that takes notes in order and loses none.

use crate::document::gate::Gate;
use rovnek_core::ids::TakeId;
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_formats::tracking::capture;
use rovnek_live::floor::RecorderEvent;
use rovnek_live::runner::Message;
use rovnek_store::model::{PassPlacement, Rolled};
use rovnek_store::rows::journal::NewTake;
use rovnek_store::{Result, Store};
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender, channel};
use std::sync::{Arc, Weak};
use std::thread::JoinHandle;
use std::time::Duration;

/// How soon it is tried again to close what could not be closed.
const TRY_AGAIN: Duration = Duration::from_secs(2);

/// The recorder, as the application knows it.
pub struct Recording {
    /// There for as long as it runs.
    pub runs: Weak<()>,
    /// Told when a scene was left and all of it is kept.
    pub left: Receiver<()>,
}

/// Starts the recorder; `tell` is called when something in the document has changed, with whether
/// somebody's drive is over. It ends when the floor is gone and its last note is kept; what comes beside
/// it is there for as long as it runs.
pub fn start(
    gate: Arc<Gate>,
    notes: Receiver<RecorderEvent>,
    floor: Sender<Message>,
    tell: impl Fn(bool) + Send + 'static,
) -> (JoinHandle<()>, Recording) {
    let here = Arc::new(());
    let (leaves, left) = channel();
    let seen = Recording { runs: Arc::downgrade(&here), left };
    let record = move || {
        let _here = here;
        let (mut take, mut drive) = (None, None);
        let mut open: Vec<(TakeId, String)> = Vec::new();
        loop {
            let note = match notes.recv_timeout(TRY_AGAIN) {
                Ok(note) => Some(note),
                Err(RecvTimeoutError::Timeout) => None,
                Err(RecvTimeoutError::Disconnected) => return,
            };
            // A take that could not even be closed is closed as soon as that can be done.
            let left = open.len();
            open.retain(|(take, why)| {
                gate.enter_first().close_take(*take, std::slice::from_ref(why)).is_err()
            });
            if open.len() < left {
                tell(false);
            }
            let Some(note) = note else { continue };
            if note == RecorderEvent::Left {
                // A take that could not be closed yet is of the store that is there now.
                if open.is_empty() {
                    let _ = leaves.send(());
                }
                continue;
            }
            let bumps = !matches!(
                note,
                RecorderEvent::Chunk { .. } | RecorderEvent::Packets(_) | RecorderEvent::Acted { .. }
            );
            let over = matches!(note, RecorderEvent::End { .. }) && drive.is_some();
            let rolled = take;
            let kept = keep(&mut gate.enter_first(), &mut take, &mut drive, note);
            if over {
                drive = None;
            }
            if let Err(error) = kept {
                // Nothing more of this take can be kept in order: what came so far stays.
                open.extend(rolled.map(|take| (take, error.to_string())));
                take = None;
                let why = format!("the take was cut because it could not be recorded: {error}");
                eprintln!("rovnek: {why}");
                let _ = floor.send(Message::RecorderFailed(why));
            }
            if bumps {
                tell(over);
            }
        }
    };
    let thread = std::thread::Builder::new().name("recorder".into()).spawn(record);
    (thread.expect("a thread can be started"), seen)
}

/// `take` is the one being recorded; chunks after it failed belong to nothing and are dropped.
pub(crate) fn keep(
    store: &mut Store,
    take: &mut Option<TakeId>,
    drive: &mut Option<u32>,
    note: RecorderEvent,
) -> Result<()> {
    match note {
        RecorderEvent::Begin(begun) => {
            let placed = &begun.placed;
            let rig = placed.rig.build(&placed.camera);
            let rolled =
                Rolled { clock: Some(begun.clock), device: begun.device.clone(), ..store.rolled_against()? };
            let pass = begun.pass.as_ref().map(|pass| {
                let axes = pass.axes.iter().map(|i| rig.axes()[*i].name.to_string()).collect();
                let placement =
                    PassPlacement { name: pass.name.clone(), at: pass.at, axes, blend_s: pass.blend_s };
                (pass.take, placement)
            });
            let new = NewTake {
                setup_id: placed.setup_id,
                camera: &placed.camera,
                rig: &placed.rig,
                rate_hz: SAMPLE_RATE_HZ,
                axes: rig.axes().iter().map(|a| a.name.to_string()).collect(),
                rolled,
                note: &begun.note,
                pass,
            };
            *take = Some(store.begin_take(&new)?.0);
        }
        RecorderEvent::Act(who) => {
            let document = store.document()?;
            let scene = &document.scene;
            *drive = Some(store.begin_drive(scene.id, scene.performance, who, *take, SAMPLE_RATE_HZ)?);
        }
        RecorderEvent::Acted { seq, values } => {
            if let Some(drive) = *drive {
                store.append_drive(drive, seq, &values)?;
            }
        }
        RecorderEvent::Packets(packets) => {
            if let Some(take) = *take {
                store.append_packets(take, packets.len() as u32, &capture::write(&packets))?;
            }
        }
        RecorderEvent::Chunk { seq, width, values } => {
            if let Some(take) = *take
                && let Err(error) = store.append(take, seq, width, &values)
            {
                // Close what is there while the reason is known; if even that fails, the next
                // start recovers it.
                let _ = store.close_take(take, &[error.to_string()]);
                return Err(error);
            }
        }
        RecorderEvent::Hands(hands) => {
            if let Some(take) = *take {
                store.driven_by(take, hands)?;
            }
        }
        RecorderEvent::Left => {}
        RecorderEvent::End { flags } => {
            if let Some(take) = take.take() {
                store.close_take(take, &flags)?;
            }
        }
    }
    Ok(())
}
