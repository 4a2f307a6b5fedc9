//! Buffer between floor and recorder: a rolling take in chunks of a quarter second, in order, without loss.

use crate::machine::Placed;
use rovnek_core::ids::TakeId;
use rovnek_core::performer::driven::ROW;
use rovnek_core::playing::MoverId;
use rovnek_core::wheels::HandOn;
use rovnek_formats::tracking::capture::Packet;

/// Samples in a chunk: a quarter second.
pub const CHUNK_SAMPLES: usize = 30;
/// Packets that are kept until the next chunk; more is flagged and left out.
const MOST_PACKETS: usize = 20_000;
/// Words about what went wrong that are kept with a take.
const MOST_FLAGS: usize = 20;
/// Changes of hands that are kept with a take.
const MOST_HANDS: usize = 200;

/// Event for the recorder, in order and without loss.
#[derive(Clone, Debug, PartialEq)]
pub enum RecorderEvent {
    /// Start of a take.
    Begin(Box<TakeStart>),
    /// The next samples, row after row.
    Chunk {
        /// Sequence number of the chunk, from 0.
        seq: u32,
        /// Values per row.
        width: usize,
        /// Rows of samples.
        values: Vec<f64>,
    },
    /// Somebody begins to be driven.
    Act(MoverId),
    /// Next chunk of what a driven performer did, in rows of the scene's samples.
    Acted {
        /// Sequence number of the chunk, from 0.
        seq: u32,
        /// Rows of samples.
        values: Vec<f64>,
    },
    /// Holders of the wheels so far.
    Hands(Vec<HandOn>),
    /// Packets of devices; times from the start of the roll, in wall time.
    Packets(Vec<Packet>),
    /// The take is over; words about what went wrong.
    End {
        /// For the take's flags.
        flags: Vec<String>,
    },
    /// All of this scene was told: another one comes onto the floor.
    Left,
}

/// Start of a take: setup, scene and clock.
#[derive(Clone, Debug, PartialEq)]
pub struct TakeStart {
    /// Setup that rolls.
    pub placed: Placed,
    /// Seconds of the scene in a second.
    pub clock: f64,
    /// The device that the camera is attached to.
    pub device: Option<String>,
    /// A note from the slate.
    pub note: String,
    /// The take it is a pass over.
    pub pass: Option<PassStart>,
}

/// How a pass lies over the take below.
#[derive(Clone, Debug, PartialEq)]
pub struct PassStart {
    /// Id of the take below.
    pub take: TakeId,
    /// Name of the pass.
    pub name: String,
    /// The sample of the take at which it begins.
    pub at: usize,
    /// The axes it records.
    pub axes: Vec<usize>,
    /// Length of the joints, seconds.
    pub blend_s: f64,
}

/// Rows that come one by one and go out many at a time.
#[derive(Default)]
struct Chunks {
    values: Vec<f64>,
    seq: u32,
}

impl Chunks {
    /// The next row; a chunk where that fills one.
    fn push(&mut self, row: &[f64]) -> Option<(u32, Vec<f64>)> {
        self.values.extend(row);
        if self.values.len() >= CHUNK_SAMPLES * row.len() { self.rest() } else { None }
    }

    /// Rest that has not gone out yet, with its sequence number.
    fn rest(&mut self) -> Option<(u32, Vec<f64>)> {
        if self.values.is_empty() {
            return None;
        }
        self.seq += 1;
        Some((self.seq - 1, std::mem::take(&mut self.values)))
    }
}

/// Buffers of a roll: axes of the machine, a driven performer, packets of devices.
#[derive(Default)]
pub(crate) struct TakeBuffer {
    axes: Chunks,
    width: usize,
    acted: Chunks,
    packets: Vec<Packet>,
    flags: Vec<String>,
    hands: Vec<HandOn>,
    notes: Vec<RecorderEvent>,
}

impl TakeBuffer {
    /// A roll begins: of a take, of somebody who is driven, or of both.
    pub fn begin(&mut self, take: Option<TakeStart>, who: Option<MoverId>) {
        let notes = std::mem::take(&mut self.notes);
        *self = TakeBuffer { notes, ..TakeBuffer::default() };
        self.notes.extend(take.map(|begun| RecorderEvent::Begin(Box::new(begun))));
        self.notes.extend(who.map(RecorderEvent::Act));
    }

    /// Notes new holders of the wheels.
    pub fn hands(&mut self, hands: Vec<HandOn>) {
        if self.hands.len() + hands.len() <= MOST_HANDS {
            self.hands.extend(hands);
            self.notes.push(RecorderEvent::Hands(self.hands.clone()));
        }
    }

    /// True once the holders of the wheels are known.
    pub fn knows_hands(&self) -> bool {
        !self.hands.is_empty()
    }

    /// The next row of the machine's axes.
    pub fn axes(&mut self, row: &[f64]) {
        self.width = row.len();
        let chunk = self.axes.push(row);
        self.send_axes(chunk);
    }

    /// The next row of somebody who is driven.
    pub fn acted(&mut self, row: [f64; ROW]) {
        let chunk = self.acted.push(&row);
        self.notes.extend(chunk.map(|(seq, values)| RecorderEvent::Acted { seq, values }));
    }

    /// Adds a packet of a device.
    pub fn packet(&mut self, packet: Packet) {
        if self.packets.len() < MOST_PACKETS {
            self.packets.push(packet);
        } else {
            self.flag("the device sent more than can be kept".into());
        }
    }

    /// Words about what went wrong, once each.
    pub fn flag(&mut self, words: String) {
        if self.flags.len() < MOST_FLAGS && !self.flags.contains(&words) {
            self.flags.push(words);
        }
    }

    /// The roll is over.
    pub fn end(&mut self) {
        let acted = self.acted.rest();
        self.notes.extend(acted.map(|(seq, values)| RecorderEvent::Acted { seq, values }));
        let rest = self.axes.rest();
        self.send_axes(rest);
        self.notes.push(RecorderEvent::End { flags: std::mem::take(&mut self.flags) });
    }

    /// The scene is left.
    pub fn left(&mut self) {
        self.notes.push(RecorderEvent::Left);
    }

    /// Packets go out with the samples they came with.
    fn send_axes(&mut self, chunk: Option<(u32, Vec<f64>)>) {
        let Some((seq, values)) = chunk else { return };
        self.notes.push(RecorderEvent::Chunk { seq, width: self.width, values });
        if !self.packets.is_empty() {
            self.notes.push(RecorderEvent::Packets(std::mem::take(&mut self.packets)));
        }
    }

    /// Takes the events out, in order; each event is given once.
    pub fn take_events(&mut self) -> Vec<RecorderEvent> {
        std::mem::take(&mut self.notes)
    }
}
