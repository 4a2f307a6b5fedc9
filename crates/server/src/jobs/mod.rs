//! Long work: what is being done, how far it is, the way to stop it, and a result that stays until it is kept or
//! forgotten. A job survives the page that began it. A kind of job is one file here and one line in [`kinds!`].

mod keys;

pub use keys::MakeKeys;

use crate::document::snapshot::Snapshot;
use crate::lock::lock;
use rovnek_core::ids::MoveId;
use rovnek_core::params::{Invalid, Param};
use rovnek_core::samples::Samples;
use rovnek_store::edit::history::Edit;
use rovnek_store::{Result, StoreError};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex};
use tokio::sync::watch;
use ts_rs::TS;

/// A kind of long work, with its parameters.
pub trait Work: Send {
    /// Checks the parameters.
    fn check(&self) -> std::result::Result<(), Invalid>;
    /// Label of the job, a few words, and the move that it is about, if it is about one.
    fn about(&self, now: &Snapshot) -> Result<(String, Option<MoveId>)>;
    /// Does it; `go_on` is told how far it is, 0 to 1, and says whether to go on.
    fn make(
        &self,
        now: &Snapshot,
        go_on: &mut dyn FnMut(f64) -> bool,
    ) -> std::result::Result<Arc<dyn Made>, NotMade>;
}

/// Why a job has made nothing.
pub enum NotMade {
    /// Somebody stopped it.
    Stopped,
    /// It cannot be done: why, and what to do.
    Failed(String),
}

impl From<StoreError> for NotMade {
    fn from(error: StoreError) -> NotMade {
        NotMade::Failed(error.to_string())
    }
}

/// What a job has made.
pub trait Made: Send + Sync {
    /// What was found, in words with figures.
    fn words(&self) -> String;
    /// Curves before and after, to be looked at over those of the move that it is about.
    fn lanes(&self) -> Option<&[Samples; 2]> {
        None
    }
    /// Keeps it in the document, exactly as it was shown; `label` is that of the job.
    fn keep(&self, now: &Snapshot, label: &str, edit: &mut Edit) -> Result<Kept>;
}

/// What became of a result that was kept.
pub struct Kept {
    /// The move that it is now, if it is one.
    pub move_id: Option<MoveId>,
    /// What it is now, a sentence.
    pub words: &'static str,
}

/// A kind of job as the page offers it.
#[derive(Clone, Debug, Serialize, TS)]
pub struct JobKind {
    /// Name of the kind, as requests name it.
    pub name: &'static str,
    /// Heading over its parameters.
    pub word: &'static str,
    /// Word on the button that begins it.
    pub begin: &'static str,
    /// Hint on that button, a sentence.
    pub hint: &'static str,
    /// Word on the button that keeps what it made.
    pub keep: &'static str,
    /// Parameters of the kind.
    pub params: Vec<Param>,
    /// Its parameters with the values that are offered first.
    #[ts(type = "{ [path: string]: unknown }")]
    pub usual: serde_json::Value,
}

macro_rules! kinds {
    ($($(#[$doc:meta])* $name:ident($work:ty)),+ $(,)?) => {
        /// A job to be begun: its kind, with parameters.
        #[derive(Clone, Debug, Serialize, Deserialize, TS)]
        #[serde(tag = "kind", rename_all = "snake_case")]
        pub enum JobRequest {
            $($(#[$doc])* $name($work)),+
        }

        impl JobRequest {
            /// What is to be done.
            pub fn work(self) -> Box<dyn Work> {
                match self { $(JobRequest::$name(work) => Box::new(work)),+ }
            }

            /// Name of its kind.
            pub fn kind(&self) -> &'static str {
                match self { $(JobRequest::$name(_) => <$work>::described().name),+ }
            }

            /// Descriptions of all kinds.
            pub fn kinds() -> Vec<JobKind> {
                vec![$(<$work>::described()),+]
            }
        }
    };
}

kinds! {
    /// Few keys that keep the camera of a move where it is, within a tolerance.
    Keys(keys::MakeKeys),
}

/// Jobs that are over and still listed, at the most; older ones are forgotten.
const LISTED: usize = 20;
/// A share that grows by less than this is not worth telling.
const TELLING: f64 = 0.01;

/// A job as pages see it.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct JobView {
    /// Number of the job.
    pub id: u32,
    /// Label, a few words.
    pub label: String,
    /// The move it is about, if it is about one.
    pub move_id: Option<MoveId>,
    /// State of the job.
    #[serde(flatten)]
    pub state: JobState,
}

/// State of a job for pages.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
#[serde(rename_all = "snake_case", tag = "state")]
pub enum JobState {
    /// Others are before it.
    Waiting,
    /// Job that runs.
    Running {
        /// Share that is done, 0 to 1.
        share: f64,
    },
    /// There is something to be looked at, and to be kept.
    Done {
        /// Kind of the job.
        kind: &'static str,
        /// What was found, in words with figures.
        words: String,
        /// It has curves to be looked at over those of the move.
        lanes: bool,
    },
    /// It could not be done.
    Failed {
        /// Why, and what to do.
        sentence: String,
    },
    /// Somebody stopped it.
    Stopped,
}

impl JobState {
    /// True for a job that waits or runs.
    fn open(&self) -> bool {
        matches!(self, JobState::Waiting | JobState::Running { .. })
    }
}

/// Jobs of the application.
pub struct Jobs {
    list: watch::Sender<Arc<Vec<JobView>>>,
    inner: Mutex<Inner>,
}

#[derive(Default)]
struct Inner {
    last: u32,
    stops: BTreeMap<u32, Arc<AtomicBool>>,
    made: BTreeMap<u32, Arc<dyn Made>>,
}

/// A job's own end of it.
pub struct Progress<'a> {
    jobs: &'a Jobs,
    id: u32,
    stop: Arc<AtomicBool>,
    told: f64,
}

impl Progress<'_> {
    /// Tells how far it is, from 0 to 1; whether to go on.
    pub fn at(&mut self, share: f64) -> bool {
        if share >= self.told + TELLING {
            self.told = share;
            self.jobs.set(self.id, JobState::Running { share });
        }
        !self.stop.load(Ordering::Relaxed)
    }
}

/// A job that is listed until this is let go of, however the waiting ends.
pub struct WaitedFor<'a> {
    jobs: &'a Jobs,
    /// Number of the job.
    pub id: u32,
}

impl Drop for WaitedFor<'_> {
    fn drop(&mut self) {
        self.jobs.forget(self.id);
    }
}

impl Default for Jobs {
    fn default() -> Jobs {
        Jobs { list: watch::channel(Arc::default()).0, inner: Mutex::default() }
    }
}

impl Jobs {
    /// Told whenever one comes, goes on or ends.
    pub fn changes(&self) -> watch::Receiver<Arc<Vec<JobView>>> {
        self.list.subscribe()
    }

    /// All of them, in the order they were begun.
    pub fn all(&self) -> Arc<Vec<JobView>> {
        self.list.borrow().clone()
    }

    /// Lists a job that waits.
    pub fn begin(&self, label: String, move_id: Option<MoveId>) -> JobView {
        let mut inner = lock(&self.inner);
        inner.last += 1;
        let id = inner.last;
        inner.stops.insert(id, Arc::default());
        let job = JobView { id, label, move_id, state: JobState::Waiting };
        self.list.send_modify(|list| {
            let list = Arc::make_mut(list);
            list.push(job.clone());
            if list.iter().filter(|j| !j.state.open()).count() > LISTED
                && let Some(old) = list.iter().position(|j| !j.state.open())
            {
                inner.made.remove(&list.remove(old).id);
            }
        });
        job
    }

    /// Lists a job about no move for as long as somebody waits for its end.
    pub fn waited_for(&self, label: String) -> WaitedFor<'_> {
        WaitedFor { jobs: self, id: self.begin(label, None).id }
    }

    /// The job's own end; none where it was stopped before its turn came.
    pub fn run(&self, id: u32) -> Option<Progress<'_>> {
        let stop = lock(&self.inner).stops.get(&id)?.clone();
        if stop.load(Ordering::Relaxed) {
            self.end(id, JobState::Stopped, None);
            return None;
        }
        self.set(id, JobState::Running { share: 0.0 });
        Some(Progress { jobs: self, id, stop, told: 0.0 })
    }

    /// How a job ended, and what it made.
    pub fn end(&self, id: u32, state: JobState, made: Option<Arc<dyn Made>>) {
        {
            let mut inner = lock(&self.inner);
            inner.stops.remove(&id);
            if let Some(made) = made {
                inner.made.insert(id, made);
            }
        }
        self.set(id, state);
    }

    fn set(&self, id: u32, state: JobState) {
        self.list.send_modify(|list| {
            if let Some(job) = Arc::make_mut(list).iter_mut().find(|j| j.id == id) {
                job.state = state;
            }
        });
    }

    /// Asks a job to stop; one that is over is taken off the list.
    pub fn stop(&self, id: u32) {
        let open = lock(&self.inner).stops.get(&id).cloned();
        match open {
            Some(stop) => stop.store(true, Ordering::Relaxed),
            None => self.forget(id),
        }
    }

    /// Asks all of them to stop and takes them off the list: what they were about is no longer there.
    pub fn stop_all(&self) {
        for job in self.all().iter() {
            self.stop(job.id);
            self.forget(job.id);
        }
    }

    /// Takes a job off the list, with what it made.
    pub fn forget(&self, id: u32) {
        let mut inner = lock(&self.inner);
        inner.stops.remove(&id);
        inner.made.remove(&id);
        self.list.send_modify(|list| Arc::make_mut(list).retain(|j| j.id != id));
    }

    /// Result of a job, and the job.
    pub fn made(&self, id: u32) -> Option<(JobView, Arc<dyn Made>)> {
        let made = lock(&self.inner).made.get(&id)?.clone();
        Some((self.all().iter().find(|j| j.id == id)?.clone(), made))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_kind_is_begun_by_the_name_and_the_parameters_that_it_offers() {
        for kind in JobRequest::kinds() {
            let mut wanted = kind.usual.clone();
            wanted["kind"] = kind.name.into();
            wanted["move_id"] = 1.into();
            let request: JobRequest = serde_json::from_value(wanted).expect(kind.name);
            assert_eq!(request.kind(), kind.name);
            assert_eq!(request.work().check(), Ok(()), "{}", kind.name);
        }
    }

    fn state(jobs: &Jobs, id: u32) -> Option<JobState> {
        jobs.all().iter().find(|j| j.id == id).map(|j| j.state.clone())
    }

    #[test]
    fn a_job_is_told_of_stopped_and_taken_off_the_list() {
        let jobs = Jobs::default();
        let mut told = jobs.changes();
        let id = jobs.begin("keys of take 1".into(), Some(MoveId(1))).id;
        assert_eq!(state(&jobs, id), Some(JobState::Waiting));
        let mut progress = jobs.run(id).unwrap();
        assert!(progress.at(0.5) && told.has_changed().unwrap());
        told.mark_unchanged();
        // Less than can be seen is not told.
        assert!(progress.at(0.5001) && !told.has_changed().unwrap());
        jobs.stop(id);
        assert!(!progress.at(0.7));
        jobs.end(id, JobState::Stopped, None);
        assert_eq!(state(&jobs, id), Some(JobState::Stopped));
        jobs.stop(id);
        assert_eq!((state(&jobs, id), jobs.made(id).is_none()), (None, true));
    }

    #[test]
    fn one_that_somebody_waits_for_is_listed_as_long_as_they_do() {
        let jobs = Jobs::default();
        let waited = jobs.waited_for("bring in hall".into());
        let id = waited.id;
        let mut progress = jobs.run(id).unwrap();
        assert!(progress.at(0.5));
        drop(waited);
        // The work may still go on; nobody is told of it.
        progress.at(0.9);
        assert_eq!(state(&jobs, id), None);
    }

    #[test]
    fn one_that_is_stopped_before_its_turn_does_nothing_and_old_ones_are_forgotten() {
        let jobs = Jobs::default();
        let first = jobs.begin("first".into(), None).id;
        jobs.stop(first);
        assert!(jobs.run(first).is_none());
        assert_eq!(state(&jobs, first), Some(JobState::Stopped));
        for _ in 0..LISTED + 2 {
            let id = jobs.begin("more".into(), Some(MoveId(1))).id;
            jobs.end(id, JobState::Failed { sentence: "no".into() }, None);
        }
        assert_eq!((state(&jobs, first), jobs.all().len()), (None, LISTED + 1));
    }
}
