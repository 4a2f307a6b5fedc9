//! Track as it is laid on the floor: stock pieces, one after the other.
//!
//! Stock lengths of 2, 4 and 8 ft and curves of an eighth of a circle are common practice, no
//! source.

use super::described::{FAR, degrees, metres};
use super::parts::strut;
use crate::line::{Line, Span};
use crate::list::List;
use crate::params::{Invalid, Param};
use crate::solid::{Material, Solid};
use glam::{DVec2, DVec3};
use serde::{Deserialize, Serialize};
use std::f64::consts::FRAC_PI_2;
use ts_rs::TS;

/// Distance from rail to rail, metres.
pub(super) const GAUGE_M: f64 = 0.62;

/// A piece of track. `rise_m` is what it climbs from its start to its end.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "piece")]
pub enum TrackPiece {
    /// Straight piece.
    Straight {
        /// Along the floor.
        length_m: f64,
        /// Rise over the piece, metres.
        #[serde(default)]
        rise_m: f64,
    },
    /// Round a bend, positive to the right.
    Curve {
        /// Radius of the middle between the rails, metres.
        radius_m: f64,
        /// Turn over the piece, degrees.
        turn_deg: f64,
        /// Rise over the piece, metres.
        #[serde(default)]
        rise_m: f64,
    },
}

/// Track laid from a point on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct DollyTrack {
    /// Place x of the beginning, metres.
    pub x_m: f64,
    /// Place z of the beginning, metres.
    pub z_m: f64,
    /// Top of the rails there, over the floor.
    pub height_m: f64,
    /// Heading of the beginning, degrees: 0 is −Z, positive to the right.
    pub heading_deg: f64,
    /// Piece after piece.
    pub pieces: List<TrackPiece>,
}

impl Default for DollyTrack {
    fn default() -> DollyTrack {
        let straight = TrackPiece::Straight { length_m: 2.44, rise_m: 0.0 };
        DollyTrack { x_m: 0.0, z_m: 0.0, height_m: 0.12, heading_deg: 0.0, pieces: vec![straight; 3].into() }
    }
}

impl DollyTrack {
    /// The middle between the rails.
    pub fn line(&self) -> Line {
        let mut at = DVec3::new(self.x_m, self.height_m, self.z_m);
        let mut heading = self.heading_deg.to_radians();
        let ahead = |h: f64| DVec2::new(h.sin(), -h.cos());
        let spans = self.pieces.iter().map(|piece| {
            let from = at;
            match *piece {
                TrackPiece::Straight { length_m, rise_m } => {
                    let d = ahead(heading) * length_m;
                    at += DVec3::new(d.x, rise_m, d.y);
                    Span::Straight { from, to: at }
                }
                TrackPiece::Curve { radius_m, turn_deg, rise_m } => {
                    let turn = turn_deg.to_radians();
                    // The middle lies to the side that is turned to.
                    let to_middle = ahead(heading + FRAC_PI_2 * turn.signum()) * radius_m;
                    let end = DVec2::from_angle(turn).rotate(-to_middle) + to_middle;
                    at += DVec3::new(end.x, rise_m, end.y);
                    heading += turn;
                    let centre = from + DVec3::new(to_middle.x, 0.0, to_middle.y);
                    Span::Arc { centre, spoke: -to_middle, turn, rise: rise_m }
                }
            }
        });
        Line::new(spans.collect(), false)
    }

    /// The rails and what they lie on.
    pub(super) fn solids(&self, line: &Line) -> Vec<Solid> {
        let whole = line.length();
        let mut stops: Vec<f64> = Vec::new();
        for (from, to) in line.starts().iter().zip(&line.starts()[1..]) {
            let bend = line.at((from + to) / 2.0).curvature.length();
            // A chord departs from its bend by at most a centimetre.
            let step = if bend > 1e-9 { (0.08 / bend).sqrt() } else { f64::INFINITY };
            let count = ((to - from) / step).ceil().max(1.0) as usize;
            stops.extend((0..count).map(|i| from + (to - from) * i as f64 / count as f64));
        }
        stops.push(whole);
        let side = |t: f64, by: f64| {
            let place = line.at(t);
            let across = DVec3::new(-place.tangent.z, 0.0, place.tangent.x).normalize_or(DVec3::X);
            place.position + across * by
        };
        let mut solids = Vec::new();
        for by in [-GAUGE_M / 2.0, GAUGE_M / 2.0] {
            for pair in stops.windows(2) {
                let [from, to] = [side(pair[0], by), side(pair[1], by)];
                let down = DVec3::new(0.0, -0.025, 0.0);
                solids.push(strut("track", 0.05, from + down, to + down, Material::RailSteel));
            }
        }
        let sleepers = (whole / 0.8).floor().max(1.0) as usize;
        for i in 0..=sleepers {
            let t = whole * i as f64 / sleepers as f64;
            let half = GAUGE_M / 2.0 + 0.1;
            let down = DVec3::new(0.0, -0.08, 0.0);
            solids.push(strut(
                "sleeper",
                0.06,
                side(t, -half) + down,
                side(t, half) + down,
                Material::Timber,
            ));
        }
        solids
    }

    /// Parameters of the track except its pieces, as part of a machine.
    pub(super) fn params(&self) -> [Param; 3] {
        [
            Param::row(
                "track from x, z",
                vec![
                    metres("track/x_m", "Track x", -FAR, FAR, self.x_m),
                    metres("track/z_m", "Track z", -FAR, FAR, self.z_m),
                ],
            ),
            Param::row(
                "track heading",
                vec![degrees("track/heading_deg", "Track heading", -FAR, FAR, self.heading_deg)],
            ),
            Param::row(
                "rails over floor",
                vec![metres("track/height_m", "Height of the rails", -FAR, FAR, self.height_m)],
            ),
        ]
    }

    pub(super) fn check(&self) -> Result<(), Invalid> {
        let refused = |sentence: String| Err(Invalid::at("track/pieces", sentence));
        if self.pieces.is_empty() || self.pieces.len() > 60 {
            return refused("a track has between 1 and 60 pieces".into());
        }
        for (i, piece) in self.pieces.iter().enumerate() {
            let (along, rise) = match *piece {
                TrackPiece::Straight { length_m, rise_m } => (length_m, rise_m),
                TrackPiece::Curve { radius_m, turn_deg, rise_m } => {
                    let bends = (0.5..=100.0).contains(&radius_m) && (1.0..=360.0).contains(&turn_deg.abs());
                    if !bends {
                        let sentence = "a curve has a radius of 0.5 to 100 m and turns by 1° to 360°";
                        return refused(format!("track piece {}: {sentence}", i + 1));
                    }
                    (radius_m * turn_deg.to_radians().abs(), rise_m)
                }
            };
            let lies = (0.1..=30.0).contains(&along) || matches!(piece, TrackPiece::Curve { .. });
            if !lies || !rise.is_finite() || rise.abs() > along * 0.3 {
                let sentence = "a piece is 0.1 to 30 m long and climbs at most 3 in 10";
                return refused(format!("track piece {}: {sentence}", i + 1));
            }
        }
        Ok(())
    }
}
