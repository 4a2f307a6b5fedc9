//! The camera: sensor, frame and lens, and what they see.

use crate::params::{self, Invalid};
use crate::track::LensState;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A camera body with a lens on it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Camera {
    /// Sensor width; 24.89 mm is 35 mm full aperture.
    pub sensor_width_mm: f64,
    /// Sensor height, millimetres.
    pub sensor_height_mm: f64,
    /// Squeeze of an anamorphic lens: horizontal field over that of a spherical lens; 1 is spherical.
    pub squeeze: f64,
    /// Width over height of the frame that is cut from the sensor, unsqueezed.
    pub frame_aspect: f64,
    /// The set the lens is of, by name; empty for one of its own.
    pub lens_set: String,
    /// The shorter end of the zoom; a prime has both ends the same.
    pub focal_min_mm: f64,
    /// The longer end of the zoom.
    pub focal_max_mm: f64,
    /// The zoom's top speed, millimetres a second.
    pub zoom_mm_s: f64,
    /// Focal length at the start, millimetres.
    pub focal_mm: f64,
    /// The closest distance that can be sharp.
    pub closest_focus_m: f64,
    /// Focus distance at the start, metres.
    pub focus_m: f64,
    /// The widest the iris opens.
    pub widest_stop: f64,
    /// The stop that the iris stands at when the camera is set up.
    pub f_stop: f64,
}

impl Default for Camera {
    fn default() -> Camera {
        Camera {
            sensor_width_mm: 24.89,
            sensor_height_mm: 18.66,
            squeeze: 1.0,
            frame_aspect: 2.39,
            lens_set: String::new(),
            focal_min_mm: 18.0,
            focal_max_mm: 100.0,
            zoom_mm_s: ZOOM_MM_S,
            focal_mm: 35.0,
            closest_focus_m: 0.6,
            focus_m: 5.0,
            widest_stop: 2.8,
            f_stop: 4.0,
        }
    }
}

/// The top speed of a usual zoom, millimetres a second.
pub const ZOOM_MM_S: f64 = 40.0;
/// The farthest the focus axis goes; beyond it everything is infinity for these lenses.
pub const FOCUS_FAR_M: f64 = 60.0;
/// The narrowest stop of a usual cine lens, to which the iris closes (common practice, no source).
pub const CLOSED_STOP: f64 = 22.0;
/// The narrowest stop that a camera may be set up with.
pub const NARROWEST_STOP: f64 = 64.0;

impl Camera {
    /// Checks every number.
    pub fn check(&self) -> Result<(), Invalid> {
        self.fault().map_or(Ok(()), |(path, sentence)| Err(Invalid::at(path, sentence)))
    }

    /// First fault: its path, and a sentence.
    fn fault(&self) -> Option<(&'static str, String)> {
        let all = [
            self.sensor_width_mm,
            self.sensor_height_mm,
            self.squeeze,
            self.frame_aspect,
            self.focal_min_mm,
            self.focal_max_mm,
            self.zoom_mm_s,
            self.focal_mm,
            self.closest_focus_m,
            self.focus_m,
            self.widest_stop,
            self.f_stop,
        ];
        if all.iter().any(|v| !v.is_finite() || *v <= 0.0) {
            return Some(("", "every number of a camera must be greater than zero".into()));
        }
        let sensor = [self.sensor_width_mm, self.sensor_height_mm];
        if !sensor.iter().all(|mm| (1.0..=100.0).contains(mm)) || !(0.25..=4.0).contains(&self.squeeze) {
            let sentence = "a sensor is 1 to 100 mm wide and high, a squeeze 0.25 to 4";
            return Some(("sensor_width_mm", sentence.into()));
        }
        if !(0.2..=5.0).contains(&self.frame_aspect) {
            let sentence = format!("a frame of {} to 1 is not possible; give 0.2 to 5", self.frame_aspect);
            return Some(("frame_aspect", sentence));
        }
        if self.focal_min_mm > self.focal_max_mm || self.focal_max_mm > 2000.0 || self.focal_min_mm < 2.0 {
            let sentence = "a lens goes from its shorter to its longer focal length, within 2–2000 mm";
            return Some(("focal_min_mm", sentence.into()));
        }
        if !(0.01..=1000.0).contains(&self.zoom_mm_s) {
            let sentence =
                format!("a zoom of {} mm a second is not possible; give 0.01 to 1000", self.zoom_mm_s);
            return Some(("zoom_mm_s", sentence));
        }
        if self.focal_mm < self.focal_min_mm || self.focal_mm > self.focal_max_mm {
            let sentence = format!(
                "{} mm is not on this lens; it goes from {} to {} mm",
                self.focal_mm, self.focal_min_mm, self.focal_max_mm
            );
            return Some(("focal_mm", sentence));
        }
        if self.closest_focus_m * 1000.0 <= self.focal_min_mm {
            let sentence = format!(
                "a lens of {} mm cannot focus at {} m from its sensor, inside its focal length; give more",
                self.focal_min_mm, self.closest_focus_m
            );
            return Some(("closest_focus_m", sentence));
        }
        if self.closest_focus_m > self.focus_m || self.focus_m > FOCUS_FAR_M {
            let sentence = format!(
                "this lens focuses from {} m to {FOCUS_FAR_M} m, not at {} m",
                self.closest_focus_m, self.focus_m
            );
            return Some(("focus_m", sentence));
        }
        if self.widest_stop < 0.5 {
            let sentence =
                format!("a lens that opens to {} is not possible; give 0.5 or more", self.widest_stop);
            return Some(("widest_stop", sentence));
        }
        if self.f_stop < self.widest_stop || self.f_stop > NARROWEST_STOP {
            let sentence = format!(
                "this lens opens to {} and closes to {NARROWEST_STOP}; it has no stop {}",
                self.widest_stop, self.f_stop
            );
            return Some(("f_stop", sentence));
        }
        None
    }

    /// The lens as it stands when the camera is set up.
    pub fn lens(&self) -> LensState {
        LensState { focal_mm: self.focal_mm, focus_m: self.focus_m, f_stop: self.f_stop }
    }

    /// The frame on the sensor, millimetres wide and high: as large as it fits. A squeezed frame
    /// is narrower on the sensor than it is shown.
    pub fn frame_mm(&self) -> (f64, f64) {
        let on_sensor = self.frame_aspect / self.squeeze;
        if self.sensor_width_mm / self.sensor_height_mm <= on_sensor {
            (self.sensor_width_mm, self.sensor_width_mm / on_sensor)
        } else {
            (self.sensor_height_mm * on_sensor, self.sensor_height_mm)
        }
    }

    /// Half the frame at a distance of 1: to the right, and up. What is seen is within.
    pub fn half_frame(&self, focal_mm: f64) -> (f64, f64) {
        let (width, height) = self.frame_mm();
        (width * self.squeeze / 2.0 / focal_mm, height / 2.0 / focal_mm)
    }

    /// Focal length of this camera, millimetres, where `recorded` stood at `focal_mm`: a zoom goes by the same
    /// ratio to its start as far as this lens goes; a prime stays what it is.
    pub fn focal_instead(&self, recorded: &Camera, focal_mm: f64) -> f64 {
        (focal_mm * (self.focal_mm / recorded.focal_mm)).clamp(self.focal_min_mm, self.focal_max_mm)
    }

    /// The angles the frame sees across and up.
    pub fn field_of_view(&self, focal_mm: f64) -> (f64, f64) {
        let (x, y) = self.half_frame(focal_mm);
        (2.0 * x.atan(), 2.0 * y.atan())
    }

    /// The largest blur that still looks sharp, mm: the sensor's diagonal over 1500 (common
    /// practice, no source).
    pub fn confusion_mm(&self) -> f64 {
        self.sensor_width_mm.hypot(self.sensor_height_mm) / 1500.0
    }

    /// Puts a lens of a set on, at the focal length and focus nearest to where they were.
    pub fn with_lens(&self, set: &str, lens: &Lens) -> Camera {
        Camera {
            lens_set: set.into(),
            focal_min_mm: lens.focal_min_mm,
            focal_max_mm: lens.focal_max_mm,
            zoom_mm_s: lens.zoom_mm_s,
            focal_mm: self.focal_mm.clamp(lens.focal_min_mm, lens.focal_max_mm),
            closest_focus_m: lens.closest_focus_m,
            focus_m: self.focus_m.max(lens.closest_focus_m),
            widest_stop: lens.widest_stop,
            f_stop: self.f_stop.max(lens.widest_stop),
            squeeze: lens.squeeze,
            ..self.clone()
        }
    }
}

/// The angle that a lens sees across `extent_mm` of sensor, focused far: 2·atan(extent / 2f).
pub fn field_of_view(extent_mm: f64, focal_mm: f64) -> f64 {
    2.0 * (extent_mm / (2.0 * focal_mm)).atan()
}

/// The distance to focus at for everything behind it to be sharp, from the sensor, metres. From the
/// lens it is f²/(N·c) + f (the formula of camera handbooks, from memory).
pub fn hyperfocal(camera: &Camera, lens: LensState) -> f64 {
    let before = hyperfocal_of_lens(camera, lens);
    let f = lens.focal_mm / 1000.0;
    before + before * f / (before - f)
}

fn hyperfocal_of_lens(camera: &Camera, lens: LensState) -> f64 {
    let LensState { focal_mm, f_stop, .. } = lens;
    (focal_mm * focal_mm / (f_stop * camera.confusion_mm()) + focal_mm) / 1000.0
}

/// The nearest and farthest sharp distances, from the sensor as lenses are marked, metres. With s and H
/// from the lens (camera handbooks, from memory): near = s(H − f)/(H + s − 2f), far = s(H − f)/(H − s),
/// infinite from s = H on. A thin lens has its sharp image behind it at v, where 1/f = 1/s + 1/v; what
/// is marked is s + v, and never less than 4f.
pub fn depth_of_field(camera: &Camera, lens: LensState) -> (f64, f64) {
    let (f, marked) = (lens.focal_mm / 1000.0, lens.focus_m);
    let s = (marked + (marked * marked - 4.0 * marked * f).max(0.0).sqrt()) / 2.0;
    let behind = marked - s;
    let hyperfocal = hyperfocal_of_lens(camera, lens);
    let near = s * (hyperfocal - f) / (hyperfocal + s - 2.0 * f);
    let far = if s < hyperfocal { s * (hyperfocal - f) / (hyperfocal - s) } else { f64::INFINITY };
    (near + behind, far + behind)
}

/// A lens as a rental house lists it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct Lens {
    /// The shorter end; a prime has both the same.
    pub focal_min_mm: f64,
    /// Longer end, millimetres.
    pub focal_max_mm: f64,
    /// The zoom's top speed, millimetres a second.
    #[serde(default = "usual_zoom")]
    pub zoom_mm_s: f64,
    /// From the sensor.
    pub closest_focus_m: f64,
    /// The widest the iris opens.
    pub widest_stop: f64,
    /// Squeeze; 1 is spherical.
    #[serde(default = "spherical")]
    pub squeeze: f64,
}

fn usual_zoom() -> f64 {
    ZOOM_MM_S
}

fn spherical() -> f64 {
    1.0
}

/// Lenses that go together.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct LensSet {
    /// Name of the lens set.
    pub name: String,
    /// From short to long.
    pub lenses: Vec<Lens>,
}

impl LensSet {
    /// Checks every lens.
    pub fn check(&self) -> Result<(), Invalid> {
        params::name("a lens set", &self.name)?;
        if self.lenses.is_empty() || self.lenses.len() > 100 {
            return Err(Invalid::at("lenses", format!("the lens set {} needs 1 to 100 lenses", self.name)));
        }
        self.lenses.iter().try_for_each(|lens| {
            let wide = Camera {
                focal_mm: lens.focal_min_mm,
                focus_m: FOCUS_FAR_M,
                f_stop: NARROWEST_STOP,
                ..Camera::default().with_lens(&self.name, lens)
            };
            wide.check()
        })
    }

    /// The lens that has this focal length on it, or the next longer and the next shorter.
    pub fn around(&self, focal_mm: f64) -> Vec<&Lens> {
        let has = |l: &&Lens| l.focal_min_mm <= focal_mm && focal_mm <= l.focal_max_mm;
        if let Some(lens) = self.lenses.iter().find(has) {
            return vec![lens];
        }
        let shorter = self.lenses.iter().filter(|l| l.focal_max_mm < focal_mm);
        let longer = self.lenses.iter().filter(|l| l.focal_min_mm > focal_mm);
        let shorter = shorter.max_by(|a, b| a.focal_max_mm.total_cmp(&b.focal_max_mm));
        let longer = longer.min_by(|a, b| a.focal_min_mm.total_cmp(&b.focal_min_mm));
        shorter.into_iter().chain(longer).collect()
    }
}

/// The sets there are to begin with: lengths, focus and stops as such sets usually have them
/// (common practice, no source).
pub fn lens_sets() -> Vec<LensSet> {
    let set = |name: &str, squeeze: f64, lenses: &[(f64, f64, f64, f64)]| LensSet {
        name: name.into(),
        lenses: lenses
            .iter()
            .map(|&(focal_min_mm, focal_max_mm, closest_focus_m, widest_stop)| Lens {
                focal_min_mm,
                focal_max_mm,
                zoom_mm_s: ZOOM_MM_S,
                closest_focus_m,
                widest_stop,
                squeeze,
            })
            .collect(),
    };
    let primes = |lengths: &[(f64, f64)], stop: f64| -> Vec<(f64, f64, f64, f64)> {
        lengths.iter().map(|&(focal, closest)| (focal, focal, closest, stop)).collect()
    };
    let fast = [
        (14.0, 0.25),
        (18.0, 0.25),
        (21.0, 0.25),
        (25.0, 0.25),
        (32.0, 0.35),
        (40.0, 0.4),
        (50.0, 0.5),
        (65.0, 0.65),
        (75.0, 0.75),
        (100.0, 1.0),
        (135.0, 1.2),
        (150.0, 1.5),
    ];
    let wide = [(40.0, 0.7), (50.0, 0.85), (75.0, 1.0), (100.0, 1.1), (135.0, 1.3)];
    // 28 to 80 mm within 16 frames at 30 fps, from rest to rest (common practice, no source).
    let crash = Lens {
        focal_min_mm: 28.0,
        focal_max_mm: 80.0,
        zoom_mm_s: 400.0,
        closest_focus_m: 0.85,
        widest_stop: 2.8,
        squeeze: 1.0,
    };
    let small = [(8.0, 0.2), (12.0, 0.25), (16.0, 0.25), (25.0, 0.3), (35.0, 0.4), (50.0, 0.5)];
    vec![
        set("primes", 1.0, &primes(&fast, 1.4)),
        set("anamorphic primes", 2.0, &primes(&wide, 2.0)),
        set("16 mm primes", 1.0, &primes(&small, 1.4)),
        set(
            "zooms",
            1.0,
            &[
                (15.5, 45.0, 0.55, 2.8),
                (28.0, 80.0, 0.85, 2.8),
                (18.0, 100.0, 0.6, 2.8),
                (45.0, 250.0, 1.5, 4.0),
            ],
        ),
        LensSet { name: "crash zoom".into(), lenses: vec![crash] },
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn field_of_view_agrees_with_printed_tables() {
        // Values as printed in lens tables for 36 mm width (ISO 1007) and for 35 mm full aperture
        // (24.89 mm), from memory, rounded there to a tenth of a degree.
        for (width, focal, degrees) in [
            (36.0, 24.0, 73.7),
            (36.0, 35.0, 54.4),
            (36.0, 50.0, 39.6),
            (36.0, 85.0, 23.9),
            (24.89, 18.0, 69.3),
            (24.89, 25.0, 52.9),
            (24.89, 32.0, 42.5),
            (24.89, 50.0, 27.9),
            (24.89, 100.0, 14.2),
        ] {
            let seen = field_of_view(width, focal).to_degrees();
            assert!((seen - degrees).abs() <= 0.06, "{focal} mm: {seen}");
        }
    }

    fn at(focal_mm: f64, focus_m: f64) -> LensState {
        LensState { focal_mm, focus_m, f_stop: 4.0 }
    }

    #[test]
    fn depth_of_field_agrees_with_a_handbook_table() {
        // 50 mm at f/4 with a circle of confusion of 0.025 mm, worked by hand from the handbook
        // formulas (from memory): H = 2500/(4·0.025) + 50 = 25 050 mm before the lens;
        // at 3 m: near = 3000·25000/(25050+3000−100) = 2683.4, far = 3000·25000/22050 = 3401.4.
        let diagonal = 0.025_f64 * 1500.0;
        let camera =
            Camera { sensor_width_mm: diagonal * 0.8, sensor_height_mm: diagonal * 0.6, ..Camera::default() };
        assert!((camera.confusion_mm() - 0.025).abs() < 1e-12);
        // Behind the lens the picture of 3 m lies at 3·0.05/2.95 m, that of H at H·0.05/25 m.
        let behind = 0.15 / 2.95;
        assert!((hyperfocal(&camera, at(50.0, 3.0)) - (25.05 + 25.05 * 0.05 / 25.0)).abs() < 1e-9);
        let (near, far) = depth_of_field(&camera, at(50.0, 3.0 + behind));
        assert!(
            (near - behind - 2.6834).abs() < 1e-4 && (far - behind - 3.4014).abs() < 1e-4,
            "{near} {far}"
        );
        // A picture as large as the thing: 4f from sensor to thing, and no lens is marked nearer.
        let (near, far) = depth_of_field(&camera, at(50.0, 0.2));
        assert!(near < 0.2 && 0.2 < far && far - near < 0.001, "{near} {far}");
    }

    #[test]
    fn focused_at_the_hyperfocal_distance_half_of_it_to_infinity_is_sharp() {
        let camera = Camera::default();
        let h = hyperfocal(&camera, at(35.0, 3.0));
        let (near, far) = depth_of_field(&camera, at(35.0, h * (1.0 + 1e-12)));
        assert!((near - h / 2.0).abs() < 0.035 && far.is_infinite(), "{near} {h}");
    }

    #[test]
    fn the_frame_is_cut_from_the_sensor_as_large_as_it_fits() {
        let frame = |frame_aspect: f64, squeeze: f64| {
            Camera { frame_aspect, squeeze, ..Camera::default() }.frame_mm()
        };
        let close = |(a, b): (f64, f64), (c, d): (f64, f64)| (a - c).abs() < 1e-9 && (b - d).abs() < 1e-9;
        // Wide: the whole width. Upright: the whole height. 2× squeezed 2.39: 1.195 on the sensor.
        assert!(close(frame(2.39, 1.0), (24.89, 24.89 / 2.39)));
        assert!(close(frame(9.0 / 16.0, 1.0), (18.66 * 9.0 / 16.0, 18.66)));
        assert!(close(frame(2.39, 2.0), (18.66 * 1.195, 18.66)));
        let camera = Camera { squeeze: 2.0, ..Camera::default() };
        let (x, y) = camera.half_frame(50.0);
        assert!((x / y - 2.39).abs() < 1e-12);
    }

    #[test]
    fn a_lens_that_cannot_be_is_named() {
        assert_eq!(Camera::default().check(), Ok(()));
        assert!(
            Camera { focal_mm: 300.0, ..Camera::default() }.check().unwrap_err().sentence.contains("300")
        );
        assert!(Camera { f_stop: f64::NAN, ..Camera::default() }.check().is_err());
        assert!(Camera { f_stop: 1.4, ..Camera::default() }.check().unwrap_err().sentence.contains("2.8"));
        assert!(Camera { focus_m: 0.1, ..Camera::default() }.check().unwrap_err().sentence.contains("0.6"));
        assert!(
            Camera { frame_aspect: 9.0, ..Camera::default() }.check().unwrap_err().sentence.contains("9")
        );
        assert!(lens_sets().iter().all(|set| set.check().is_ok()));
        // Nothing is so small or so large, whatever it is.
        type Put = fn(&mut Camera, f64);
        let all: [Put; 12] = [
            |c, v| c.sensor_width_mm = v,
            |c, v| c.sensor_height_mm = v,
            |c, v| c.squeeze = v,
            |c, v| c.frame_aspect = v,
            |c, v| c.focal_min_mm = v,
            |c, v| c.focal_max_mm = v,
            |c, v| c.zoom_mm_s = v,
            |c, v| c.focal_mm = v,
            |c, v| c.closest_focus_m = v,
            |c, v| c.focus_m = v,
            |c, v| c.widest_stop = v,
            |c, v| c.f_stop = v,
        ];
        for (i, put) in all.into_iter().enumerate() {
            for value in [1e-308, 1e308, -1.0, 0.0, f64::NAN, f64::INFINITY] {
                let mut camera = Camera::default();
                put(&mut camera, value);
                assert!(camera.check().is_err(), "number {i} is {value}");
            }
        }
    }

    #[test]
    fn a_set_offers_the_lens_that_has_it_or_its_neighbours() {
        let sets = lens_sets();
        let lengths = |set: &LensSet, focal: f64| -> Vec<f64> {
            set.around(focal).iter().map(|l| l.focal_min_mm).collect()
        };
        assert_eq!(lengths(&sets[0], 36.0), [32.0, 40.0]);
        assert_eq!(lengths(&sets[0], 40.0), [40.0]);
        assert_eq!(lengths(&sets[0], 400.0), [150.0]);
        assert_eq!(lengths(&sets[0], 3.0), [14.0]);
        assert_eq!(lengths(&sets[3], 36.0), [15.5]);
    }
}
