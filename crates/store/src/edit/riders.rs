//! Loads of a machine: placed anew with it, and never carrying it themselves.

use crate::edit::history::Edit;
use crate::model::Setup;
use crate::rows::read;
use crate::{Result, StoreError};
use rovnek_core::DVec3;
use rovnek_core::carrier::Carrier;
use rovnek_core::ids::{PieceId, SceneId, SetupId};
use rovnek_core::performer::{PartMotion, Route};
use rovnek_core::set::Piece;
use rovnek_core::space::{PanTiltRoll, Pose};

/// Pose of a machine's carriage before anybody drives it; on the floor, or on its carrier.
fn starts(setup: &Setup) -> Pose {
    let rig = setup.rig.build(&setup.camera);
    let start: Vec<f64> = rig.axes().iter().map(|a| a.start).collect();
    rig.forward(&start).carriage
}

/// Way and turn of the things that are brought along.
struct Displacement {
    by: Pose,
    turn_deg: f64,
}

impl Displacement {
    fn place(&self, position: &mut [f64; 3]) {
        *position =
            self.by.then(Pose { position: DVec3::from(*position), ..Pose::ORIGIN }).position.to_array();
    }

    fn route(&self, route: &mut Route) {
        for waypoint in route.waypoints.iter_mut() {
            self.place(&mut waypoint.position);
            waypoint.facing_deg = waypoint.facing_deg.map(|deg| deg + self.turn_deg);
        }
    }
}

impl Edit<'_> {
    /// A machine that stands somewhere else now brings along whoever stands on it.
    pub(crate) fn bring_riders(&mut self, scene: SceneId, old: &Setup, now: &Setup) -> Result<()> {
        // Of one that is carried, the carrier says where it stands.
        if old.rig.carried.is_some() || now.rig.carried.is_some() || old.rig == now.rig {
            return Ok(());
        }
        let (from, to) = (starts(old), starts(now));
        if from.position.distance(to.position) < 1e-9 && from.angle_to(to) < 1e-9 {
            return Ok(());
        }
        let by = to.then(from.inverse());
        let turn_deg = PanTiltRoll::from_rotation(by.rotation).pan.to_degrees();
        let brought = Displacement { by, turn_deg };
        let here =
            |carrier: Option<Carrier>| matches!(carrier, Some(Carrier::Setup { id, .. }) if id == now.id);
        for mut piece in self.pieces(scene)?.into_iter().filter(|p| here(p.rides)) {
            brought.place(&mut piece.position);
            piece.turn_deg += turn_deg;
            piece.routes.iter_mut().for_each(|r| brought.route(&mut r.route));
            self.put(&piece)?;
        }
        for mut performer in self.performers(scene)? {
            let mut any = false;
            for part in performer.parts.iter_mut().filter(|p| here(p.rides)) {
                any = true;
                match &mut part.motion {
                    PartMotion::Walks { route } => brought.route(route),
                    PartMotion::Captured { position, turn_deg: turned, .. } => {
                        brought.place(position);
                        *turned += turn_deg;
                    }
                }
            }
            if any {
                self.put(&performer)?;
            }
        }
        Ok(())
    }

    /// Refuses a machine that would carry itself, over whatever it carries.
    pub(crate) fn check_carriers(&self, scene: SceneId) -> Result<()> {
        // Most scenes have no machine that is carried, and every edit asks.
        let any = "SELECT EXISTS (SELECT 1 FROM setup WHERE scene_id = ?1 AND rig LIKE '%\"carried\"%')";
        if !self.db().query_row(any, [scene.0], |r| r.get::<_, bool>(0))? {
            return Ok(());
        }
        let setups = read::setups(self.db(), scene)?;
        let (pieces, performers) = (self.pieces(scene)?, self.performers(scene)?);
        let of_piece = |id: PieceId| pieces.iter().find(|p: &&Piece| p.id == id).and_then(|p| p.rides);
        // The machines that something hangs on, over a piece and somebody.
        let machines = |carrier: Option<Carrier>| -> Vec<SetupId> {
            let all: Vec<Option<Carrier>> = match carrier {
                Some(Carrier::Performer { id }) => {
                    let who = performers.iter().filter(|p| p.id == id);
                    who.flat_map(|p| &p.parts).map(|part| part.rides).collect()
                }
                other => vec![other],
            };
            let machine = |carrier: Option<Carrier>| match carrier? {
                Carrier::Setup { id, .. } => Some(id),
                Carrier::Piece { id } => match of_piece(id)? {
                    Carrier::Setup { id, .. } => Some(id),
                    _ => None,
                },
                Carrier::Performer { .. } => None,
            };
            all.into_iter().filter_map(machine).collect()
        };
        for setup in &setups {
            let (mut wanted, mut seen) = (machines(setup.rig.carried), Vec::new());
            while let Some(id) = wanted.pop() {
                if id == setup.id {
                    let sentence = format!(
                        "the machine of setup {} would carry itself; let the floor carry it, or what stands on it",
                        setup.letter
                    );
                    return Err(StoreError::Refused(sentence));
                }
                if !seen.contains(&id) {
                    seen.push(id);
                    wanted.extend(setups.iter().filter(|s| s.id == id).flat_map(|s| machines(s.rig.carried)));
                }
            }
        }
        Ok(())
    }
}
