//! Keys of a move: as few as keep its camera where it is, within a tolerance.

use super::{JobKind, Kept, Made, NotMade, Work};
use crate::document::snapshot::Snapshot;
use crate::evaluated::moves::{Evaluated, parts_of, title_of};
use rovnek_core::ids::MoveId;
use rovnek_core::lanes::shown;
use rovnek_core::lens::Camera;
use rovnek_core::moves::{KeysOf, NoKeys, Tolerance, by_keys, keys_of};
use rovnek_core::params::{Invalid, Param};
use rovnek_core::rigs::Rigging;
use rovnek_core::samples::Samples;
use rovnek_store::Result;
use rovnek_store::edit::history::Edit;
use rovnek_store::model::{Move, NewMove, Source};
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use ts_rs::TS;

/// Makes keys of a move as it now is.
#[derive(Clone, Debug, Serialize, Deserialize, TS)]
pub struct MakeKeys {
    /// The move.
    pub move_id: MoveId,
    /// How far its camera may get from where it is.
    #[serde(flatten)]
    pub tolerance: Tolerance,
}

impl MakeKeys {
    /// Its description.
    pub fn described() -> JobKind {
        let cm = Param::number("position_cm", "position", "cm", 0.01, 100.0).start(1.0).log();
        let deg = Param::number("rotation_deg", "rotation", "°", 0.001, 30.0).start(0.2).log();
        JobKind {
            name: "keys",
            word: "Make keys of it",
            begin: "Make keys",
            hint: "As few keys as keep the camera within that; ordinary keys afterwards.",
            keep: "Keep as a move",
            params: vec![Param::row("within", vec![cm, deg])],
            usual: serde_json::json!({"position_cm": 1.0, "rotation_deg": 0.2}),
        }
    }
}

/// Keys of a move, and shown axes before and under them. What the move was among is not held on to.
struct MadeKeys {
    keys: KeysOf,
    of: Move,
    camera: Camera,
    rigging: Rigging,
    lanes: [Samples; 2],
}

impl Work for MakeKeys {
    fn check(&self) -> std::result::Result<(), Invalid> {
        self.tolerance.check().map_err(|e| Invalid { path: String::new(), sentence: e.to_string() })
    }

    fn about(&self, now: &Snapshot) -> Result<(String, Option<MoveId>)> {
        let (of, setup, take) = parts_of(&now.document, self.move_id)?;
        Ok((format!("keys of {}", title_of(of, setup, take)), Some(self.move_id)))
    }

    fn make(
        &self,
        now: &Snapshot,
        go_on: &mut dyn FnMut(f64) -> bool,
    ) -> std::result::Result<Arc<dyn Made>, NotMade> {
        let m = now.evaluate(self.move_id)?;
        let keys = keys_of(&*m.rig, &m.now.samples, self.tolerance, go_on).map_err(|e| match e {
            NoKeys::Stopped => NotMade::Stopped,
            other => NotMade::Failed(other.to_string()),
        })?;
        let by_keys = by_keys(&*m.rig, &m.now.samples, &keys.curves);
        let lanes = [&m.now.samples, &by_keys].map(|samples| shown(m.rig.axes(), samples));
        let Evaluated { of, camera, rigging, .. } = m;
        Ok(Arc::new(MadeKeys { keys, of, camera, rigging, lanes }))
    }
}

impl Made for MadeKeys {
    fn words(&self) -> String {
        let KeysOf { count, position_cm, rotation_deg, .. } = self.keys;
        format!("{count} keys, at most {position_cm:.2} cm and {rotation_deg:.2}° off")
    }

    fn lanes(&self) -> Option<&[Samples; 2]> {
        Some(&self.lanes)
    }

    /// A move of its own; its setup's machine runs it, where that is the machine they were made for.
    fn keep(&self, now: &Snapshot, label: &str, edit: &mut Edit) -> Result<Kept> {
        let MadeKeys { of, camera, rigging, .. } = self;
        let setup = now.document.setup(of.setup_id)?;
        let same = (&setup.camera, &setup.rig) == (camera, rigging);
        let made = edit.add_move(&NewMove {
            setup_id: of.setup_id,
            name: label.into(),
            source: Source::Curves,
            performance: Some(now.document.performance_of(of)),
            variant_of: None,
            curves: self.keys.curves.clone(),
            run: same,
        })?;
        if !same {
            edit.own(made, Some(camera), Some(rigging))?;
        }
        let words = if same {
            "The keys are a move of their own; the setup’s machine runs it."
        } else {
            "The keys are a move of their own, with the machine as it stood for the take."
        };
        Ok(Kept { move_id: Some(made), words })
    }
}
