//! One version for everything that is worked out of a document: as long as the version is the same, so is the
//! result. Caches, stored pictures and the page's queries ask for nothing else.
//!
//! A subject's version is a hash of its own content ([`rovnek_core::content`]) and of the versions of everything
//! it refers to; what a thing refers to is read from it by type ([`rovnek_core::references`]). Each is worked
//! out once for a document. Contents of things are taken over from the document before, as long as the things
//! are equal, so that an edit hashes what it touched.

use crate::model::{Document, Move, Setup, Source, Take};
use crate::things::Listed;
use rovnek_core::content::{chained, content};
use rovnek_core::ids::{Id, MoveId, PerformanceId, PerformerId, PieceId, SetupId, TakeId, ThingKind};
use rovnek_core::performer::Performer;
use rovnek_core::playing::MoverId;
use rovnek_core::references::references;
use rovnek_core::set::Piece;
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// What numbers of movers begin with since they are hashed by field.
pub(crate) const MOVERS: &str = "v2:";

/// Something that is worked out of a document.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Subject {
    /// Motion of a performer or piece in a performance.
    Mover(MoverId, PerformanceId),
    /// Motion of everybody and everything in a performance, with names.
    Performance(PerformanceId),
    /// Solids of the set while a performance plays.
    Set(PerformanceId),
    /// Performance and set together.
    Scenery(PerformanceId),
    /// Machine of a setup as it stands, with its carriers in a performance.
    Machine(SetupId, PerformanceId),
    /// Machine of a setup with the move that it runs, while a performance plays.
    Carriage(SetupId, PerformanceId),
    /// Pictures of all machines as they stand in a performance.
    Machines(PerformanceId),
    /// Samples of a take with the passes that count.
    Layers(TakeId),
    /// Motion of a move before its treatments, while a performance plays.
    Raw(MoveId, PerformanceId),
    /// Motion of a move while a performance plays.
    Motion(MoveId, PerformanceId),
    /// Frames, curves and figures of a move, with what is seen in its picture while a performance plays.
    Frames(MoveId, PerformanceId),
    /// Pictures of a take in lists.
    Picture(TakeId),
    /// Everything that the floor has of a scene.
    Floor,
}

/// Content of a thing, and the things that it refers to.
#[derive(Default)]
struct Known {
    content: u64,
    refers: Vec<(ThingKind, u32)>,
}

impl Known {
    /// Own ids are plain numbers in a value: as ids they would be references of a thing to itself.
    fn of<T: Serialize>(value: &T) -> Known {
        let refers = references(value).iter().map(|r| (r.kind, r.id)).collect();
        Known { content: content(value), refers }
    }

    /// Subjects that it refers to while a performance plays.
    fn needs(&self, performance: PerformanceId) -> Vec<Subject> {
        let subject = |&(kind, id): &(ThingKind, u32)| match kind {
            ThingKind::Piece => Some(Subject::Mover(MoverId::Piece(PieceId(id)), performance)),
            ThingKind::Performer => Some(Subject::Mover(MoverId::Performer(PerformerId(id)), performance)),
            ThingKind::Setup => Some(Subject::Carriage(SetupId(id), performance)),
            ThingKind::Take => Some(Subject::Layers(TakeId(id))),
            ThingKind::Move => Some(Subject::Motion(MoveId(id), performance)),
            // Assets never change, and nothing is worked out of the rest.
            _ => None,
        };
        let mut needs: Vec<Subject> = self.refers.iter().filter_map(subject).collect();
        needs.sort();
        needs.dedup();
        needs
    }
}

/// Versions of a document's subjects, as far as they were asked for.
#[derive(Default)]
pub(crate) struct Versions {
    memo: Mutex<BTreeMap<Subject, u64>>,
    known: Mutex<BTreeMap<Own, Arc<Known>>>,
}

/// Part of a thing that has a content of its own.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
enum Own {
    Mover(MoverId, PerformanceId),
    Solids(PieceId, PerformanceId),
    Form(PieceId),
    Machine(SetupId),
    Setup(SetupId),
    Take(TakeId),
    Raw(MoveId),
    Treatments(MoveId),
}

/// A copy is another document: it may be changed, so it begins without versions.
impl Clone for Versions {
    fn clone(&self) -> Versions {
        Versions::default()
    }
}

/// Versions follow from the document.
impl PartialEq for Versions {
    fn eq(&self, _: &Versions) -> bool {
        true
    }
}

impl std::fmt::Debug for Versions {
    fn fmt(&self, to: &mut std::fmt::Formatter) -> std::fmt::Result {
        to.write_str("Versions")
    }
}

fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}

/// What a piece does in a performance: its way, or its place. Its turn counts on its way as well.
#[derive(Serialize)]
struct PieceMotion<'a> {
    route: Option<&'a rovnek_core::performer::Route>,
    rides: Option<rovnek_core::carrier::Carrier>,
    place: Option<[f64; 3]>,
    turn_deg: f64,
    hidden: bool,
}

impl<'a> PieceMotion<'a> {
    fn of(piece: &'a Piece, performance: PerformanceId) -> PieceMotion<'a> {
        let route = piece.route(performance);
        let alone = route.is_some() && piece.rides.is_none();
        let place = (!alone).then_some(piece.position);
        PieceMotion { route, rides: piece.rides, place, turn_deg: piece.turn_deg, hidden: piece.hidden }
    }
}

fn performer_motion(performer: &Performer, performance: PerformanceId) -> impl Serialize {
    (performer.height_m, performer.build, performer.part(performance))
}

impl Document {
    /// Version of a subject.
    pub fn version(&self, subject: Subject) -> u64 {
        self.visited(subject, &mut Vec::new()).0
    }

    /// Numbers of what everybody and everything does in a performance, by name, as takes keep them: `v2:` and
    /// the content's hash.
    pub fn movers(&self, performance: PerformanceId) -> BTreeMap<String, String> {
        let (performers, pieces) = (self.scene.performers.iter(), self.scene.pieces.iter());
        let performers =
            performers.filter(|p| p.part(performance).is_some()).map(|p| (&p.name, MoverId::Performer(p.id)));
        let pieces =
            pieces.filter(|p| p.moves(performance) && !p.hidden).map(|p| (&p.name, MoverId::Piece(p.id)));
        let number =
            |of: MoverId| format!("{MOVERS}{:016x}", self.known(Own::Mover(of, performance)).content);
        performers.chain(pieces).map(|(name, of)| (name.clone(), number(of))).collect()
    }

    /// Takes over what the document before knows of things that are equal in both.
    pub(crate) fn take_over(&mut self, before: &Document) {
        let known = {
            let same = Same::of(before, self);
            let known = lock(&before.versions.known);
            let kept = known.iter().filter(|(own, _)| same.has(**own));
            kept.map(|(own, known)| (*own, known.clone())).collect()
        };
        self.versions = Versions { memo: Mutex::default(), known: Mutex::new(known) };
    }

    /// A version, and the place in `path` of the first subject that it leads back to. Edits refuse circles of
    /// carriers, but a card and the camera before it name each other: on the way round the second time a subject
    /// counts with its own content only, and what was found on the way is not kept.
    fn visited(&self, subject: Subject, path: &mut Vec<Subject>) -> (u64, usize) {
        if let Some(version) = lock(&self.versions.memo).get(&subject) {
            return (*version, usize::MAX);
        }
        let (own, needs) = self.parts(subject);
        let own = chained(own);
        if let Some(place) = path.iter().position(|other| *other == subject) {
            return (own, place);
        }
        let mine = path.len();
        path.push(subject);
        let (mut all, mut back) = (vec![own], usize::MAX);
        for need in needs {
            let (version, place) = self.visited(need, path);
            all.push(version);
            back = back.min(place);
        }
        path.pop();
        let version = chained(all);
        if back < mine {
            return (version, back);
        }
        lock(&self.versions.memo).insert(subject, version);
        (version, usize::MAX)
    }

    /// Contents of a subject's own, and the subjects that it is made of.
    fn parts(&self, subject: Subject) -> (Vec<u64>, Vec<Subject>) {
        let scene = &self.scene;
        let plain = |known: Arc<Known>, p| (vec![known.content], known.needs(p));
        match subject {
            Subject::Mover(of, p) => plain(self.known(Own::Mover(of, p)), p),
            Subject::Performance(p) => {
                let mut own = vec![content(&scene.length_s)];
                let mut needs = Vec::new();
                for performer in scene.performers.iter().filter(|x| x.part(p).is_some()) {
                    own.push(content(&(&performer.name, performer.id)));
                    needs.push(Subject::Mover(MoverId::Performer(performer.id), p));
                }
                for piece in scene.pieces.iter().filter(|x| x.moves(p) && !x.hidden) {
                    own.push(content(&(&piece.name, piece.id)));
                    own.push(self.known(Own::Form(piece.id)).content);
                    needs.push(Subject::Mover(MoverId::Piece(piece.id), p));
                }
                (own, needs)
            }
            Subject::Set(p) => {
                let solids = |piece: &Piece| self.known(Own::Solids(piece.id, p)).content;
                let own = std::iter::once(content(&scene.stage)).chain(scene.pieces.iter().map(solids));
                (own.collect(), Vec::new())
            }
            Subject::Scenery(p) => (Vec::new(), vec![Subject::Performance(p), Subject::Set(p)]),
            Subject::Machine(id, p) => plain(self.known(Own::Machine(id)), p),
            Subject::Carriage(id, p) => {
                let Some(setup) = self.setups.iter().find(|s| s.id == id) else { return Default::default() };
                let runs = self.runs(id).map(|m| m.id);
                // A machine in the bin carries nobody.
                let own = content(&(setup.binned, runs.is_some()));
                let runs = runs.map(|id| Subject::Motion(id, p));
                (vec![own], std::iter::once(Subject::Machine(id, p)).chain(runs).collect())
            }
            Subject::Machines(p) => {
                let there = || self.setups.iter().filter(|s| !s.binned);
                let own = there().map(|s| content(&s.id)).collect();
                let machines = there().map(|s| Subject::Machine(s.id, p));
                (own, machines.chain([Subject::Scenery(p)]).collect())
            }
            Subject::Layers(id) => {
                let passes = self.passes(id).into_iter().map(|pass| self.known(Own::Take(pass.id)).content);
                (std::iter::once(self.known(Own::Take(id)).content).chain(passes).collect(), Vec::new())
            }
            Subject::Raw(id, p) => {
                let known = self.known(Own::Raw(id));
                let mut own = vec![known.content];
                // What is keyed or solved is as long as the scene, and its warnings name frames.
                if self.a_move(id).is_ok_and(|m| m.take().is_none()) {
                    own.push(content(&(scene.length_s, scene.rate)));
                }
                (own, known.needs(p))
            }
            Subject::Motion(id, p) => {
                let known = self.known(Own::Treatments(id));
                let mut needs = known.needs(p);
                needs.push(Subject::Raw(id, p));
                if self.a_move(id).is_ok_and(|m| m.treatments.iter().any(|t| t.kind.goes_by_anybody())) {
                    needs.push(Subject::Performance(p));
                }
                (vec![known.content, content(&scene.rate)], needs)
            }
            Subject::Frames(id, p) => {
                let own = content(&(scene.timebase().rate, scene.timebase().start_frame));
                (vec![own], vec![Subject::Motion(id, p), Subject::Scenery(p)])
            }
            Subject::Picture(id) => {
                let chosen = self.chosen(id).map(|m| Subject::Motion(m.id, self.performance_of(m)));
                (vec![content(&chosen.is_some())], chosen.into_iter().chain([Subject::Layers(id)]).collect())
            }
            Subject::Floor => {
                let there = || self.setups.iter().filter(|s| !s.binned);
                let mut own: Vec<u64> = there().map(|s| self.known(Own::Setup(s.id)).content).collect();
                own.push(content(&(scene.length_s, scene.rate, scene.start_frame)));
                // Whoever has no part yet can be driven.
                own.extend(scene.performers.iter().map(|p| content(&(p.id, p.height_m, p.build))));
                let machines = there().map(|s| Subject::Carriage(s.id, scene.performance));
                (own, machines.chain([Subject::Scenery(scene.performance)]).collect())
            }
        }
    }

    /// Content of a part of a thing, worked out once; that of nothing where the thing is gone.
    fn known(&self, own: Own) -> Arc<Known> {
        if let Some(known) = lock(&self.versions.known).get(&own) {
            return known.clone();
        }
        let known = Arc::new(self.looked_at(own).unwrap_or_default());
        lock(&self.versions.known).insert(own, known.clone());
        known
    }

    fn looked_at(&self, own: Own) -> Option<Known> {
        let scene = &self.scene;
        let piece = |id: PieceId| scene.pieces.iter().find(|p| p.id == id);
        let setup = |id: SetupId| self.setups.iter().find(|s| s.id == id);
        Some(match own {
            Own::Mover(MoverId::Performer(id), p) => {
                let performer = scene.performers.iter().find(|x| x.id == id)?;
                Known::of(&performer_motion(performer, p))
            }
            Own::Mover(MoverId::Piece(id), p) => {
                let piece = piece(id)?;
                let Known { content, mut refers } = Known::of(&PieceMotion::of(piece, p));
                // A card that turns to a camera carries what stands on it along.
                refers.extend(Known::of(&piece.form).refers);
                Known { content, refers }
            }
            // One that is hidden is not there.
            Own::Solids(id, p) => match piece(id)? {
                hidden if hidden.hidden => Known { content: 1, refers: Vec::new() },
                piece => {
                    Known::of(&(id.0, &piece.form, PieceMotion::of(piece, p), piece.position, &piece.wild))
                }
            },
            Own::Form(id) => Known::of(&piece(id)?.form),
            Own::Machine(id) => {
                let setup = setup(id)?;
                Known::of(&(&setup.rig, &setup.camera))
            }
            Own::Setup(id) => {
                let Setup { rig, camera, positions, runs, tracking, .. } = setup(id)?;
                Known::of(&(id.0, rig, camera, positions, runs, tracking))
            }
            Own::Take(id) => {
                let Take { rolled_at, samples, rate_hz, axes, rig, camera, pass, .. } = self.take(id).ok()?;
                let placement = pass.as_ref().map(|p| &p.placement);
                // Samples are not read: id, time and count of a recording say which ones they are.
                Known::of(&(id.0, rolled_at, samples, rate_hz, axes, rig, camera, placement))
            }
            Own::Raw(id) => {
                let of = self.a_move(id).ok()?;
                let (camera, rig) = self.machine_of(of);
                match of.source {
                    // Samples of a take hold what carried its machine and whom that followed.
                    Source::Take { take } => {
                        let refers = vec![(ThingKind::Take, take.0)];
                        Known { content: content(&(camera, rig)), refers }
                    }
                    source => Known::of(&(id.0, source, &of.curves, camera, rig)),
                }
            }
            Own::Treatments(id) => Known::of(&self.a_move(id).ok()?.treatments),
        })
    }

    /// The performance that a move plays against: its own, that of its take or of the move that it follows, or
    /// the one that plays in the scene.
    pub fn performance_of(&self, of: &Move) -> PerformanceId {
        let there = |id: &PerformanceId| self.scene.performances.iter().any(|p| p.id == *id);
        let mut at = of;
        // Edits refuse circles of followers; one that was stored earlier ends here.
        for _ in 0..8 {
            if let Some(own) = at.performance.filter(there) {
                return own;
            }
            match at.source {
                Source::Take { take } => {
                    let rolled = self.take(take).ok().map(|t| t.rolled.performance).filter(there);
                    return rolled.unwrap_or(self.scene.performance);
                }
                Source::Follow { of } => match self.a_move(of) {
                    Ok(followed) => at = followed,
                    Err(_) => break,
                },
                Source::Curves => break,
            }
        }
        self.scene.performance
    }

    /// The camera and the machine of a move: its own, or those of its take or setup.
    pub fn machine_of(&self, of: &Move) -> (rovnek_core::lens::Camera, rovnek_core::rigs::Rigging) {
        let take = of.take().and_then(|id| self.take(id).ok());
        let under = take.map(|t| (&t.camera, &t.rig));
        let under = under.or_else(|| self.setup(of.setup_id).ok().map(|s| (&s.camera, &s.rig)));
        let camera = of.camera.as_ref().or(under.map(|u| u.0)).cloned().unwrap_or_default();
        let free = || rovnek_core::rigs::RigSpec::FreeCamera(Default::default()).into();
        let rig = of.rig.as_ref().or(under.map(|u| u.1)).cloned().unwrap_or_else(free);
        (camera, rig)
    }
}

/// Things that are equal in two documents.
struct Same<'a> {
    now: &'a Document,
    pieces: Equal<PieceId>,
    performers: Equal<PerformerId>,
    setups: Equal<SetupId>,
    takes: Equal<TakeId>,
    moves: Equal<MoveId>,
}

/// Ids of a list whose things are equal in two documents; none when all are.
struct Equal<I>(Option<std::collections::BTreeSet<I>>);

impl<I: Id> Equal<I> {
    fn between<T: Listed<Id = I>>(
        a: &Arc<Vec<T>>,
        b: &Arc<Vec<T>>,
        same: impl Fn(&T, &T) -> bool,
    ) -> Equal<I> {
        if Arc::ptr_eq(a, b) {
            return Equal(None);
        }
        let old: BTreeMap<I, &T> = a.iter().map(|t| (t.id(), t)).collect();
        let equal = |t: &&T| old.get(&t.id()).is_some_and(|old| same(old, t));
        Equal(Some(b.iter().filter(equal).map(|t| t.id()).collect()))
    }

    fn has(&self, id: I) -> bool {
        self.0.as_ref().is_none_or(|equal| equal.contains(&id))
    }
}

impl Same<'_> {
    fn of<'a>(a: &Document, b: &'a Document) -> Same<'a> {
        // What a take is told of the scene as it is now is no part of the take.
        let takes = |a: &Take, b: &Take| *a == Take { changed: a.changed.clone(), ..b.clone() };
        Same {
            now: b,
            pieces: Equal::between(&a.scene.pieces, &b.scene.pieces, PartialEq::eq),
            performers: Equal::between(&a.scene.performers, &b.scene.performers, PartialEq::eq),
            setups: Equal::between(&a.setups, &b.setups, PartialEq::eq),
            takes: Equal::between(&a.takes, &b.takes, takes),
            moves: Equal::between(&a.moves, &b.moves, PartialEq::eq),
        }
    }

    fn has(&self, own: Own) -> bool {
        match own {
            Own::Mover(MoverId::Performer(id), _) => self.performers.has(id),
            Own::Mover(MoverId::Piece(id), _) | Own::Solids(id, _) | Own::Form(id) => self.pieces.has(id),
            Own::Machine(id) | Own::Setup(id) => self.setups.has(id),
            Own::Take(id) => self.takes.has(id),
            // What a move is shot with depends on its setup or take.
            Own::Raw(id) => self.now.a_move(id).is_ok_and(|of| {
                let take = of.take().is_none_or(|take| self.takes.has(take));
                self.moves.has(id) && self.setups.has(of.setup_id) && take
            }),
            Own::Treatments(id) => self.moves.has(id),
        }
    }
}
