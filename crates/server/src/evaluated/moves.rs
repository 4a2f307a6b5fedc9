//! Moves worked out: what a camera does over time, from whatever it comes from, before and after its
//! treatments. What was worked out last is kept, by what it was made of.

use crate::evaluated::layers;
use crate::evaluated::scenery::Scenery;
use crate::floor::carrying::{Carrying, part_over};
use rovnek_core::bounded::{Bounded, Bytes};
use rovnek_core::content::chained;
use rovnek_core::evaluate::StageCache;
use rovnek_core::follow::CameraTarget;
use rovnek_core::ids::{MoveId, PerformanceId, TakeId};
use rovnek_core::keys::Keyed;
use rovnek_core::lens::Camera;
use rovnek_core::measures::{self, Metrics};
use rovnek_core::motion::{Context, Motion, Playing, Recorded, Takes};
use rovnek_core::moves::{Around, Followed, followed, keyed};
use rovnek_core::playing::CarrierTrack;
use rovnek_core::rigs::{Rig, Rigging};
use rovnek_core::samples::Samples;
use rovnek_core::time::Rate;
use rovnek_core::track::Track;
use rovnek_core::treatments::{Treatment, check_list};
use rovnek_core::warnings::{self, Warning};
use rovnek_store::model::{Document, Move, Setup, Source, Take};
use rovnek_store::rows::reader::Reader;
use rovnek_store::versions::Subject;
use rovnek_store::{Result, StoreError};
use std::sync::{Arc, OnceLock};

/// A move ready to be looked at.
pub struct Evaluated {
    /// Move as the document has it.
    pub of: Move,
    /// Title: "take 3", "setup A, keys".
    pub title: String,
    /// Camera of the move.
    pub camera: Camera,
    /// Its machine, as it is kept.
    pub rigging: Rigging,
    /// Machine of the move, built.
    pub rig: Box<dyn Rig>,
    /// Motion as recorded, keyed or solved.
    pub raw: Arc<Motion>,
    /// After its treatments.
    pub now: Arc<Motion>,
    /// Shortfall of a machine that follows, metres at every sample; none for other machines.
    pub short_m: Option<Arc<Vec<f64>>>,
    scenery: Scenery,
    length_s: f64,
    /// The figures of its motion before treatments, once they are asked for.
    figures: Arc<OnceLock<Metrics>>,
}

/// Motion before treatments, and what a machine that follows is short.
#[derive(Clone)]
struct Sourced {
    raw: Arc<Motion>,
    short_m: Option<Arc<Vec<f64>>>,
    figures: Arc<OnceLock<Metrics>>,
}

impl Sourced {
    fn of(raw: Motion, short_m: Option<Vec<f64>>) -> Sourced {
        Sourced { raw: Arc::new(raw), short_m: short_m.map(Arc::new), figures: Arc::default() }
    }
}

impl Evaluated {
    /// The figures of its motion before treatments; `track` is where its camera goes then. They stay while
    /// treatments change.
    pub fn figures_before(&self, track: &Track) -> &Metrics {
        self.figures.get_or_init(|| measures::figures(track, &self.raw.cuts))
    }

    /// Surroundings of one of its motions: people on its carriage go along with it.
    pub fn among(&self, motion: &Motion) -> Scenery {
        let length_s = self.length_s.max(motion.samples.duration_s());
        let carriage = || part_over(&*self.rig, motion, length_s, |p| p.carriage);
        self.scenery.around(self.of.setup_id, carriage)
    }

    /// Warnings about the treated motion.
    pub fn warnings(&self, rate: Rate) -> Vec<Warning> {
        let stops = warnings::past_end_stops(&self.now.samples, self.rig.axes(), rate);
        let all = self.now.warnings.iter().cloned().chain(stops);
        all.filter(|warning| warning.when.to_s >= self.now.begins_s).collect()
    }
}

/// Shake of a take in its worst second, cm and degrees.
pub type Shake = (Option<f64>, Option<f64>);

/// The moves that were worked out last. Treatments that are tried are kept like those that are saved: what a
/// slider has shown is there when the slider is let go.
pub struct MoveCache {
    sources: Bounded<Sourced>,
    stages: StageCache,
    targets: Bounded<Arc<CameraTarget>>,
    shakes: Bounded<Shaken>,
}

/// Bytes of motion before treatments: a minute of ten axes is half a megabyte.
const SOURCES_BYTES: usize = 32 << 20;
/// Bytes of treated motion.
const STAGES_BYTES: usize = 64 << 20;
/// Bytes of cameras that other machines follow.
const TARGETS_BYTES: usize = 16 << 20;
/// Bytes of figures of shake: some ten thousand takes.
const SHAKES_BYTES: usize = 1 << 20;

impl Default for MoveCache {
    fn default() -> MoveCache {
        MoveCache {
            sources: Bounded::within(SOURCES_BYTES),
            stages: StageCache::within(STAGES_BYTES),
            targets: Bounded::within(TARGETS_BYTES),
            shakes: Bounded::within(SHAKES_BYTES),
        }
    }
}

/// Shake that was worked out.
#[derive(Clone, Copy)]
struct Shaken(Shake);

impl Bytes for Shaken {
    fn bytes(&self) -> usize {
        size_of::<(u64, Shaken)>()
    }
}

impl Bytes for Sourced {
    fn bytes(&self) -> usize {
        self.raw.bytes() + self.short_m.as_ref().map_or(0, |short| size_of_val(&short[..]))
    }
}

/// Longest chain of moves that follow one another.
const DEEPEST: usize = 8;

/// Has samples read by whoever has a reader.
pub type ReadSamples<'a> = dyn Fn(&dyn Fn(&Reader) -> Result<Samples>) -> Result<Samples> + 'a;

/// Inputs of an evaluation: document, scenery, samples.
pub struct From<'a> {
    /// Everything but the samples.
    pub document: &'a Document,
    /// Scenery that its moves are among, of the performance that plays meanwhile.
    pub scenery: &'a Scenery,
    /// Number of a scenery that is not the document's: one on the way to that. 0 for the document's own.
    pub on_the_way: u64,
    /// Reader of samples.
    pub read: &'a ReadSamples<'a>,
}

impl From<'_> {
    /// Context of treatments of a move among its surroundings.
    pub fn context<'a>(&'a self, among: &'a Scenery, rig: &'a dyn Rig, camera: &Camera) -> Context<'a> {
        Context {
            playing: Some(self.playing(among)),
            takes: Some(self),
            ..Context::of(rig, camera, self.document.scene.rate)
        }
    }

    fn playing<'a>(&self, among: &'a Scenery) -> Playing<'a> {
        let version = self.version(Subject::Performance(self.performance()));
        Playing { timeline: &among.playing, version }
    }

    fn performance(&self) -> PerformanceId {
        self.scenery.performance()
    }

    /// Version of a subject among this scenery.
    fn version(&self, subject: Subject) -> u64 {
        let version = self.document.version(subject);
        if self.on_the_way == 0 { version } else { chained([version, self.on_the_way]) }
    }
}

impl Takes for From<'_> {
    fn recorded(&self, take: TakeId) -> Option<Recorded> {
        let take = self.document.take(take).ok()?;
        let rig = take.rig.build(&take.camera);
        let passes = self.document.passes(take.id);
        let samples = (self.read)(&|reader| layers::samples(reader, take, &passes, rig.axes())).ok()?;
        let poses = samples.rows().map(|row| rig.forward(row).camera).collect();
        Some(Recorded { rate_hz: samples.rate_hz(), poses })
    }

    fn version(&self, take: TakeId) -> u64 {
        self.document.version(Subject::Layers(take))
    }
}

impl MoveCache {
    /// A move, worked out.
    pub fn evaluate(&self, from: &From, id: MoveId) -> Result<Evaluated> {
        self.at_depth(from, id, 0)
    }

    /// A move as it would be under other treatments than the document's.
    pub fn tried(&self, from: &From, id: MoveId, treatments: &[Treatment]) -> Result<Evaluated> {
        check_list(treatments).map_err(|e| StoreError::Refused(e.sentence))?;
        let mut m = self.at_depth(from, id, 0)?;
        let among = m.among(&m.raw);
        let context = from.context(&among, &*m.rig, &m.camera);
        m.now = self.stages.treated(
            from.version(Subject::Raw(id, from.performance())),
            &m.raw,
            treatments,
            &context,
        );
        Ok(m)
    }

    fn at_depth(&self, from: &From, id: MoveId, depth: usize) -> Result<Evaluated> {
        if depth > DEEPEST {
            let sentence = format!("more than {DEEPEST} moves follow one another; make keys of one of them");
            return Err(StoreError::Refused(sentence));
        }
        let document = from.document;
        let (of, setup, take) = parts_of(document, id)?;
        let of = of.clone();
        let (camera, rigging) = document.machine_of(&of);
        let rig = rigging.build(&camera);
        let version = from.version(Subject::Raw(id, from.performance()));
        let made = || self.source(from, &of, take, &*rig, &rigging, depth);
        let source = self.sources.find_or(version, made)?;
        let title = title_of(&of, setup, take);
        let Sourced { raw, short_m, figures } = source;
        let (scenery, length_s) = (from.scenery.clone(), document.scene.length_s);
        let untreated = Evaluated {
            of,
            title,
            camera,
            rigging,
            rig,
            now: raw.clone(),
            raw,
            short_m,
            scenery,
            length_s,
            figures,
        };
        let m = &untreated;
        let among = m.among(&m.raw);
        let context = from.context(&among, &*m.rig, &m.camera);
        let now = self.stages.treated(version, &m.raw, &m.of.treatments, &context);
        Ok(Evaluated { now, ..untreated })
    }

    fn source(
        &self,
        from: &From,
        of: &Move,
        take: Option<&Take>,
        rig: &dyn Rig,
        rigging: &Rigging,
        depth: usize,
    ) -> Result<Sourced> {
        if let Some(take) = take {
            let passes = from.document.passes(take.id);
            let mut samples = (from.read)(&|reader| layers::samples(reader, take, &passes, rig.axes()))?;
            if let Some(own) = &of.camera {
                put_on_lens(&mut samples, &take.camera, own);
            }
            return Ok(Sourced::of(Motion::plain(samples), None));
        }
        let carrier = self.carrier(from, rigging, depth);
        let around = Around { carrier: carrier.as_ref(), people: &from.scenery.people };
        match of.source {
            Source::Follow { of: other } => {
                let target = self.target_at(from, other, depth + 1)?;
                let base = Keyed::of(&of.curves, rig, target.length_s());
                let Followed { motion, short_m, short_deg } = followed(rig, &target, &base, &around);
                let (rate, hz) = (from.document.scene.rate, motion.samples.rate_hz());
                let warnings = warnings::short(hz, rate, &short_m, &short_deg);
                Ok(Sourced::of(Motion { warnings, ..motion }, Some(short_m)))
            }
            Source::Curves | Source::Take { .. } => {
                let length_s = from.document.scene.length_s;
                let keys = Keyed::of(&of.curves, rig, length_s);
                Ok(Sourced::of(keyed(rig, &keys, length_s, &around), None))
            }
        }
    }

    /// Course of a machine's carrier.
    fn carrier(&self, from: &From, rigging: &Rigging, depth: usize) -> Option<CarrierTrack> {
        let moved = |id: MoveId| self.at_depth(from, id, depth + 1).ok().map(|m| (m.rig, m.now));
        let carrying = Carrying { document: from.document, playing: &from.scenery.playing, moved: &moved };
        Some(carrying.track(rigging.carried?))
    }

    /// The camera of a move, to be followed.
    pub fn target(&self, from: &From, id: MoveId) -> Result<Arc<CameraTarget>> {
        self.target_at(from, id, 1)
    }

    fn target_at(&self, from: &From, id: MoveId, depth: usize) -> Result<Arc<CameraTarget>> {
        from.document.a_move(id)?;
        let version = from.version(Subject::Motion(id, from.performance()));
        self.targets.find_or(version, || {
            let m = self.at_depth(from, id, depth)?;
            let target = CameraTarget::of(&m.now.track(&*m.rig))
                .ok_or_else(|| StoreError::Refused(format!("{} is empty; choose another", m.title)))?;
            Ok(Arc::new(target))
        })
    }

    /// Shake of the raw take in its worst second.
    pub fn shake(&self, from: &From, take: &Take) -> Result<Shake> {
        let shaken = self.shakes.find_or(from.version(Subject::Layers(take.id)), || {
            let (passes, rig) = (from.document.passes(take.id), take.rig.build(&take.camera));
            let samples = (from.read)(&|reader| layers::samples(reader, take, &passes, rig.axes()))?;
            let [position, rotation] = measures::shake(&Motion::plain(samples).track(&*rig), &[]);
            let worst = |s: Option<measures::ShakeFigure>| s.map(|s| s.worst_second);
            Ok(Shaken((worst(position), worst(rotation))))
        });
        shaken.map(|Shaken(shake)| shake)
    }
}

/// A lens that was put on a take's move afterwards takes the place of the one that was recorded; a stop that was
/// set replaces what the iris did while it rolled. Where lens and stop are those of the take nothing changes.
fn put_on_lens(samples: &mut Samples, recorded: &Camera, own: &Camera) {
    let [zoom, focus, iris] = [3, 2, 1].map(|last| samples.width() - last);
    let column = |samples: &Samples, i: usize, value: &dyn Fn(f64) -> f64| -> Vec<f64> {
        samples.rows().map(|row| value(row[i])).collect()
    };
    let focal = column(samples, zoom, &|mm| own.focal_instead(recorded, mm));
    samples.set_column(zoom, &focal);
    let distance = column(samples, focus, &|m| m.max(own.closest_focus_m));
    samples.set_column(focus, &distance);
    if own.f_stop != recorded.f_stop {
        samples.set_column(iris, &vec![own.f_stop; samples.len()]);
    }
}

/// A move, its setup, and the take it comes from.
pub fn parts_of(document: &Document, id: MoveId) -> Result<(&Move, &Setup, Option<&Take>)> {
    let of = document.a_move(id)?;
    let take = of.take().map(|take| document.take(take)).transpose()?;
    Ok((of, document.setup(of.setup_id)?, take))
}

/// Title of a move, its take or its setup.
pub fn title_of(of: &Move, setup: &Setup, take: Option<&Take>) -> String {
    let name = match of.source {
        _ if !of.name.is_empty() => &of.name,
        Source::Follow { .. } => "following",
        Source::Curves | Source::Take { .. } => "keys",
    };
    take.map_or(format!("setup {}, {name}", setup.letter), |take| format!("take {}", take.number))
}
