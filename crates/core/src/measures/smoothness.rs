//! Two published figures of how smooth a movement is, each of a speed over time: spectral arc length
//! and log dimensionless jerk, as defined in Balasubramanian, Melendez-Calderon, Roby-Brami, Burdet,
//! "On the analysis of movement smoothness", J. NeuroEng. Rehabil. 12:112 (2015). Both are negative,
//! and nearer to zero is smoother.
//!
//! **What they cannot say.** Both were made for one stroke of an arm that begins and ends at rest.
//! Spectral arc length measures how ragged the *spectrum* of the speed is: a jump within one sample
//! has the calmest spectrum there is and scores best, and a constant speed, cut out of a longer run,
//! scores worse than a soft start and stop. Log dimensionless jerk grows with the length of a take by
//! its third power, whatever happens in it. So they compare a move with its own raw take, over the
//! same time; they do not rank different moves. For that, shake is the figure. `cargo test -p
//! rovnek-core ranking -- --nocapture` shows all of them on ten known moves.

use crate::filter::LowSpectrum;

/// The spectrum is looked at so far, Hz.
const UP_TO_HZ: f64 = 10.0;
/// The spectrum counts where it rises over this share of its peak.
const RISES_OVER: f64 = 0.05;

/// Spectral arc length, with the paper's parameters: spectrum to 10 Hz, padded to 2⁴ times the next power
/// of two, kept where it rises over 5 % of its peak. Prepared for speed profiles of one length.
pub(super) struct SpectralArc(LowSpectrum);

impl SpectralArc {
    /// For so many speeds; none where there are too few.
    pub fn new(count: usize, rate_hz: f64) -> Option<SpectralArc> {
        if count < 2 || rate_hz <= 0.0 {
            return None;
        }
        let padded = count.next_power_of_two() << 4;
        let step_hz = rate_hz / padded as f64;
        let bins = (0..=padded / 2).take_while(|i| *i as f64 * step_hz <= UP_TO_HZ).count();
        Some(SpectralArc(LowSpectrum::new(count, padded, bins)))
    }

    /// Of a speed profile; none where nothing moves.
    pub fn of(&self, speeds: &[f64]) -> Option<f64> {
        if speeds.iter().all(|v| *v == 0.0) {
            return None;
        }
        // A speed is never negative, so nothing of its spectrum is greater than what stands first.
        let spectrum = self.0.magnitudes(speeds);
        let peak = spectrum.iter().copied().fold(0.0, f64::max);
        let kept: Vec<f64> = spectrum.iter().map(|m| m / peak).collect();
        let first = kept.iter().position(|m| *m >= RISES_OVER)?;
        let last = kept.iter().rposition(|m| *m >= RISES_OVER)?;
        let share = 1.0 / (last - first) as f64;
        Some(-kept[first..=last].windows(2).map(|w| share.hypot(w[1] - w[0])).sum::<f64>())
    }
}

/// Spectral arc length of a speed profile.
pub fn spectral_arc_length(speeds: &[f64], rate_hz: f64) -> Option<f64> {
    SpectralArc::new(speeds.len(), rate_hz)?.of(speeds)
}

/// Log dimensionless jerk of a speed profile: −ln(T³/v²ₚ · ∫ v̈² dt), with T the time and vₚ the
/// greatest speed. None where nothing moves, or nothing changes its speed.
pub fn log_dimensionless_jerk(speeds: &[f64], rate_hz: f64) -> Option<f64> {
    let peak = speeds.iter().copied().fold(0.0, f64::max);
    if speeds.len() < 3 || rate_hz <= 0.0 || peak == 0.0 {
        return None;
    }
    let step = 1.0 / rate_hz;
    let bends = speeds.windows(3).map(|w| ((w[2] - 2.0 * w[1] + w[0]) / step.powi(2)).powi(2));
    let jerk = bends.sum::<f64>() * step * (speeds.len() as f64 * step).powi(3) / peak.powi(2);
    (jerk > 1e-12).then(|| -jerk.ln())
}
