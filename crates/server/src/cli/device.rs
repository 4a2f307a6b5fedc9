//! `rovnek device`: a tracked device that is not there.

use super::{in_file, read_file};
use crate::floor::devices::send;
use clap::Args;
use rovnek_core::follow::CameraTarget;
use rovnek_formats::ReadFormat;
use rovnek_formats::tracking::{Protocol, capture};
use rovnek_formats::tum::TumOptions;
use rovnek_live::device_simulator::{Manner, Motion, StandIn, replay};
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::sync::atomic::AtomicBool;

#[derive(Args)]
pub struct Device {
    /// What it speaks: opentrackio or freed
    #[arg(long, default_value = "opentrackio")]
    protocol: Protocol,
    /// Where it sends to
    #[arg(long, value_name = "ADDR:PORT")]
    to: SocketAddr,
    /// What it does: shoulder, sweep, still, or a file with a move (csv, tum, jsonl, glb)
    #[arg(long = "move", default_value = "shoulder", value_name = "MOVE")]
    motion: String,
    /// Sends again what was kept with a take: a packet capture (pcap)
    #[arg(long, value_name = "FILE", conflicts_with = "motion")]
    replay: Option<PathBuf>,
    /// Samples a second
    #[arg(long, default_value_t = 120)]
    rate: u32,
    /// Its number: a camera's, or a source's
    #[arg(long, default_value_t = 1)]
    number: u8,
    /// The most bytes of a sample in a packet; smaller ones cut it into segments
    #[arg(long, default_value_t = 1200)]
    segment: usize,
    /// How unsteady the hand is; 1 is an ordinary one, 0 a statue
    #[arg(long, default_value_t = 1.0)]
    tremor: f64,
    /// Noise of the sensor in mm
    #[arg(long, default_value_t = 0.2)]
    noise_mm: f64,
    /// Noise of the sensor in degrees
    #[arg(long, default_value_t = 0.02)]
    noise_deg: f64,
    /// Packets go out up to so much later, at random
    #[arg(long, default_value_t = 1.0)]
    jitter_ms: f64,
    /// Packets that are lost, in percent
    #[arg(long, default_value_t = 0.0)]
    loss: f64,
    /// Packets that come after those behind them, in percent
    #[arg(long, default_value_t = 0.0)]
    late: f64,
    /// Of all chance: the same seed sends the same
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Stops after so long; without it, when told to
    #[arg(long)]
    seconds: Option<f64>,
}

impl Device {
    pub fn run(&self) -> Result<(), String> {
        let end = self.seconds.unwrap_or(f64::INFINITY);
        let stop = AtomicBool::new(false);
        if let Some(path) = &self.replay {
            let packets = capture::read(&read_file(path)?).map_err(|e| format!("{}: {e}", path.display()))?;
            eprintln!("rovnek: sending {} packets again to {}", packets.len(), self.to);
            let sent = send(replay(&packets).take_while(|(t, _)| *t <= end), self.to, &stop)?;
            println!("{sent} packets sent");
            return Ok(());
        }
        let device = StandIn {
            protocol: self.protocol,
            number: self.number,
            rate_hz: self.within("--rate", f64::from(self.rate), 1.0, 1000.0)? as u32,
            segment: self.segment,
            motion: self.motion()?,
            manner: Manner {
                tremor: self.within("--tremor", self.tremor, 0.0, 20.0)?,
                noise_mm: self.within("--noise-mm", self.noise_mm, 0.0, 1000.0)?,
                noise_deg: self.within("--noise-deg", self.noise_deg, 0.0, 90.0)?,
                jitter_ms: self.within("--jitter-ms", self.jitter_ms, 0.0, 1000.0)?,
                lost: self.within("--loss", self.loss, 0.0, 100.0)? / 100.0,
                late: self.within("--late", self.late, 0.0, 100.0)? / 100.0,
                seed: self.seed,
                ..Manner::default()
            },
        };
        eprintln!("rovnek: sending {} to {}; stop it with Ctrl C", self.protocol, self.to);
        let mut sending = device.begin();
        let packets = std::iter::from_fn(|| Some(sending.next_packet()));
        let sent = send(packets.take_while(|(t, _)| *t <= end), self.to, &stop)?;
        println!("{sent} packets sent");
        Ok(())
    }

    fn within(&self, name: &str, value: f64, from: f64, to: f64) -> Result<f64, String> {
        if (from..=to).contains(&value) {
            return Ok(value);
        }
        Err(format!("{name} {value} cannot be; give {from} to {to}"))
    }

    fn motion(&self) -> Result<Motion, String> {
        if let Some(motion) = Motion::named(&self.motion) {
            return Ok(motion);
        }
        let path = Path::new(&self.motion);
        let format = match path.extension().and_then(|e| e.to_str()) {
            Some("csv") => ReadFormat::Csv,
            Some("jsonl" | "json") => ReadFormat::OpenTrackIo,
            Some("glb" | "gltf") => ReadFormat::Gltf,
            Some("txt" | "tum") => ReadFormat::Tum,
            _ => {
                let sentence =
                    "is no move; give shoulder, sweep, still, or a .csv, .txt (TUM), .jsonl or .glb file";
                return Err(format!("{} {sentence}", self.motion));
            }
        };
        let track = rovnek_formats::read(format, &read_file(path)?, &TumOptions::default())
            .map_err(in_file(path))?
            .content
            .resampled(120.0);
        CameraTarget::of(&track)
            .map(Motion::Recorded)
            .ok_or_else(|| format!("{} holds no move", path.display()))
    }
}
