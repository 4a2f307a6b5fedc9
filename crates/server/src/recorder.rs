//! What the floor records, into the store: a thread that takes notes in order and loses none.

use crate::app::lock;
use rovnek_core::time::SAMPLE_RATE_HZ;
use rovnek_live::floor::Note;
use rovnek_live::runner::Message;
use rovnek_store::journal::NewTake;
use rovnek_store::{Result, Store};
use std::sync::mpsc::{Receiver, Sender};
use std::sync::{Arc, Mutex};
use std::thread::JoinHandle;
use tokio::sync::watch;

/// Starts the recorder. It ends when the floor is gone and its last note is kept.
pub fn start(
    store: Arc<Mutex<Store>>,
    notes: Receiver<Note>,
    floor: Sender<Message>,
    revision: Arc<watch::Sender<u64>>,
) -> JoinHandle<()> {
    let record = move || {
        let mut take = None;
        for note in notes {
            let bumps = !matches!(note, Note::Chunk { .. });
            if let Err(error) = keep(&mut lock(&store), &mut take, note) {
                // Nothing more of this take can be kept in order: what came so far stays.
                take = None;
                let why = format!("the take was cut because it could not be recorded: {error}");
                eprintln!("rovnek: {why}");
                let _ = floor.send(Message::RecorderFailed(why));
            }
            if bumps {
                revision.send_modify(|r| *r += 1);
            }
        }
    };
    std::thread::Builder::new().name("recorder".into()).spawn(record).expect("a thread can be started")
}

/// `take` is the one being recorded; chunks after it failed belong to nothing and are dropped.
fn keep(store: &mut Store, take: &mut Option<u32>, note: Note) -> Result<()> {
    match note {
        Note::Begin(placed) => {
            let width = placed.rig.build(&placed.camera).axes().len();
            let new = NewTake {
                setup_id: placed.setup_id,
                camera: &placed.camera,
                rig: &placed.rig,
                rate_hz: SAMPLE_RATE_HZ,
                width,
            };
            *take = Some(store.begin_take(&new)?.0);
        }
        Note::Chunk { seq, width, values } => {
            if let Some(take) = *take
                && let Err(error) = store.append(take, seq, width, &values)
            {
                // Close what is there while the reason is known; if even that fails, the next
                // start recovers it.
                let _ = store.close_take(take, &[error.to_string()]);
                return Err(error);
            }
        }
        Note::End { flags } => {
            if let Some(take) = take.take() {
                store.close_take(take, &flags)?;
            }
        }
    }
    Ok(())
}
