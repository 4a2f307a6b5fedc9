//! Messages of the page on a phone, as JSON: the phone's pose and the push of its pads.
//!
//! Angles are alpha, beta and gamma of the W3C's Device Orientation: turns about z, x' and y'' in a
//! world with z up. The camera is the one on the phone's back; its screen may be turned against it.
//! A phone does not know where it is, so its pads carry it.

use super::{Lens, Sample};
use rovnek_core::space::Pose;
use rovnek_core::wheels::Wheel;
use rovnek_core::{DQuat, DVec3};
use serde::Deserialize;
use std::f64::consts::FRAC_PI_2;

/// A push of a pad at its end, metres a second.
const PUSH_M_S: f64 = 1.0;
/// A pause longer than this is not travelled, seconds.
const LONGEST_S: f64 = 0.1;

/// How a phone is held, and what its pads say.
#[derive(Default, Deserialize)]
#[serde(default)]
pub struct PhoneState {
    turn: Option<[f64; 3]>,
    screen: f64,
    /// Pads, −1 to 1: to the right, ahead, up.
    pub side: f64,
    /// Push ahead; see [`PhoneState::side`].
    pub ahead: f64,
    /// Push upwards; see [`PhoneState::side`].
    pub up: f64,
    /// Wheel that the pads drive instead of carrying the camera.
    pub wheel: Option<Wheel>,
}

impl PhoneState {
    /// Reads a message of the phone's page.
    pub fn read(json: &[u8]) -> Result<PhoneState, String> {
        let held: PhoneState =
            serde_json::from_slice(json).map_err(|e| format!("this is not from the phone's page: {e}"))?;
        let mut numbers = held.turn.iter().flatten().chain([&held.screen, &held.side, &held.ahead, &held.up]);
        if !numbers.all(|v| v.is_finite() && v.abs() <= 1e4) {
            return Err("the phone's numbers must be plain and under 10 000".into());
        }
        let share = |v: f64| v.clamp(-1.0, 1.0);
        Ok(PhoneState { side: share(held.side), ahead: share(held.ahead), up: share(held.up), ..held })
    }
}

/// How a camera on the back of a phone is turned.
fn rotation([alpha, beta, gamma]: [f64; 3], screen: f64) -> DQuat {
    let [a, b, c, s] = [alpha, beta, gamma, screen].map(f64::to_radians);
    let world = DQuat::from_rotation_x(-FRAC_PI_2);
    let phone = DQuat::from_rotation_z(a) * DQuat::from_rotation_x(b) * DQuat::from_rotation_y(c);
    (world * phone * DQuat::from_rotation_z(-s)).normalize()
}

/// Place that the pads have carried a phone to.
pub struct Carried {
    place: DVec3,
    turn: DQuat,
}

impl Default for Carried {
    fn default() -> Carried {
        Carried { place: DVec3::new(0.0, 1.6, 0.0), turn: DQuat::IDENTITY }
    }
}

impl Carried {
    /// Moved on by what the phone says, so many seconds after it said something last.
    pub fn moved(&mut self, held: &PhoneState, elapsed_s: f64) -> Sample {
        if let Some(turn) = held.turn {
            self.turn = rotation(turn, held.screen);
        }
        // The pads push along the floor, the way the phone looks.
        let look = self.turn * DVec3::NEG_Z;
        let ahead = look.with_y(0.0).try_normalize().unwrap_or(DVec3::NEG_Z);
        let side = DVec3::new(-ahead.z, 0.0, ahead.x);
        let push = ahead * held.ahead + side * held.side + DVec3::Y * held.up;
        self.place += push * PUSH_M_S * elapsed_s.clamp(0.0, LONGEST_S);
        Sample {
            device: "1".into(),
            time_s: None,
            sequence: None,
            rate_hz: None,
            pose: Pose::new(self.place, self.turn),
            lens: Lens::default(),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::space::PanTiltRoll;

    fn looks(turn: [f64; 3], screen: f64) -> [f64; 3] {
        let a = PanTiltRoll::from_rotation(rotation(turn, screen));
        [a.pan, a.tilt, a.roll].map(|v| v.to_degrees().round() + 0.0)
    }

    /// Worked by hand from the W3C's Device Orientation: flat on a table all angles are 0 and the
    /// back looks down; upright beta is 90; alpha grows to the left.
    #[test]
    fn a_phone_looks_out_of_its_back() {
        assert_eq!(looks([0.0, 0.0, 0.0], 0.0)[1], -90.0);
        assert_eq!(looks([0.0, 90.0, 0.0], 0.0), [0.0, 0.0, 0.0]);
        assert_eq!(looks([30.0, 90.0, 0.0], 0.0), [-30.0, 0.0, 0.0]);
        assert_eq!(looks([0.0, 110.0, 0.0], 0.0), [0.0, 20.0, 0.0]);
        // On its side: the top to the left, the screen turned along with it.
        assert_eq!(looks([90.0, 0.0, -90.0], 90.0), [0.0, 0.0, 0.0]);
    }

    #[test]
    fn pads_push_the_way_it_looks_and_nonsense_moves_nothing() {
        let mut c = Carried::default();
        let mut moved = |json: &[u8], s: f64| Ok::<_, String>(c.moved(&PhoneState::read(json)?, s));
        moved(br#"{"turn": [-90, 90, 0]}"#, 1.0).unwrap();
        let to = moved(br#"{"ahead": 1}"#, 0.03).unwrap().pose.position;
        assert!((to.x - 0.03).abs() < 1e-12 && to.z.abs() < 1e-9, "{to}");
        assert!(moved(br#"{"ahead": 1e9}"#, 0.03).unwrap_err().contains("plain"));
        assert!(moved(b"hello", 0.03).unwrap_err().contains("not from the phone"));
        assert_eq!(moved(b"{}", 0.03).unwrap().pose.position, to);
    }
}
