//! The state frame: the floor at one moment, as pages get it 60 times a second.
//!
//! Little-endian, version 9; `docs/wire.md` describes it for people, and
//! `reference/values/state_frame.json` holds frames that the tests of both sides read.

use crate::state::State;
use rovnek_core::clearance::{Clearance, Nearest};
use rovnek_core::framing::ShotSize;
use rovnek_core::space::{PanTiltRoll, Pose};

/// First byte of a frame.
pub const MAGIC: u8 = 0x52;
/// Second byte of a frame.
pub const VERSION: u8 = 9;

/// The bytes of a frame.
pub fn encode(state: &State) -> Vec<u8> {
    let drawn = state.bodies.len() + state.others.iter().map(|o| o.bodies.len()).sum::<usize>();
    let mut out = Vec::with_capacity(192 + state.others.len() * 40 + state.axes.len() * 16 + drawn * 28);
    out.extend([MAGIC, VERSION, state.flags, state.axes.len() as u8]);
    out.extend(state.setup_id.0.to_le_bytes());
    out.extend((state.step as f64).to_le_bytes());
    out.extend(state.scene_time_s.to_le_bytes());
    out.extend((state.roll_time_s as f32).to_le_bytes());
    let camera = state.rig_pose.camera;
    let angles = PanTiltRoll::from_rotation(camera.rotation);
    let (near, far) = state.sharp_m;
    for number in [
        state.lens.focal_mm,
        state.lens.focus_m,
        state.lens.f_stop,
        near,
        far,
        angles.pan.to_degrees(),
        angles.tilt.to_degrees(),
        angles.roll.to_degrees(),
        state.hyperfocal_m,
    ] {
        out.extend((number as f32).to_le_bytes());
    }
    for v in camera.seven() {
        out.extend(v.to_le_bytes());
    }
    let (subject, share) = state.subject.unwrap_or_default();
    out.extend(subject.0.to_le_bytes());
    out.extend((share as f32).to_le_bytes());
    let (right, up) = state.half_frame;
    for number in [state.short_m, right, up] {
        out.extend((number as f32).to_le_bytes());
    }
    out.extend([state.shot.map_or(0, ShotSize::code), u8::from(state.covered), 0, 0]);
    out.extend(state.timecode.packed().to_le_bytes());
    for angle in [state.sees.0, state.sees.1] {
        out.extend((angle.to_degrees() as f32).to_le_bytes());
    }
    out.extend((state.base_m_s.unwrap_or(-1.0) as f32).to_le_bytes());
    let (distance_m, of, (kind, id)) = match state.clearance {
        None => (-1.0, 0, (0, 0)),
        Some(Clearance { distance_m, of: Nearest::Lens, to }) => (distance_m, 1, to.code()),
        Some(Clearance { distance_m, of: Nearest::Machine, to }) => (distance_m, 2, to.code()),
    };
    out.extend((distance_m as f32).to_le_bytes());
    out.extend([of, kind, 0, 0]);
    out.extend(id.to_le_bytes());
    for axis in &state.axes {
        out.extend(axis.value.to_le_bytes());
        out.extend((axis.speed as f32).to_le_bytes());
        out.extend([axis.flags, 0]);
        // Hundredths; what takes longer is as good as never.
        let stops = axis.stops_in_s.map_or(u16::MAX, |s| (s * 100.0).round().min(65_535.0) as u16);
        out.extend(stops.to_le_bytes());
    }
    poses(&mut out, &state.bodies);
    out.extend((state.others.len() as u32).to_le_bytes());
    for other in &state.others {
        out.extend(other.setup_id.0.to_le_bytes());
        out.extend((other.focal_mm as f32).to_le_bytes());
        pose(&mut out, other.camera);
        poses(&mut out, &other.bodies);
    }
    match &state.acting {
        None => moving(&mut out, (0, 0), &[]),
        Some((of, bodies)) => moving(&mut out, of.code(), bodies),
    }
    out.extend((state.riding.len() as u32).to_le_bytes());
    for (of, bodies) in &state.riding {
        moving(&mut out, of.code(), bodies);
    }
    out.extend((state.handles.len() as u32).to_le_bytes());
    for v in state.handles.iter().flat_map(|place| place.to_array()) {
        out.extend((v as f32).to_le_bytes());
    }
    out
}

/// Writes a mover with its poses.
fn moving(out: &mut Vec<u8>, (kind, id): (u8, u32), bodies: &[Pose]) {
    out.extend(u32::from(kind).to_le_bytes());
    out.extend(id.to_le_bytes());
    poses(out, bodies);
}

fn pose(out: &mut Vec<u8>, pose: Pose) {
    for v in pose.seven() {
        out.extend((v as f32).to_le_bytes());
    }
}

/// Writes a count of poses, then each pose.
fn poses(out: &mut Vec<u8>, all: &[Pose]) {
    out.extend((all.len() as u32).to_le_bytes());
    all.iter().for_each(|one| pose(out, *one));
}
