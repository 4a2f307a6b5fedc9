//! The same way at an even speed: keys keep their values, their times float.
//!
//! **Method.** The way that the camera goes between two times of keys is measured along finely cut
//! chords, in metres; where the camera only turns, in degrees; where it does neither, by what the picked
//! axes themselves go. Times are then laid out by the way gone, which changes the way a little, so this
//! is done again until nothing moves.

use super::{Curves, Keyed, Picked, SAME_KEY_S, check};
use crate::params::Invalid;
use crate::rigs::Rig;
use crate::space::Pose;

/// How finely the way from one key to the next is cut.
const CHORDS: usize = 240;
/// Rounds, at the most.
const ROUNDS: usize = 60;
/// A way shorter than this is none, metres or degrees.
const NO_WAY: f64 = 1e-3;

/// The axes that are picked, with the times of their inner picked keys so that the way from the first to
/// the last is gone at an even speed. Keys at one time stay at one time.
pub(super) fn even(curves: &Curves, picked: &Picked, rig: &dyn Rig) -> Result<Curves, Invalid> {
    let meant = |axis: &str, id: u32| picked.get(axis).is_some_and(|ids| ids.contains(&id));
    let mut times: Vec<f64> = curves
        .iter()
        .flat_map(|(axis, keys)| {
            let mine =
                move |(id, key): (&u32, &crate::curve::CurveKey)| meant(axis, *id).then_some(key.time_s);
            keys.ids().iter().zip(keys.iter()).filter_map(mine)
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times.dedup_by(|b, a| *b - *a <= SAME_KEY_S);
    if times.len() < 3 {
        return Err(Invalid::at(
            "",
            "pick keys at three times or more: those between the first and the last float",
        ));
    }
    let (first, last) = (times[0], times[times.len() - 1]);
    let place = |at: &[f64], time_s: f64| at.iter().position(|t| (t - time_s).abs() <= SAME_KEY_S);
    for (axis, keys) in curves.iter().filter(|(axis, _)| picked.contains_key(*axis)) {
        let stands = |(id, key): (&u32, &crate::curve::CurveKey)| {
            !meant(axis, *id) && key.time_s > first && key.time_s < last
        };
        if keys.ids().iter().zip(keys.iter()).any(stands) {
            let sentence = format!("{axis} has keys between these that are not picked; pick them too");
            return Err(Invalid::at(axis, sentence));
        }
    }
    let put = |at: &[f64]| -> Curves {
        let mut moved = curves.clone();
        moved.retain(|axis, _| picked.contains_key(axis));
        for (axis, keys) in &mut moved {
            let ids = keys.ids().to_vec();
            for (id, key) in ids.iter().zip(keys.iter_mut()) {
                if let Some(i) = place(&times, key.time_s).filter(|_| meant(axis, *id)) {
                    key.time_s = at[i];
                }
            }
        }
        moved
    };
    let mut at = times.clone();
    for _ in 0..ROUNDS {
        let mut all = curves.clone();
        all.extend(put(&at));
        let ways = ways(&all, picked, rig, &at);
        let whole: f64 = ways.iter().sum();
        let mut gone = 0.0;
        let mut farthest = 0.0_f64;
        for i in 1..at.len() - 1 {
            gone += ways[i - 1];
            let wanted = first + (last - first) * gone / whole;
            farthest = farthest.max((wanted - at[i]).abs());
            at[i] = wanted;
        }
        if farthest < 1e-9 {
            break;
        }
    }
    let done = put(&at);
    check(&done)?;
    Ok(done)
}

/// How far it is from each time to the next.
fn ways(curves: &Curves, picked: &Picked, rig: &dyn Rig, at: &[f64]) -> Vec<f64> {
    let keyed = Keyed::of(curves, rig, at[at.len() - 1]);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    let spans = at.windows(2).map(|w| {
        let rows = (0..=CHORDS).map(|k| keyed.row(w[0] + (w[1] - w[0]) * k as f64 / CHORDS as f64, &start));
        let rows: Vec<Vec<f64>> = rows.collect();
        let poses: Vec<Pose> = rows.iter().map(|row| rig.forward(row).camera).collect();
        let along = |of: &dyn Fn(usize) -> f64| (1..rows.len()).map(of).sum::<f64>();
        [
            along(&|k| poses[k].position.distance(poses[k - 1].position)),
            along(&|k| poses[k].angle_to(poses[k - 1]).to_degrees()),
            along(&|k| {
                let mine = |i: &usize| picked.contains_key(rig.axes()[*i].name);
                (0..start.len()).filter(mine).map(|i| (rows[k][i] - rows[k - 1][i]).abs()).sum()
            }),
        ]
    });
    let spans: Vec<[f64; 3]> = spans.collect();
    let whole = |by: usize| spans.iter().map(|s| s[by]).sum::<f64>();
    let by = (0..3).find(|by| whole(*by) > NO_WAY).unwrap_or(3);
    // Where nothing goes anywhere, times are as even as can be; a span in which nothing moves keeps a little.
    let least = if by < 3 { whole(by) * 1e-4 } else { 1.0 };
    spans.iter().map(|s| s.get(by).copied().unwrap_or(0.0).max(least)).collect()
}

#[cfg(test)]
mod tests {
    use super::super::KeyEdit;
    use super::*;
    use crate::curve::CurveKey;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, TelescopicCrane, TrackDolly};

    fn curves(of: &[(&str, &[(f64, f64)])]) -> Curves {
        let keys = |of: &[(f64, f64)]| of.iter().map(|(t, v)| CurveKey::smooth(*t, *v)).collect();
        of.iter().map(|(axis, of)| (axis.to_string(), keys(of))).collect()
    }

    fn all(curves: &Curves) -> Picked {
        curves.iter().map(|(axis, keys)| (axis.clone(), keys.ids().iter().copied().collect())).collect()
    }

    #[test]
    fn a_dolly_passes_its_inner_keys_when_it_has_gone_their_share_of_the_way() {
        let rig = RigSpec::TrackDolly(TrackDolly::default()).build(&Camera::default());
        let before = curves(&[("travel", &[(1.0, 0.0), (1.5, 4.0), (5.0, 5.0), (7.0, 6.0)])]);
        let after = KeyEdit::Even.apply(&before, &all(&before), &*rig).unwrap();
        let times: Vec<f64> = after["travel"].iter().map(|k| k.time_s).collect();
        for (is, want) in times.iter().zip([1.0, 5.0, 6.0, 7.0]) {
            assert!((is - want).abs() < 1e-6, "{times:?}");
        }
    }

    /// Swing and boom together: chords of the camera's own way between keys take times as their lengths.
    #[test]
    fn keys_at_one_time_stay_together_and_the_camera_goes_evenly() {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let before = curves(&[
            ("swing", &[(0.0, 0.0), (1.0, 30.0), (5.0, 40.0), (8.0, 90.0)]),
            ("boom", &[(0.0, 0.0), (1.0, 20.0), (5.0, 10.0), (8.0, 0.0)]),
        ]);
        let after = KeyEdit::Even.apply(&before, &all(&before), &*rig).unwrap();
        let keyed = Keyed::of(&after, &*rig, 8.0);
        let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
        let way = |from: f64, to: f64| {
            let at = |k: u32| keyed.row(from + (to - from) * f64::from(k) / 5000.0, &start);
            let step = |k: u32| {
                rig.forward(&at(k)).camera.position.distance(rig.forward(&at(k - 1)).camera.position)
            };
            (1..=5000).map(step).sum::<f64>() / (to - from)
        };
        let times: Vec<f64> = after["swing"].iter().map(|k| k.time_s).collect();
        assert_eq!(times, after["boom"].iter().map(|k| k.time_s).collect::<Vec<_>>());
        let speeds: Vec<f64> = times.windows(2).map(|w| way(w[0], w[1])).collect();
        for speed in &speeds {
            assert!((speed / speeds[0] - 1.0).abs() < 1e-3, "{speeds:?}");
        }
    }

    #[test]
    fn a_head_that_only_pans_is_evened_by_its_angle_and_too_few_keys_are_refused() {
        let rig = RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default());
        let before = curves(&[("zoom", &[(0.0, 28.0), (1.0, 60.0), (4.0, 92.0)])]);
        let after = KeyEdit::Even.apply(&before, &all(&before), &*rig).unwrap();
        assert!((after["zoom"][1].time_s - 2.0).abs() < 1e-6);
        let two = curves(&[("pan", &[(0.0, 0.0), (1.0, 60.0)])]);
        assert!(KeyEdit::Even.apply(&two, &all(&two), &*rig).is_err());
        let mut some = all(&before);
        some.get_mut("zoom").unwrap().remove(&2);
        assert!(KeyEdit::Even.apply(&before, &some, &*rig).is_err());
    }
}
