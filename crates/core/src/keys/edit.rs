//! What is done to keys that somebody has picked: set in by themselves, moved, scaled, repeated, eased,
//! closed. Everything is worked out on keys in shown units, as they are kept; what no edit names stays to
//! the bit.

use super::ease::Ease;
use super::{Curves, Picked, SAME_KEY_S, check, even};
use crate::axis::Unit;
use crate::curve::slope::smooth;
use crate::curve::{Curve, CurveKey, Side, THIRD};
use crate::list::List;
use crate::params::Invalid;
use crate::rigs::Rig;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use ts_rs::TS;

/// How a curve is to come to a key, or to leave it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum SideBy {
    /// By the neighbours, without overshoot.
    Smooth,
    /// Towards the neighbour.
    Straight,
    /// Flat side: slope 0.
    Flat,
    /// Stays until the neighbour, where the curve jumps.
    Hold,
    /// Free: slope as it is now; the two sides no longer follow each other.
    Free,
}

/// Fixed point of a scaling.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "by", deny_unknown_fields)]
pub enum About {
    /// The first picked key of each axis, and the time of the first of all.
    Start,
    /// The middle of what is picked, in time, and of each axis between its least and greatest value.
    Middle,
    /// A time, and what each axis is at then.
    At {
        /// Time of the fixed point, seconds.
        time_s: f64,
    },
    /// A value, in shown units, and the time of the first of all.
    Value {
        /// Shown units of each axis.
        value: f64,
    },
}

/// Edit of picked keys.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "do", deny_unknown_fields)]
pub enum KeyEdit {
    /// A key more on each picked axis, at a time; between keys the curve stays as it is.
    Insert {
        /// Time of the key, seconds.
        at_s: f64,
    },
    /// How curves come to the keys and leave them.
    Sides {
        /// The side before each key.
        before: bool,
        /// The side after it.
        after: bool,
        /// New kind of side.
        side: SideBy,
    },
    /// An ease between any two picked keys of an axis that stand beside one another.
    Ease {
        /// Ease between the keys.
        ease: Ease,
    },
    /// Later, and by a value more.
    Shift {
        /// Seconds; below 0 is earlier.
        by_s: f64,
        /// Shown units of each axis.
        by: f64,
    },
    /// Farther from, or nearer to, what stays.
    Scale {
        /// Factor on the distance in time.
        time: f64,
        /// Factor on the distance in value; below 0 the curve is turned over.
        value: f64,
        /// Fixed point of the scaling.
        about: About,
    },
    /// Once more after the last of them, and again, each time from where it ended.
    Repeat {
        /// Number of repeats.
        times: u32,
    },
    /// The times between the first and the last float, so that the way between is gone at an even speed.
    Even,
    /// The last key of each axis gets the value of the first, and both the same slope: for endless play.
    Close,
    /// Other keys, whose times count from `at_s`, in the place of what stands there.
    Paste {
        /// When the first of them is to stand, seconds.
        at_s: f64,
        /// Copied keys; the first one is at time 0.
        #[ts(type = "{ [axis: string]: Array<{ id: number } & CurveKey> }")]
        keys: Curves,
    },
}

/// Keys of an axis while something is done to them.
struct Row {
    /// The key's number, 0 for a new one; whether it is picked; the key.
    keys: Vec<(u32, bool, CurveKey)>,
}

impl Row {
    fn of(keys: &List<CurveKey>, picked: &BTreeSet<u32>) -> Row {
        let key = |(id, key): (&u32, &CurveKey)| (*id, picked.contains(id), *key);
        Row { keys: keys.ids().iter().zip(keys.iter()).map(key).collect() }
    }

    /// List in the order of time; new keys get unused numbers.
    fn list(mut self) -> List<CurveKey> {
        self.keys.sort_by(|a, b| a.2.time_s.total_cmp(&b.2.time_s));
        List::numbered(self.keys.iter().map(|k| k.2).collect(), self.keys.iter().map(|k| k.0).collect())
    }

    fn curve(&self) -> Option<Curve> {
        Curve::new(self.keys.iter().map(|k| k.2).collect()).ok()
    }

    fn picked(&self) -> impl Iterator<Item = &CurveKey> {
        self.keys.iter().filter(|k| k.1).map(|k| &k.2)
    }

    fn each(&mut self, mut of: impl FnMut(&mut CurveKey)) {
        self.keys.iter_mut().filter(|k| k.1).for_each(|k| of(&mut k.2));
    }

    /// True if two picked keys are neighbours.
    fn has_neighbours(&self) -> bool {
        self.keys.windows(2).any(|w| w[0].1 && w[1].1)
    }

    /// First and last picked key, where there are two.
    fn ends(&self) -> Option<(usize, usize)> {
        let first = self.keys.iter().position(|k| k.1)?;
        let last = self.keys.iter().rposition(|k| k.1)?;
        (first < last).then_some((first, last))
    }

    /// Takes the keys of `curve`, which may have one more.
    fn take(&mut self, curve: &Curve) {
        let known = |time_s: f64| self.keys.iter().find(|k| k.2.time_s == time_s);
        let key = |key: &CurveKey| known(key.time_s).map_or((0, true, *key), |k| (k.0, k.1, *key));
        self.keys = curve.keys().iter().map(key).collect();
    }
}

/// The last key and the first of a round that has come once more, as one.
fn joined(last: CurveKey, first: &CurveKey) -> CurveKey {
    CurveKey { after: first.after, ..last }
}

impl KeyEdit {
    /// The axes whose keys become others, with all of their keys. `curves` has the axes that are picked,
    /// in shown units.
    pub fn apply(&self, curves: &Curves, picked: &Picked, rig: &dyn Rig) -> Result<Curves, Invalid> {
        check(curves)?;
        if let KeyEdit::Even = self {
            return even::even(curves, picked, rig);
        }
        let empty = BTreeSet::new();
        let names: BTreeSet<&String> = match self {
            KeyEdit::Paste { keys, .. } => keys.keys().collect(),
            _ => picked.keys().collect(),
        };
        let mut rows: BTreeMap<&String, Row> = BTreeMap::new();
        for name in names {
            let keys = curves.get(name).cloned().unwrap_or_default();
            rows.insert(name, Row::of(&keys, picked.get(name).unwrap_or(&empty)));
        }
        if matches!(self, KeyEdit::Ease { .. }) && !rows.values().any(Row::has_neighbours) {
            return Err(Invalid::at("", "pick two keys of an axis that stand beside one another"));
        }
        let times = || rows.values().flat_map(|r| r.picked().map(|k| k.time_s));
        let (from_s, to_s) =
            (times().fold(f64::INFINITY, f64::min), times().fold(f64::NEG_INFINITY, f64::max));
        let around = (from_s, to_s);
        for (name, row) in &mut rows {
            let turns = rig.axes().iter().any(|a| a.name == **name && a.unit == Unit::Radians);
            self.row(name, row, around, turns)?;
        }
        let done: Curves = rows.into_iter().map(|(name, row)| (name.clone(), row.list())).collect();
        check(&done)?;
        Ok(done)
    }

    fn row(&self, name: &str, row: &mut Row, (from_s, to_s): (f64, f64), turns: bool) -> Result<(), Invalid> {
        match self {
            KeyEdit::Insert { at_s } => insert(row, *at_s),
            KeyEdit::Sides { before, after, side } => sides(row, *before, *after, *side),
            KeyEdit::Ease { ease } => {
                ease.check()?;
                eased(row, *ease);
            }
            KeyEdit::Shift { by_s, by } => {
                row.each(|k| (k.time_s, k.value) = (k.time_s + by_s, k.value + by))
            }
            KeyEdit::Scale { time, value, about } => {
                if !(1e-3..=1e3).contains(time) || !(-1e3..=1e3).contains(value) {
                    return Err(Invalid::at("", "scale by 0.001 to 1000 in time, -1000 to 1000 in value"));
                }
                let still = stays(row, *about, (from_s, to_s));
                row.each(|k| scale(k, still, *time, *value));
            }
            KeyEdit::Repeat { times } => {
                if !(1..=1000).contains(times) {
                    return Err(Invalid::at("times", "repeat keys 1 to 1000 times"));
                }
                repeat(name, row, *times)?;
            }
            KeyEdit::Close => close(row, turns),
            KeyEdit::Paste { at_s, keys } => paste(row, *at_s, keys.get(name).map_or(&[], |k| &k[..])),
            KeyEdit::Even => {}
        }
        Ok(())
    }
}

fn insert(row: &mut Row, at_s: f64) {
    let Some(curve) = row.curve() else { return };
    let Some(value) = curve.at(at_s) else { return };
    if row.keys.iter().any(|k| (k.2.time_s - at_s).abs() <= SAME_KEY_S) {
        return;
    }
    let more = curve.insert(at_s);
    if more.keys().len() > row.keys.len() {
        row.take(&more);
    } else {
        // Before the first key and after the last the curve stands: so it does with one more.
        let (first, last) = (0, row.keys.len() - 1);
        if at_s < row.keys[first].2.time_s {
            row.keys[first].2.before = Side::Flat;
        } else {
            row.keys[last].2.after = Side::Flat;
        }
        row.keys.push((0, true, CurveKey::smooth(at_s, value)));
    }
}

fn sides(row: &mut Row, before: bool, after: bool, side: SideBy) {
    let slopes: Vec<[(f64, f64); 2]> = row.curve().map_or(Vec::new(), |curve| curve.sides());
    for (i, (_, _, key)) in row.keys.iter_mut().enumerate().filter(|(_, k)| k.1) {
        let becomes = |place: usize| match side {
            SideBy::Smooth => Side::Smooth,
            SideBy::Straight => Side::Straight,
            SideBy::Flat => Side::Flat,
            SideBy::Hold => Side::Hold,
            SideBy::Free => slopes
                .get(i)
                .map_or(Side::Smooth, |both| Side::Free { slope: both[place].0, length: both[place].1 }),
        };
        if before {
            key.before = becomes(0);
        }
        if after {
            key.after = becomes(1);
        }
    }
}

fn eased(row: &mut Row, ease: Ease) {
    let mut keys: Vec<(u32, bool, CurveKey)> = Vec::with_capacity(row.keys.len());
    for next in &row.keys {
        match keys.last_mut() {
            Some(last) if last.1 && next.1 => {
                let mut laid = ease.between(&last.2, &next.2).into_iter();
                last.2 = laid.next().expect("an ease has two ends");
                keys.extend(laid.map(|key| (0, true, key)));
                let end = keys.last_mut().expect("it was just laid");
                end.0 = next.0;
            }
            _ => keys.push(*next),
        }
    }
    row.keys = keys;
}

/// The time and the value that stay while a row is scaled.
fn stays(row: &Row, about: About, (from_s, to_s): (f64, f64)) -> (f64, f64) {
    let first = row.picked().next().map_or(0.0, |k| k.value);
    match about {
        About::Start => (from_s, first),
        About::Middle => {
            let least = row.picked().map(|k| k.value).fold(f64::INFINITY, f64::min);
            let most = row.picked().map(|k| k.value).fold(f64::NEG_INFINITY, f64::max);
            ((from_s + to_s) / 2.0, (least + most) / 2.0)
        }
        About::At { time_s } => (time_s, row.curve().and_then(|c| c.at(time_s)).unwrap_or(first)),
        About::Value { value } => (from_s, value),
    }
}

fn scale(key: &mut CurveKey, (still_s, still): (f64, f64), time: f64, value: f64) {
    key.time_s = still_s + (key.time_s - still_s) * time;
    key.value = still + (key.value - still) * value;
    for side in [&mut key.before, &mut key.after] {
        if let Side::Free { slope, .. } = side {
            *slope *= value / time;
        }
    }
}

fn repeat(name: &str, row: &mut Row, times: u32) -> Result<(), Invalid> {
    let Some((first, last)) = row.ends() else {
        return Err(Invalid::at(
            "",
            format!("pick two keys of {name} or more to repeat what is between them"),
        ));
    };
    let round: Vec<CurveKey> = row.keys[first..=last].iter().filter(|k| k.1).map(|k| k.2).collect();
    let (begins, ends) = (round[0], round[round.len() - 1]);
    let (takes_s, rises) = (ends.time_s - begins.time_s, ends.value - begins.value);
    let until_s = ends.time_s + takes_s * f64::from(times);
    // What stood there makes room.
    row.keys.retain(|k| k.2.time_s <= ends.time_s || k.2.time_s > until_s);
    row.keys[last].2 = joined(ends, &begins);
    let at = last + 1;
    let mut more = Vec::new();
    for n in 1..=times {
        for key in &round[1..] {
            let n_s = f64::from(n);
            more.push((
                0,
                true,
                CurveKey { time_s: key.time_s + takes_s * n_s, value: key.value + rises * n_s, ..*key },
            ));
        }
        if n < times {
            let (_, _, key) = more.last_mut().expect("a round has two keys at the least");
            *key = joined(*key, &begins);
        }
    }
    row.keys.splice(at..at, more);
    Ok(())
}

fn close(row: &mut Row, turns: bool) {
    let Some((first, last)) = row.ends() else { return };
    let (a, b) = (row.keys[first].2, row.keys[last].2);
    // An angle ends as it began after any number of whole turns.
    let round = if turns { ((b.value - a.value) / 360.0).round() * 360.0 } else { 0.0 };
    row.keys[last].2.value = a.value + round;
    let mean = |i: usize, j: usize| {
        let (a, b) = (row.keys[i].2, row.keys[j].2);
        (b.time_s - a.time_s, (b.value - a.value) / (b.time_s - a.time_s))
    };
    let slope = if last - first > 1 { smooth(mean(last - 1, last), mean(first, first + 1)) } else { 0.0 };
    let side = Side::Free { slope, length: THIRD };
    row.keys[first].2.after = side;
    row.keys[last].2.before = side;
}

fn paste(row: &mut Row, at_s: f64, keys: &[CurveKey]) {
    let (Some(first), Some(last)) = (keys.first(), keys.last()) else { return };
    let covered = at_s + first.time_s - SAME_KEY_S..=at_s + last.time_s + SAME_KEY_S;
    row.keys.retain(|k| !covered.contains(&k.2.time_s));
    row.keys.extend(keys.iter().map(|k| (0, true, CurveKey { time_s: k.time_s + at_s, ..*k })));
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::Camera;
    use crate::rigs::{RigSpec, TelescopicCrane};

    fn crane() -> Box<dyn Rig> {
        RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
    }

    fn curves(axis: &str, of: &[(f64, f64)]) -> Curves {
        let keys = of.iter().map(|(t, v)| CurveKey::smooth(*t, *v)).collect();
        Curves::from([(axis.to_string(), keys)])
    }

    fn picked(axis: &str, ids: &[u32]) -> Picked {
        Picked::from([(axis.to_string(), ids.iter().copied().collect())])
    }

    const PANS: [(f64, f64); 4] = [(1.0, 0.0), (2.0, 10.0), (4.0, 40.0), (6.0, 30.0)];

    fn edited(edit: KeyEdit, ids: &[u32]) -> List<CurveKey> {
        let mut done = edit.apply(&curves("pan", &PANS), &picked("pan", ids), &*crane()).unwrap();
        done.remove("pan").unwrap()
    }

    fn places(keys: &List<CurveKey>) -> Vec<(f64, f64)> {
        keys.iter().map(|k| (k.time_s, k.value)).collect()
    }

    fn curve(keys: &List<CurveKey>) -> Curve {
        Curve::new(keys.to_vec()).unwrap()
    }

    #[test]
    fn a_key_set_in_changes_no_value_anywhere() {
        let before = curve(&curves("pan", &PANS)["pan"]);
        for at_s in [0.2, 1.5, 3.0, 5.9, 8.0] {
            let keys = edited(KeyEdit::Insert { at_s }, &[]);
            assert_eq!(keys.ids().len(), 5, "{at_s}");
            assert!([1, 2, 3, 4, 5].iter().all(|id| keys.ids().contains(id)));
            let after = curve(&keys);
            for k in 0..1000 {
                let t = f64::from(k) / 100.0;
                assert!((after.at(t).unwrap() - before.at(t).unwrap()).abs() < 1e-9, "{at_s} at {t}");
            }
        }
        assert_eq!(edited(KeyEdit::Insert { at_s: 2.0 }, &[]).len(), 4, "there is one already");
    }

    #[test]
    fn sides_become_what_is_asked_and_free_ones_leave_the_curve_as_it_is() {
        let all = |side| KeyEdit::Sides { before: true, after: true, side };
        let before = curve(&curves("pan", &PANS)["pan"]);
        let free = edited(all(SideBy::Free), &[1, 2, 3, 4]);
        assert!(free.iter().all(|k| matches!((k.before, k.after), (Side::Free { .. }, Side::Free { .. }))));
        for k in 0..700 {
            let t = f64::from(k) / 100.0;
            assert!((curve(&free).at(t).unwrap() - before.at(t).unwrap()).abs() < 1e-12);
        }
        let straight = curve(&edited(all(SideBy::Straight), &[1, 2]));
        assert!((straight.at(1.25).unwrap() - 2.5).abs() < 1e-12);
        let held = edited(KeyEdit::Sides { before: false, after: true, side: SideBy::Hold }, &[2]);
        assert_eq!(curve(&held).at(3.999), Some(10.0));
        assert_eq!(held[1].before, Side::Smooth);
        assert_eq!(curve(&edited(all(SideBy::Flat), &[2])).slope(2.0), 0.0);
    }

    #[test]
    fn keys_are_shifted_and_scaled_about_what_stays() {
        assert_eq!(
            places(&edited(KeyEdit::Shift { by_s: 0.5, by: -1.0 }, &[2, 3])),
            [(1.0, 0.0), (2.5, 9.0), (4.5, 39.0), (6.0, 30.0)]
        );
        // Past another one: the order is that of time, the numbers stay.
        let past = edited(KeyEdit::Shift { by_s: 3.0, by: 0.0 }, &[2]);
        assert_eq!((past.ids(), past[2].value), ([1, 3, 2, 4].as_slice(), 10.0));
        let scaled = |about| {
            let edit = KeyEdit::Scale { time: 0.5, value: -2.0, about };
            places(&edited(edit, &[2, 3]))[1..3].to_vec()
        };
        assert_eq!(scaled(About::Start), [(2.0, 10.0), (3.0, -50.0)]);
        assert_eq!(scaled(About::Middle), [(2.5, 55.0), (3.5, -5.0)]);
        assert_eq!(scaled(About::At { time_s: 4.0 }), [(3.0, 100.0), (4.0, 40.0)]);
        assert_eq!(scaled(About::Value { value: 0.0 }), [(2.0, -20.0), (3.0, -80.0)]);
        let nothing = KeyEdit::Scale { time: 0.0, value: 1.0, about: About::Start };
        assert!(nothing.apply(&curves("pan", &PANS), &picked("pan", &[1]), &*crane()).is_err());
    }

    #[test]
    fn what_would_stand_on_another_key_is_refused_and_names_the_axis() {
        let edit = KeyEdit::Shift { by_s: 2.0, by: 0.0 };
        let refused = edit.apply(&curves("pan", &PANS), &picked("pan", &[2]), &*crane()).unwrap_err();
        assert!(refused.sentence.contains("pan: keys 2 and 3"), "{}", refused.sentence);
        let early = KeyEdit::Shift { by_s: -2.0, by: 0.0 };
        assert!(early.apply(&curves("pan", &PANS), &picked("pan", &[1]), &*crane()).is_err());
    }

    #[test]
    fn a_repeated_round_goes_on_from_where_it_ended() {
        let keys = edited(KeyEdit::Repeat { times: 2 }, &[1, 2, 3]);
        assert_eq!(
            places(&keys),
            [(1.0, 0.0), (2.0, 10.0), (4.0, 40.0), (5.0, 50.0), (7.0, 80.0), (8.0, 90.0), (10.0, 120.0)],
            "what stood at 6 s made room"
        );
        assert_eq!(keys.ids()[..3], [1, 2, 3]);
    }

    #[test]
    fn a_closed_move_ends_as_it_began_in_value_and_in_speed() {
        let closed = edited(KeyEdit::Close, &[1, 2, 3, 4]);
        let c = curve(&closed);
        assert_eq!((closed[3].value, c.at(6.0)), (0.0, Some(0.0)));
        let slope = |t: f64| (c.at(t + 1e-6).unwrap() - c.at(t - 1e-6).unwrap()) / 2e-6;
        assert!((slope(1.0 + 1e-5) - slope(6.0 - 1e-5)).abs() < 1e-2);
        // An angle may have gone round; a length may not.
        let round = [(0.0, 10.0), (2.0, 200.0), (4.0, 365.0)];
        let end = |axis: &str| {
            let done = KeyEdit::Close.apply(&curves(axis, &round), &picked(axis, &[1, 2, 3]), &*crane());
            done.unwrap()[axis][2].value
        };
        assert_eq!((end("pan"), end("reach")), (370.0, 10.0));
    }

    #[test]
    fn what_is_pasted_takes_the_place_of_what_stood_there_and_the_rest_stays() {
        let keys = curves("pan", &[(0.0, 1.0), (2.5, 2.0)]);
        let pasted = edited(KeyEdit::Paste { at_s: 1.5, keys: keys.clone() }, &[]);
        assert_eq!(places(&pasted), [(1.0, 0.0), (1.5, 1.0), (4.0, 2.0), (6.0, 30.0)]);
        assert_eq!(pasted.ids(), [1, 5, 6, 4]);
        // Onto an axis without keys.
        let onto = KeyEdit::Paste { at_s: 0.0, keys: curves("boom", &[(0.0, 5.0)]) };
        let done = onto.apply(&Curves::new(), &Picked::new(), &*crane()).unwrap();
        assert_eq!(places(&done["boom"]), [(0.0, 5.0)]);
    }

    #[test]
    fn an_ease_lies_between_picked_neighbours_only() {
        let keys = edited(KeyEdit::Ease { ease: Ease::Bounce }, &[2, 3, 4]);
        assert_eq!(keys.len(), 4 + 2 * 3);
        assert_eq!(keys.ids()[..2], [1, 2]);
        let before = curve(&curves("pan", &PANS)["pan"]);
        let after = curve(&keys);
        assert_eq!(
            (after.at(2.0), after.at(4.0), after.at(6.0)),
            (before.at(2.0), before.at(4.0), before.at(6.0))
        );
        let apart = KeyEdit::Ease { ease: Ease::Soft };
        let refused = apart.apply(&curves("pan", &PANS), &picked("pan", &[1, 3]), &*crane()).unwrap_err();
        assert!(refused.sentence.contains("beside one another"), "{}", refused.sentence);
    }
}
