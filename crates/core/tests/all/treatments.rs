//! Scope, soft edges and strength, done once for every kind of treatment; cuts; descriptions.

use crate::common::walks;
use rovnek_core::axis::Axis;
use rovnek_core::curve::{Curve, CurveKey};
use rovnek_core::ids::PerformanceId;
use rovnek_core::lens::Camera;
use rovnek_core::motion::{Context, Motion, Playing};
use rovnek_core::params::{Holds, Param};
use rovnek_core::performer::Clips;
use rovnek_core::playing::PerformanceTimeline;
use rovnek_core::rigs::{Rig, RigSpec, TelescopicCrane, TrackedCamera};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{
    Interval, KeyEvery, Scope, Smooth, SmoothBy, Span, Strength, Treatment, TreatmentKind, check_list,
};

const HZ: f64 = 120.0;

fn crane() -> Box<dyn Rig> {
    RigSpec::TelescopicCrane(TelescopicCrane::default()).build(&Camera::default())
}

/// Eight seconds of a crane in shaky hands.
fn motion(rig: &dyn Rig) -> Motion {
    let width = rig.axes().len();
    let row = |k: usize| {
        let t = k as f64 / HZ;
        let lens = move |i: usize| if i + 3 >= width { 2.0 + i as f64 } else { 0.0 };
        (0..width).map(move |i| lens(i) + (0.3 * t + i as f64).sin() + 0.02 * (t * (17.0 + i as f64)).sin())
    };
    Motion::of(Samples::new(HZ, width, (0..=960).flat_map(row).collect()), rig.axes())
}

fn kinds() -> Vec<TreatmentKind> {
    let by = Some(SmoothBy::Binomial { passes: 200 });
    vec![
        TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: by }),
        TreatmentKind::Keys(KeyEvery { every: Interval::Seconds(0.7) }),
    ]
}

const SPAN: Span = Span { from_s: 2.0, to_s: 6.0, ease_in_s: 0.5, ease_out_s: 1.0 };

#[test]
fn outside_its_soft_edges_a_treatment_changes_no_bit_and_inside_it_is_whole() {
    let rig = crane();
    let (before, context) = (motion(&*rig), Context::of(&*rig, &Camera::default(), Rate::FILM));
    for kind in kinds() {
        let whole = Treatment::from(kind.clone()).apply(&before, &context);
        let scope = Scope { axes: Some(vec!["swing".into(), "pan".into()]), range: Some(SPAN) };
        let scoped = Treatment { scope, ..kind.into() }.apply(&before, &context);
        for (i, axis) in rig.axes().iter().enumerate() {
            for k in 0..before.samples.len() {
                let t = k as f64 / HZ;
                let (old, new) = (before.samples.row(k)[i], scoped.samples.row(k)[i]);
                let meant = axis.name == "swing" || axis.name == "pan";
                if !meant || t <= 2.0 || t >= 6.0 {
                    assert_eq!(old.to_bits(), new.to_bits(), "{} at {t}", axis.name);
                } else if (2.5..=5.0).contains(&t) {
                    assert_eq!(new.to_bits(), whole.samples.row(k)[i].to_bits(), "{} at {t}", axis.name);
                }
            }
        }
        assert_ne!(scoped, before);
    }
}

/// Across an edge what the treatment adds comes and goes without a step in speed or acceleration.
#[test]
fn speed_is_continuous_across_the_edges() {
    let rig = crane();
    let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
    // A difference that is steep where the edge is: what is blended in moves fast.
    let rows = (0..=960).flat_map(|k| [(k as f64 / HZ * 3.0).sin(); 9]).collect();
    let before = Motion::of(Samples::new(HZ, 9, rows), rig.axes());
    let keys = TreatmentKind::Keys(KeyEvery { every: Interval::Seconds(2.5) });
    let scope = Scope { axes: None, range: Some(SPAN) };
    let after = Treatment { scope, ..keys.into() }.apply(&before, &context);
    let added: Vec<f64> =
        after.samples.column(0).iter().zip(before.samples.column(0)).map(|(a, b)| a - b).collect();
    assert!(added.iter().any(|v| v.abs() > 0.3), "it does something");
    let speed: Vec<f64> = added.windows(2).map(|w| (w[1] - w[0]) * HZ).collect();
    for (k, pair) in speed.windows(2).enumerate() {
        // The steepest turn of the added motion itself, without any edge, is about 0.1 a sample.
        assert!((pair[1] - pair[0]).abs() < 0.35, "{} at {}", pair[1] - pair[0], k as f64 / HZ);
    }
    for edge in [240, 720] {
        assert!(speed[edge].abs() < 0.01, "it begins and ends at rest: {}", speed[edge]);
    }
}

#[test]
fn strength_weakens_evenly_or_over_time() {
    let rig = crane();
    let (before, context) = (motion(&*rig), Context::of(&*rig, &Camera::default(), Rate::FILM));
    let kind = kinds().remove(0);
    let with = |strength: Strength| Treatment { strength, ..kind.clone().into() }.apply(&before, &context);
    let (none, half, whole) =
        (with(Strength::Even(0.0)), with(Strength::Even(0.5)), with(Strength::Even(1.0)));
    assert_eq!(none, before);
    let over = Curve::new(vec![CurveKey::smooth(0.0, 0.0), CurveKey::smooth(8.0, 1.0)]).unwrap();
    let risen = with(Strength::Over(over));
    for k in [100, 480, 900] {
        for i in 0..8 {
            let at = |m: &Motion| m.samples.row(k)[i];
            assert!((at(&half) - (at(&before) + at(&whole)) / 2.0).abs() < 1e-12);
        }
    }
    let at = |m: &Motion, k: usize| m.samples.row(k)[0];
    assert!((at(&risen, 480) - at(&half, 480)).abs() < 1e-12, "half way at half time");
    assert_eq!((at(&risen, 0), at(&risen, 960)), (at(&before, 0), at(&whole, 960)));
}

#[test]
fn smoothing_does_not_cross_a_cut() {
    let rig = crane();
    let context = Context::of(&*rig, &Camera::default(), Rate::FILM);
    let rows = (0..=960).flat_map(|k| [if k < 480 { 0.0 } else { 1.0 }; 9]).collect();
    let jump = Motion { cuts: vec![4.0], ..Motion::of(Samples::new(HZ, 9, rows), rig.axes()) };
    let smooth = Treatment::from(kinds().remove(0));
    assert_eq!(smooth.apply(&jump, &context), jump);
    assert_ne!(smooth.apply(&Motion { cuts: vec![], ..jump.clone() }, &context), jump);
}

#[test]
fn what_cannot_be_is_refused_with_its_path() {
    let refused = |t: Treatment| t.check().map_err(|e| (e.path, e.sentence)).unwrap_err();
    let plain = || Treatment::from(kinds().remove(0));
    let span = |span: Span| Treatment { scope: Scope { axes: None, range: Some(span) }, ..plain() };
    assert_eq!(refused(Treatment { strength: Strength::Even(1.5), ..plain() }).0, "strength");
    assert_eq!(refused(span(Span { ease_in_s: 0.0, ..SPAN })).0, "scope/range");
    assert!(refused(span(Span { to_s: 3.0, ..SPAN })).1.contains("make it longer"));
    let many =
        TreatmentKind::Smooth(Smooth { head: Some(SmoothBy::Binomial { passes: 0 }), ..Smooth::default() });
    let (path, sentence) = refused(many.into());
    assert_eq!((path.as_str(), sentence.as_str()), ("head/passes", "smoothing passes is 0; give 1 to 400"));
    assert!(check_list(&vec![plain(); 51]).unwrap_err().sentence.contains("at most 50"));
}

/// Every kind is had by its name as it comes, and what it says of itself can be.
#[test]
fn every_kind_describes_itself() {
    fn sound(params: &[Param]) {
        for param in params {
            assert!(!param.label.is_empty(), "{}", param.path);
            match &param.holds {
                Holds::Number { min, max, step, .. } => assert!(min < max && *step > 0.0, "{}", param.path),
                Holds::Choice { options } => assert!(options.len() > 1),
                Holds::Variant { cases, .. } => cases.iter().for_each(|c| sound(&c.params)),
                Holds::Row { params } | Holds::List { params, .. } => sound(params),
                Holds::Curve { min, max, start, .. } => assert!(min < max && start.len() > 1),
                Holds::Switch | Holds::Who { .. } | Holds::Piece { .. } | Holds::Recorded { .. } => {}
            }
        }
    }
    for described in TreatmentKind::all() {
        let kind = TreatmentKind::named(described.name).unwrap();
        assert_eq!((kind.level(), Treatment::from(kind).check()), (described.level, Ok(())));
        assert!(described.hint.ends_with('.'), "{} says what it is good for", described.name);
        sound(&described.params);
    }
}

/// As treatments were kept before they had a scope.
#[test]
fn a_treatment_without_scope_and_strength_reads_and_writes_as_it_was() {
    for kept in [
        r#"{"on":true,"kind":"smooth","machine":{"by":"binomial","passes":60},"head":null,"lens":null}"#,
        r#"{"on":false,"kind":"steady","by":"fixed_lag","position":0.4,"rotation":0.6}"#,
        r#"{"on":true,"kind":"keys","every":{"seconds":0.5}}"#,
    ] {
        let treatment: Treatment = serde_json::from_str(kept).unwrap();
        assert_eq!(serde_json::to_string(&treatment).unwrap(), kept);
    }
}

/// The same, standing still from 3 to 5 s.
fn with_a_stop(motion: &Motion) -> Motion {
    let there = |k: usize| k.min(360) + k.saturating_sub(600);
    let rows = (0..motion.samples.len()).flat_map(|k| motion.samples.row(there(k)).to_vec());
    Motion::plain(Samples::new(HZ, motion.samples.width(), rows.collect()))
}

/// What somebody adds does something at once.
#[test]
fn every_kind_is_offered_as_something_that_can_be_and_is_not_idle() {
    let rigs = [crane(), RigSpec::TrackedCamera(TrackedCamera::default()).build(&Camera::default())];
    for described in TreatmentKind::all() {
        assert!(described.usual.check().is_ok(), "{}", described.name);
        let fits = |axes: &[Axis]| TreatmentKind::fitting(axes).contains(&described.name);
        let rig = rigs.iter().find(|rig| fits(rig.axes())).expect("it fits one of them");
        let playing = PerformanceTimeline::compile(
            &[],
            &[walks(1, &[(0.0, [3.0, 0.0, 5.0])])],
            PerformanceId(1),
            &Clips::new(),
        );
        let playing = Some(Playing { timeline: &playing, version: 1 });
        let context = Context { playing, ..Context::of(&**rig, &Camera::default(), Rate::FILM) };
        let before = with_a_stop(&motion(&**rig));
        // A correction waits for hands, and a jump for a time.
        let idle = ["correction", "inner_cut"].contains(&described.name);
        assert_eq!(described.usual.apply(&before, &context) == before, idle, "{}", described.name);
    }
}
