//! The camera: sensor, frame and lens, and what they see.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A camera body with a lens on it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(default)]
pub struct Camera {
    /// Sensor width; 24.89 mm is 35 mm full aperture.
    pub sensor_width_mm: f64,
    /// Sensor height.
    pub sensor_height_mm: f64,
    /// Width over height of the frame that is cut from the sensor.
    pub frame_aspect: f64,
    /// The shorter end of the zoom.
    pub focal_min_mm: f64,
    /// The longer end of the zoom.
    pub focal_max_mm: f64,
    /// Where the zoom stands when the camera is set up.
    pub focal_mm: f64,
    /// The closest distance that can be sharp.
    pub closest_focus_m: f64,
    /// Where the focus stands when the camera is set up.
    pub focus_m: f64,
    /// The stop.
    pub f_stop: f64,
}

impl Default for Camera {
    fn default() -> Camera {
        Camera {
            sensor_width_mm: 24.89,
            sensor_height_mm: 18.66,
            frame_aspect: 2.39,
            focal_min_mm: 18.0,
            focal_max_mm: 100.0,
            focal_mm: 35.0,
            closest_focus_m: 0.6,
            focus_m: 5.0,
            f_stop: 4.0,
        }
    }
}

/// The farthest the focus axis goes; beyond it everything is infinity for these lenses.
pub const FOCUS_FAR_M: f64 = 60.0;

impl Camera {
    /// What about this camera cannot be, as a sentence.
    pub fn fault(&self) -> Option<String> {
        let all = [
            self.sensor_width_mm,
            self.sensor_height_mm,
            self.frame_aspect,
            self.focal_min_mm,
            self.focal_max_mm,
            self.focal_mm,
            self.closest_focus_m,
            self.focus_m,
            self.f_stop,
        ];
        if all.iter().any(|v| !v.is_finite() || *v <= 0.0) {
            return Some("every number of a camera must be greater than zero".into());
        }
        if self.focal_min_mm > self.focal_max_mm || self.focal_max_mm > 2000.0 || self.focal_min_mm < 2.0 {
            return Some("a lens goes from its shorter to its longer focal length, within 2–2000 mm".into());
        }
        if self.focal_mm < self.focal_min_mm || self.focal_mm > self.focal_max_mm {
            return Some(format!(
                "{} mm is not on this lens; it goes from {} to {} mm",
                self.focal_mm, self.focal_min_mm, self.focal_max_mm
            ));
        }
        if self.closest_focus_m > self.focus_m || self.focus_m > FOCUS_FAR_M {
            return Some(format!(
                "this lens focuses from {} m to {FOCUS_FAR_M} m, not at {} m",
                self.closest_focus_m, self.focus_m
            ));
        }
        None
    }
}

/// The angle that a lens sees across `extent_mm` of sensor, focused far: 2·atan(extent / 2f).
pub fn field_of_view(extent_mm: f64, focal_mm: f64) -> f64 {
    2.0 * (extent_mm / (2.0 * focal_mm)).atan()
}

/// The nearest and farthest sharp distances, metres, for a thin lens (the formulas of camera
/// handbooks, from memory): hyperfocal H = f²/(N·c) + f, near = s(H − f)/(H + s − 2f),
/// far = s(H − f)/(H − s), infinite from s = H on. The circle of confusion is the sensor's
/// diagonal over 1500.
pub fn depth_of_field(camera: &Camera, focal_mm: f64, focus_m: f64) -> (f64, f64) {
    let f = focal_mm / 1000.0;
    let confusion = camera.sensor_width_mm.hypot(camera.sensor_height_mm) / 1500.0 / 1000.0;
    let hyperfocal = f * f / (camera.f_stop * confusion) + f;
    let near = focus_m * (hyperfocal - f) / (hyperfocal + focus_m - 2.0 * f);
    let far = if focus_m < hyperfocal {
        focus_m * (hyperfocal - f) / (hyperfocal - focus_m)
    } else {
        f64::INFINITY
    };
    (near, far)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_full_frame_50_sees_39_6_degrees() {
        // 36 mm wide (ISO 1007), 50 mm: a value printed in lens tables (from memory).
        assert!((field_of_view(36.0, 50.0).to_degrees() - 39.6).abs() < 0.05);
    }

    #[test]
    fn focused_at_the_hyperfocal_distance_half_of_it_to_infinity_is_sharp() {
        let camera = Camera::default();
        let c = 24.89_f64.hypot(18.66) / 1500.0;
        let hyperfocal = (35.0 * 35.0 / (4.0 * c) + 35.0) / 1000.0;
        let (near, far) = depth_of_field(&camera, 35.0, hyperfocal * (1.0 + 1e-12));
        assert!((near - hyperfocal / 2.0).abs() < 1e-9 && far.is_infinite());
    }

    #[test]
    fn a_lens_that_cannot_be_is_named() {
        assert_eq!(Camera::default().fault(), None);
        assert!(Camera { focal_mm: 300.0, ..Camera::default() }.fault().unwrap().contains("300"));
        assert!(Camera { f_stop: f64::NAN, ..Camera::default() }.fault().is_some());
        assert!(Camera { focus_m: 0.1, ..Camera::default() }.fault().unwrap().contains("0.6"));
    }
}
