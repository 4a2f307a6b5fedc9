//! The one type for everything that changes over time: keys, and how it gets from one to the next.
//!
//! **Method.** Between two keys a curve is a cubic Bézier in (time, value). A side of a key says
//! which way the curve leaves it or comes to it: the inner point lies `length` of the span away,
//! along a slope. Time must never run back along a span, so that the curve has one value at each
//! time; it does not where the lengths a and b of its sides satisfy a + b − √(ab) ≤ 1, as all
//! lengths up to 1 do, and those of every part of such a span.
//!
//! With lengths of a third, a span is a cubic Hermite, whose value is had directly. Other lengths
//! give the eases (CSS Easing Functions Level 1 describes the same spans); the place along them is
//! found by Newton's method, kept between bounds, to 1e-15 of the span.
//!
//! Before the first key a curve has the first value, after the last key the last.

mod fit;
pub mod slope;

pub use fit::fit;

use serde::{Deserialize, Serialize};
use slope::{cubic, smooth};
use std::ops::RangeInclusive;
use ts_rs::TS;

/// The length of a side at which a span is a plain cubic Hermite.
pub const THIRD: f64 = 1.0 / 3.0;
/// Two keys are at least this far apart, seconds: never two at one time.
pub const APART_S: f64 = 1e-3;

/// One side of a key: how the curve comes to it, or leaves it.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "side")]
pub enum Side {
    /// By the neighbours, without overshoot ([`slope::smooth`]); flat at the first and last key.
    #[default]
    Smooth,
    /// Towards the neighbour.
    Straight,
    /// Flat side: slope 0.
    Flat,
    /// The value of this key all the way to the neighbour, where the curve jumps.
    Hold,
    /// Free side, as told.
    Free {
        /// Units of the value a second.
        slope: f64,
        /// Length of the side as a share of the span; 0 to 1 is always allowed.
        length: f64,
    },
}

/// A value at a time.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
pub struct CurveKey {
    /// Time of the key, seconds.
    pub time_s: f64,
    /// In the curve's own unit.
    pub value: f64,
    /// How the curve comes to it.
    #[serde(default)]
    pub before: Side,
    /// How the curve leaves it.
    #[serde(default)]
    pub after: Side,
}

impl CurveKey {
    /// A key that is smooth on both sides.
    pub fn smooth(time_s: f64, value: f64) -> CurveKey {
        CurveKey { time_s, value, before: Side::Smooth, after: Side::Smooth }
    }

    /// A key with the same slope on both sides, followed for a third of each span.
    pub fn joined(time_s: f64, value: f64, slope: f64) -> CurveKey {
        let side = Side::Free { slope, length: THIRD };
        CurveKey { time_s, value, before: side, after: side }
    }
}

/// Keys in order of time.
#[derive(Clone, Debug, Default, PartialEq, Serialize, TS)]
#[serde(transparent)]
#[ts(type = "Array<CurveKey>")]
pub struct Curve {
    keys: Vec<CurveKey>,
}

/// Why keys are no curve.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum NoCurve {
    /// Times must increase.
    #[error("keys {0} and {next} stand at the same time or out of order", next = .0 + 1)]
    Order(usize),
    /// A number is none, or a length is below 0 or far above 1.
    #[error("key {0} needs plain numbers, and lengths of 0 to 1")]
    Numbers(usize),
    /// Two sides reach so far past one another that time would run back.
    #[error("the sides between keys {0} and {next} are too long; give lengths of 0 to 1", next = .0 + 1)]
    Long(usize),
}

/// A span as a Bézier in time and value.
#[derive(Clone, Copy, Debug)]
struct Span {
    t: [f64; 4],
    v: [f64; 4],
    /// Both lengths are a third: time goes evenly along it.
    even: bool,
}

impl<'de> Deserialize<'de> for Curve {
    fn deserialize<D: serde::Deserializer<'de>>(from: D) -> Result<Curve, D::Error> {
        Curve::new(Vec::<CurveKey>::deserialize(from)?).map_err(serde::de::Error::custom)
    }
}

impl Curve {
    /// A curve through keys, whose times must increase by [`APART_S`] at least.
    ///
    /// ```
    /// use rovnek_core::curve::{Curve, CurveKey};
    /// let curve = Curve::new(vec![CurveKey::smooth(0.0, 1.0), CurveKey::smooth(2.0, 5.0)]).unwrap();
    /// assert_eq!((curve.at(-1.0), curve.at(1.0), curve.at(9.0)), (Some(1.0), Some(3.0), Some(5.0)));
    /// assert!(Curve::new(vec![CurveKey::smooth(1.0, 1.0), CurveKey::smooth(1.0, 5.0)]).is_err());
    /// ```
    pub fn new(keys: Vec<CurveKey>) -> Result<Curve, NoCurve> {
        let side = |s: &Side| match s {
            Side::Free { slope, length } => slope.is_finite() && (0.0..=2.0).contains(length),
            _ => true,
        };
        let plain =
            |k: &CurveKey| k.time_s.is_finite() && k.value.is_finite() && side(&k.before) && side(&k.after);
        if let Some(i) = keys.iter().position(|k| !plain(k)) {
            return Err(NoCurve::Numbers(i + 1));
        }
        if let Some(i) = keys.windows(2).position(|w| w[1].time_s - w[0].time_s < APART_S) {
            return Err(NoCurve::Order(i + 1));
        }
        let curve = Curve { keys };
        let long = (0..curve.keys.len().saturating_sub(1)).find(|k| !curve.runs_on(*k));
        long.map_or(Ok(curve), |k| Err(NoCurve::Long(k + 1)))
    }

    /// The keys, in order of time.
    pub fn keys(&self) -> &[CurveKey] {
        &self.keys
    }

    /// The value at any time, in the curve's unit; none without keys. At a jump, the value from then
    /// on. Exact at keys; between them to 1e-15 of the span's rise.
    pub fn at(&self, time_s: f64) -> Option<f64> {
        let (first, last) = (self.keys.first()?, self.keys.last()?);
        let k = self.span_at(time_s);
        Some(match k {
            _ if time_s <= first.time_s => first.value,
            _ if time_s >= last.time_s => last.value,
            k if self.keys[k].time_s == time_s => self.keys[k].value,
            k => match self.held(k) {
                Some(value) => value,
                None => self.span(k).at(time_s)[0],
            },
        })
    }

    /// The slope at any time, units a second; at a key, that of the side after it. 0 outside the
    /// keys and where the curve is held.
    pub fn slope(&self, time_s: f64) -> f64 {
        let (Some(first), Some(last)) = (self.keys.first(), self.keys.last()) else { return 0.0 };
        if time_s < first.time_s || time_s >= last.time_s {
            return 0.0;
        }
        let k = self.span_at(time_s);
        if self.held(k).is_some() { 0.0 } else { self.span(k).at(time_s)[1] }
    }

    /// Slope and length of both sides of each key, as the curve has them.
    pub fn sides(&self) -> Vec<[(f64, f64); 2]> {
        (0..self.keys.len()).map(|k| [self.side(k, false), self.side(k, true)]).collect()
    }

    /// The times at which the value jumps, which nothing may be smoothed or read across.
    pub fn cuts(&self) -> Vec<f64> {
        let jump = |k: usize| {
            let (a, b) = (&self.keys[k], &self.keys[k + 1]);
            let held = self.held(k)?;
            (a.value != b.value).then_some(if held == a.value { b.time_s } else { a.time_s })
        };
        (0..self.keys.len().saturating_sub(1)).filter_map(jump).collect()
    }

    /// The same curve with one more key, at a time between the first and the last; it stays as it
    /// is (1e-12 of the values). The sides that face the new key become free; so does a smooth side
    /// behind them, whose slope went by who stood next.
    ///
    /// ```
    /// use rovnek_core::curve::{Curve, CurveKey};
    /// let curve = Curve::new(vec![CurveKey::smooth(0.0, 0.0), CurveKey::smooth(4.0, 8.0)]).unwrap();
    /// let more = curve.insert(1.0);
    /// assert_eq!(more.keys().len(), 3);
    /// assert!((more.at(0.5).unwrap() - curve.at(0.5).unwrap()).abs() < 1e-12);
    /// ```
    pub fn insert(&self, time_s: f64) -> Curve {
        let k = self.span_at(time_s);
        let near = |key: &CurveKey| (key.time_s - time_s).abs() < APART_S;
        if self.keys.len() < 2
            || !(self.keys[0].time_s..self.keys[self.keys.len() - 1].time_s).contains(&time_s)
            || near(&self.keys[k])
            || near(&self.keys[k + 1])
        {
            return self.clone();
        }
        let mut keys = self.keys.clone();
        if let Some(value) = self.held(k) {
            let held = CurveKey { time_s, value, before: Side::Hold, after: Side::Hold };
            // What held from one end goes on holding from the new key to the same end.
            let (before, after) = match self.keys[k].after {
                Side::Hold => (Side::Straight, Side::Hold),
                _ => (Side::Hold, Side::Straight),
            };
            keys.insert(k + 1, CurveKey { before, after, ..held });
            return Curve { keys };
        }
        let span = self.span(k);
        let (left, right) = span.split(span.share(time_s));
        keys[k] = self.frozen(k);
        keys[k + 1] = self.frozen(k + 1);
        keys[k].after = left.leaving();
        keys[k + 1].before = right.arriving();
        keys.insert(
            k + 1,
            CurveKey { time_s, value: left.v[3], before: left.arriving(), after: right.leaving() },
        );
        Curve { keys }
    }

    /// What lies within a range of time, with a key at each end of it; the same there as the whole
    /// (1e-12 of the values).
    pub fn part(&self, range: RangeInclusive<f64>) -> Curve {
        let both = self.insert(*range.start()).insert(*range.end());
        let within =
            |k: &usize| (range.start() - APART_S..=range.end() + APART_S).contains(&both.keys[*k].time_s);
        let all: Vec<usize> = (0..both.keys.len()).filter(within).collect();
        let at_end = |k: usize| Some(&k) == all.first() || Some(&k) == all.last();
        let key = |k: &usize| if at_end(*k) { both.frozen(*k) } else { both.keys[*k] };
        Curve { keys: all.iter().map(key).collect() }
    }

    /// From 0 to 1 in a second, as `cubic-bezier(x1, y1, x2, y2)` of CSS Easing Functions Level 1.
    /// Where an x is at its end (0, or 1 for the second) its y must be there too.
    pub fn ease(x1: f64, y1: f64, x2: f64, y2: f64) -> Curve {
        let side = |x: f64, y: f64| Side::Free { slope: if x > 0.0 { y / x } else { 0.0 }, length: x };
        let from = CurveKey { after: side(x1, y1), ..CurveKey::smooth(0.0, 0.0) };
        let to = CurveKey { before: side(1.0 - x2, 1.0 - y2), ..CurveKey::smooth(1.0, 1.0) };
        Curve { keys: vec![from, to] }
    }

    /// The key at or before a time, but never the last one: where a span begins.
    fn span_at(&self, time_s: f64) -> usize {
        let after = self.keys.partition_point(|k| k.time_s <= time_s);
        after.saturating_sub(1).min(self.keys.len().saturating_sub(2))
    }

    /// The value that a span has all along, where one of its sides holds.
    fn held(&self, k: usize) -> Option<f64> {
        match (self.keys[k].after, self.keys[k + 1].before) {
            (Side::Hold, _) => Some(self.keys[k].value),
            (_, Side::Hold) => Some(self.keys[k + 1].value),
            _ => None,
        }
    }

    /// Whether time never runs back along a span: 3(1−u)²·a + 6u(1−u)·(1−a−b) + 3u²·b is nowhere
    /// below 0.
    fn runs_on(&self, k: usize) -> bool {
        let ((_, a), (_, b)) = (self.side(k, true), self.side(k + 1, false));
        a + b - (a * b).sqrt() <= 1.0 + 1e-9
    }

    /// Width and mean slope of a span.
    fn mean(&self, k: usize) -> (f64, f64) {
        let (a, b) = (&self.keys[k], &self.keys[k + 1]);
        let h = b.time_s - a.time_s;
        (h, (b.value - a.value) / h)
    }

    /// Slope and length of a side of a key.
    fn side(&self, k: usize, after: bool) -> (f64, f64) {
        let key = &self.keys[k];
        let inner = k > 0 && k + 1 < self.keys.len();
        match if after { key.after } else { key.before } {
            Side::Free { slope, length } => (slope, length),
            Side::Smooth if inner && self.both(k) => (smooth(self.mean(k - 1), self.mean(k)), THIRD),
            Side::Straight if after && k + 1 < self.keys.len() => (self.mean(k).1, THIRD),
            Side::Straight if !after && k > 0 => (self.mean(k - 1).1, THIRD),
            _ => (0.0, THIRD),
        }
    }

    /// True if the curve goes through a key, rather than being held up to it or from it on.
    fn both(&self, k: usize) -> bool {
        self.held(k - 1).is_none() && self.held(k).is_none()
    }

    /// A key whose smooth sides are free, so that they stay when its neighbours change.
    fn frozen(&self, k: usize) -> CurveKey {
        let stays = |side: Side, after: bool| match (side, self.side(k, after)) {
            (Side::Smooth, (slope, length)) => Side::Free { slope, length },
            (other, _) => other,
        };
        let key = self.keys[k];
        CurveKey { before: stays(key.before, false), after: stays(key.after, true), ..key }
    }

    fn span(&self, k: usize) -> Span {
        let (a, b) = (&self.keys[k], &self.keys[k + 1]);
        let h = b.time_s - a.time_s;
        let ((s0, l0), (s1, l1)) = (self.side(k, true), self.side(k + 1, false));
        Span {
            t: [a.time_s, a.time_s + l0 * h, b.time_s - l1 * h, b.time_s],
            v: [a.value, a.value + l0 * h * s0, b.value - l1 * h * s1, b.value],
            even: l0 == THIRD && l1 == THIRD,
        }
    }
}

impl Span {
    /// Value and slope at a time within it.
    fn at(&self, time_s: f64) -> [f64; 2] {
        let u = self.share(time_s);
        let h = self.t[3] - self.t[0];
        let (m, n) = (3.0 * (self.v[1] - self.v[0]), 3.0 * (self.v[3] - self.v[2]));
        let [value, dv, ddv] = cubic(self.v[0], self.v[3] - self.v[0], m, n, u);
        if self.even {
            return [value, dv / h];
        }
        let [_, dt, ddt] = self.time(u);
        // Where an inner point lies on its key, both derivatives are 0 there: the next ones say it.
        [value, if dt > 1e-12 * h { dv / dt } else { ddv / ddt }]
    }

    /// Time at a share of the way, with its derivatives.
    fn time(&self, u: f64) -> [f64; 3] {
        let (m, n) = (3.0 * (self.t[1] - self.t[0]), 3.0 * (self.t[3] - self.t[2]));
        cubic(self.t[0], self.t[3] - self.t[0], m, n, u)
    }

    /// The share of the way at a time.
    fn share(&self, time_s: f64) -> f64 {
        let h = self.t[3] - self.t[0];
        let even = ((time_s - self.t[0]) / h).clamp(0.0, 1.0);
        if self.even {
            return even;
        }
        let (mut low, mut high, mut u) = (0.0_f64, 1.0_f64, even);
        for _ in 0..80 {
            let [t, dt, _] = self.time(u);
            if t == time_s {
                return u;
            }
            if t > time_s {
                high = u
            } else {
                low = u
            }
            let newton = u - (t - time_s) / dt;
            let next = if newton > low && newton < high { newton } else { (low + high) / 2.0 };
            if (next - u).abs() <= f64::EPSILON / 2.0 {
                return next;
            }
            u = next;
        }
        u
    }

    /// The two spans that it is made of, cut at a share of the way (de Casteljau).
    fn split(&self, u: f64) -> (Span, Span) {
        let cut = |p: [f64; 4]| {
            let mix = |a: f64, b: f64| a + (b - a) * u;
            let [ab, bc, cd] = [mix(p[0], p[1]), mix(p[1], p[2]), mix(p[2], p[3])];
            let [abc, bcd] = [mix(ab, bc), mix(bc, cd)];
            let middle = mix(abc, bcd);
            ([p[0], ab, abc, middle], [middle, bcd, cd, p[3]])
        };
        let ((t0, t1), (v0, v1)) = (cut(self.t), cut(self.v));
        (Span { t: t0, v: v0, even: self.even }, Span { t: t1, v: v1, even: self.even })
    }

    /// How it leaves its first key.
    fn leaving(&self) -> Side {
        self.free(self.t[1] - self.t[0], self.v[1] - self.v[0])
    }

    /// How it comes to its last key.
    fn arriving(&self) -> Side {
        self.free(self.t[3] - self.t[2], self.v[3] - self.v[2])
    }

    fn free(&self, dt: f64, dv: f64) -> Side {
        let length = if self.even { THIRD } else { (dt / (self.t[3] - self.t[0])).max(0.0) };
        Side::Free { slope: if dt > 0.0 { dv / dt } else { 0.0 }, length }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn curve(keys: Vec<CurveKey>) -> Curve {
        Curve::new(keys).unwrap()
    }

    /// Worked values of the keywords of CSS Easing Functions Level 1: `ease`, `ease-in`,
    /// `ease-out`, `ease-in-out`; half way the last is at a half by its symmetry, and `ease-in` at t
    /// is one less `ease-out` at 1 − t.
    #[test]
    fn css_keywords_are_what_the_standard_says() {
        let [ease_in, out, both] = [(0.42, 0.0, 1.0, 1.0), (0.0, 0.0, 0.58, 1.0), (0.42, 0.0, 0.58, 1.0)]
            .map(|(a, b, c, d)| Curve::ease(a, b, c, d));
        assert!((both.at(0.5).unwrap() - 0.5).abs() < 1e-15);
        for i in 0..=20 {
            let t = f64::from(i) / 20.0;
            assert!((ease_in.at(t).unwrap() - (1.0 - out.at(1.0 - t).unwrap())).abs() < 1e-14);
            // The parametric form of the standard, solved by bisection.
            for (x1, y1, x2, y2) in [(0.25, 0.1, 0.25, 1.0), (0.42, 0.0, 0.58, 1.0), (0.1, -0.6, 0.9, 1.6)] {
                let at = |u: f64, a: f64, b: f64| {
                    3.0 * (1.0 - u) * (1.0 - u) * u * a + 3.0 * (1.0 - u) * u * u * b + u * u * u
                };
                let (mut low, mut high) = (0.0, 1.0);
                for _ in 0..100 {
                    let middle = (low + high) / 2.0;
                    if at(middle, x1, x2) < t { low = middle } else { high = middle }
                }
                let wanted = at(low, y1, y2);
                let got = Curve::ease(x1, y1, x2, y2).at(t).unwrap();
                assert!((got - wanted).abs() < 1e-9, "{t} {got} {wanted}");
            }
        }
    }

    #[test]
    fn a_hold_keeps_its_value_and_jumps_and_the_jump_is_a_cut() {
        let held = CurveKey { after: Side::Hold, ..CurveKey::smooth(1.0, 3.0) };
        let c = curve(vec![
            CurveKey::smooth(0.0, 0.0),
            held,
            CurveKey::smooth(2.0, 7.0),
            CurveKey::smooth(3.0, 8.0),
        ]);
        assert_eq!((c.at(1.999), c.at(2.0), c.slope(1.5)), (Some(3.0), Some(7.0), 0.0));
        assert_eq!(c.cuts(), [2.0]);
        // What is held up to or from does not lean towards the other side of the jump.
        assert_eq!(c.side(2, true).0, 0.0);
        let before = CurveKey { before: Side::Hold, ..CurveKey::smooth(2.0, 7.0) };
        let c = curve(vec![CurveKey::smooth(0.0, 0.0), CurveKey::smooth(1.0, 3.0), before]);
        assert_eq!((c.at(1.0), c.at(1.001), c.cuts()), (Some(3.0), Some(7.0), vec![1.0]));
    }

    #[test]
    fn straight_sides_run_straight_and_flat_ones_start_and_stop() {
        let side = |key: CurveKey, side: Side| CurveKey { before: side, after: side, ..key };
        let c = curve([0.0, 1.0, 4.0].map(|t| side(CurveKey::smooth(t, t * t), Side::Straight)).to_vec());
        assert!((c.at(2.5).unwrap() - 8.5).abs() < 1e-12 && (c.slope(2.0) - 5.0).abs() < 1e-12);
        let c = curve([0.0, 1.0].map(|t| side(CurveKey::smooth(t, t), Side::Flat)).to_vec());
        assert_eq!((c.slope(0.0), c.at(0.5), c.slope(0.5)), (0.0, Some(0.5), 1.5));
    }

    #[test]
    fn what_is_no_curve_is_refused_with_the_key() {
        let refused = |keys: Vec<CurveKey>| Curve::new(keys).unwrap_err().to_string();
        assert!(
            refused(vec![CurveKey::smooth(1.0, 0.0), CurveKey::smooth(1.0005, 0.0)]).contains("keys 1 and 2")
        );
        assert!(refused(vec![CurveKey::smooth(0.0, 0.0), CurveKey::smooth(1.0, f64::NAN)]).contains("key 2"));
        let long = Side::Free { slope: 1.0, length: 1.5 };
        let keys = vec![CurveKey { after: long, ..CurveKey::smooth(0.0, 0.0) }, CurveKey::smooth(1.0, 0.0)];
        assert!(refused(keys).contains("between keys 1 and 2 are too long"));
        let back = Side::Free { slope: 1.0, length: -0.5 };
        assert!(refused(vec![CurveKey { after: back, ..CurveKey::smooth(0.0, 0.0) }]).contains("key 1"));
        let json = r#"[{"time_s":0,"value":1},{"time_s":0,"value":2}]"#;
        assert!(serde_json::from_str::<Curve>(json).is_err());
        assert_eq!((Curve::default().at(1.0), Curve::default().slope(1.0)), (None, 0.0));
    }

    fn side() -> impl Strategy<Value = Side> {
        prop_oneof![
            3 => Just(Side::Smooth),
            1 => Just(Side::Straight),
            1 => Just(Side::Flat),
            1 => Just(Side::Hold),
            4 => (-20.0..20.0f64, 0.0..=1.0f64).prop_map(|(slope, length)| Side::Free { slope, length }),
        ]
    }

    fn any_curve() -> impl Strategy<Value = Curve> {
        prop::collection::vec((0.01..3.0f64, -10.0..10.0f64, side(), side()), 2..8).prop_map(|list| {
            let mut time_s = 0.0;
            let key = |(step, value, before, after)| {
                time_s += step;
                CurveKey { time_s, value, before, after }
            };
            Curve::new(list.into_iter().map(key).collect()).unwrap()
        })
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(10_000))]

        /// One value at each time: time never runs back along a span, and what is found for a time
        /// is at that time.
        #[test]
        fn every_curve_has_one_value_at_each_time(c in any_curve(), u in 0.0..1.0f64, w in 0.0..1.0f64) {
            for k in 0..c.keys.len() - 1 {
                let span = c.span(k);
                let (a, b) = (u.min(w), u.max(w));
                prop_assert!(span.time(a)[0] <= span.time(b)[0] + 1e-12);
                let t = span.t[0] + (span.t[3] - span.t[0]) * u;
                prop_assert!((span.time(span.share(t))[0] - t).abs() < 1e-12);
            }
        }

        #[test]
        fn a_key_more_changes_nothing(c in any_curve(), at in 0.0..1.0f64, looks in prop::collection::vec(0.0..1.0f64, 20)) {
            let (from, to) = (c.keys[0].time_s, c.keys[c.keys.len() - 1].time_s);
            let time = |s: f64| from + (to - from) * s;
            let more = c.insert(time(at));
            prop_assert!(Curve::new(more.keys.clone()).is_ok());
            let part = c.part(time(at / 2.0)..=time(0.5 + at / 2.0));
            for s in looks {
                let t = time(s);
                let (was, is) = (c.at(t).unwrap(), more.at(t).unwrap());
                prop_assert!((was - is).abs() < 1e-12 * 100.0, "{} {} at {}", was, is, t);
                if t > time(at / 2.0) + APART_S && t < time(0.5 + at / 2.0) - APART_S {
                    prop_assert!((was - part.at(t).unwrap()).abs() < 1e-12 * 100.0);
                }
            }
        }

        /// Fritsch & Butland: what is smooth never leaves the span between two neighbouring values.
        #[test]
        fn smooth_keys_do_not_overshoot(values in prop::collection::vec((0.01..3.0f64, -10.0..10.0f64), 2..8), u in 0.0..1.0f64) {
            let mut time_s = 0.0;
            let keys = values.iter().map(|(step, v)| { time_s += step; CurveKey::smooth(time_s, *v) }).collect();
            let c = curve(keys);
            for w in c.keys.windows(2) {
                let v = c.at(w[0].time_s + (w[1].time_s - w[0].time_s) * u).unwrap();
                let (low, high) = (w[0].value.min(w[1].value), w[0].value.max(w[1].value));
                prop_assert!(v >= low - 1e-12 && v <= high + 1e-12);
            }
        }
    }
}
