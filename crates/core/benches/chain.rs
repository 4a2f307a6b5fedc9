//! Ten minutes of a crane on a free base, 12 axes at 120 Hz, under eight treatments: what each of them takes
//! by itself, and all from a change of the first machine treatment on, down to curves of 1 000 columns.

use rovnek_core::evaluate::StageCache;
use rovnek_core::ids::{PerformanceId, PerformerId};
use rovnek_core::lanes::{envelopes, shown};
use rovnek_core::lens::Camera;
use rovnek_core::measures;
use rovnek_core::motion::{Context, Motion, Playing};
use rovnek_core::performer::{Clips, Part, PartMotion, Performer, Posture, Route, Waypoint};
use rovnek_core::playing::{PerformanceTimeline, SubjectPoints};
use rovnek_core::rigs::{RigSpec, TelescopicCrane};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::treatments::{
    Aim, Correction, CorrectionKey, Drift, Focus, Retime, RetimeBy, Shake, Smooth, SmoothBy, Treatment,
    TreatmentKind, Trim,
};
use std::time::Instant;

const LENGTH_S: f64 = 600.0;

/// Somebody who walks to and fro all the time.
fn walker() -> Performer {
    let at = |k: u32| Waypoint {
        time_s: f64::from(k) * 10.0,
        stop_s: 0.0,
        position: [if k.is_multiple_of(2) { -3.0 } else { 3.0 }, 0.0, -8.0],
        facing_deg: None,
        posture: Posture::Stand,
        mark: None,
    };
    let route = Route { waypoints: (0..=60).map(at).collect::<Vec<_>>().into() };
    let part = Part { performance: PerformanceId(1), rides: None, motion: PartMotion::Walks { route } };
    Performer { id: PerformerId(1), name: "walker".into(), height_m: 1.75, build: 1.0, parts: vec![part] }
}

fn list(sigma_s: f64) -> Vec<Treatment> {
    let by = Some(SmoothBy::Gaussian { sigma_s });
    let key = |at_s: f64| CorrectionKey { at_s, turn_deg: [2.0, 1.0, 0.0], ..CorrectionKey::default() };
    [
        TreatmentKind::Trim(Trim { start_s: 1.0, end_s: 1.0 }),
        TreatmentKind::Retime(Retime { way: RetimeBy::Ease { start_s: 1.0, stop_s: 1.0 } }),
        TreatmentKind::Smooth(Smooth { machine: by, head: by, lens: None }),
        TreatmentKind::Drift(Drift::default()),
        TreatmentKind::Aim(Aim { zone_percent: 8.0, lag_s: 0.3, ..Aim::default() }),
        TreatmentKind::Focus(Focus::default()),
        TreatmentKind::Correction(Correction { keys: vec![key(100.0), key(300.0)], ..Correction::default() }),
        TreatmentKind::Shake(Shake::default()),
    ]
    .map(Treatment::from)
    .into()
}

fn median(mut times: Vec<f64>) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

fn timed(runs: usize, mut work: impl FnMut(usize)) -> f64 {
    let once = |k| {
        let start = Instant::now();
        work(k);
        start.elapsed().as_secs_f64() * 1e3
    };
    median((0..runs).map(once).collect())
}

fn main() {
    let rig = RigSpec::TelescopicCrane(TelescopicCrane { free: true, ..TelescopicCrane::default() })
        .build(&Camera::default());
    let axes = rig.axes();
    let row = |k: usize| {
        let t = k as f64 / 120.0;
        axes.iter().enumerate().map(move |(i, a)| {
            let hands = 0.004 * (17.0 * t + i as f64).sin();
            (a.start + 0.15 * (0.11 * t * (1.0 + 0.1 * i as f64)).sin() + hands).clamp(a.min, a.max)
        })
    };
    let count = (LENGTH_S * 120.0) as usize + 1;
    let raw = Motion::of(Samples::new(120.0, axes.len(), (0..count).flat_map(row).collect()), axes);
    let timeline = PerformanceTimeline::compile(&[], &[walker()], PerformanceId(1), &Clips::new());
    let playing = Some(Playing { timeline: &timeline, version: 1 });
    let context = Context { playing, ..Context::of(&*rig, &Camera::default(), Rate::FILM) };
    println!("{} axes, {} samples", axes.len(), raw.samples.len());
    let mut motion = raw.clone();
    for treatment in list(0.2) {
        let ms = timed(5, |_| {
            std::hint::black_box(treatment.apply(&motion, &context));
        });
        println!("{:>12} {ms:8.1} ms", treatment.kind.name());
        motion = treatment.apply(&motion, &context);
    }
    // A cache as the application has it; each time another width, nothing of which is known.
    let cache = StageCache::within(256 << 20);
    let curves = |k: usize| {
        let now = cache.treated(1, &raw, &list(0.2 + 0.001 * k as f64), &context);
        std::hint::black_box(envelopes(&shown(axes, &now.samples), 1000));
    };
    curves(1000);
    println!("a change of smooth, to curves: {:.1} ms", timed(9, curves));
    let last = |k: usize| {
        let mut list = list(0.2);
        let shake = Shake { seed: k as u32 + 2, ..Shake::default() };
        *list.last_mut().expect("there are eight") = TreatmentKind::Shake(shake).into();
        let now = cache.treated(1, &raw, &list, &context);
        std::hint::black_box(envelopes(&shown(axes, &now.samples), 1000));
    };
    last(1000);
    println!("a change of shake, to curves: {:.1} ms", timed(9, last));
    figures(&raw, &cache.treated(1, &raw, &list(0.2), &context), &context, &timeline);
}

/// Everything that the strip of figures, the marks and the list of what to mend are made of.
fn figures(raw: &Motion, now: &Motion, context: &Context, timeline: &PerformanceTimeline) {
    let (rig, camera) = (context.rig, Camera::default());
    let people = SubjectPoints::of(timeline, &[walker()], LENGTH_S);
    let fresh = StageCache::within(256 << 20);
    let whole = timed(3, |k| drop(fresh.treated(k as u64 + 2, raw, &list(0.2), context)));
    let (before, after) = (raw.seen(rig), now.seen(rig));
    let mut sum = 0.0;
    let mut told = |name: &str, work: &mut dyn FnMut()| {
        let ms = timed(3, |_| work());
        sum += ms;
        println!("{name:>24} {ms:8.1} ms");
        ms
    };
    told("both tracks", &mut || {
        let _ = std::hint::black_box((raw.seen(rig), now.seen(rig)));
    });
    let before_ms = told("figures as rolled", &mut || {
        let _ = std::hint::black_box(measures::figures(&before, &raw.cuts));
    });
    told("figures now", &mut || {
        let _ = std::hint::black_box(measures::figures(&after, &now.cuts));
    });
    told("departure", &mut || {
        let _ = std::hint::black_box(measures::departure(&after, &before));
    });
    told("tops of axes", &mut || {
        let _ = std::hint::black_box(measures::axis_tops(raw, now, rig.axes()));
    });
    told("lost", &mut || {
        let _ = std::hint::black_box(measures::lost(&before, &after, &camera, &people));
    });
    told("marks", &mut || {
        let _ = std::hint::black_box(measures::marks(now, &Default::default(), rig.axes(), Rate::FILM));
    });
    let again = sum - before_ms;
    println!("the whole evaluation {whole:.0} ms");
    println!("all figures, first {sum:.0} ms: {:.2} times", sum / whole);
    println!("all figures, after a change of treatments {again:.0} ms: {:.2} times", again / whole);
}
