//! Pieces of the set on the plan: what a door or a gallery looks like from above is known here and nowhere else.

use super::{MarkShape, Place, PlanMark, Role};
use crate::DVec3;
use crate::ids::PieceId;
use crate::set::{Form, Piece, convex_hull, footprint};
use crate::solid::Solid;
use serde::Serialize;
use ts_rs::TS;

/// Place of a piece's name on the plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum PlanLabel {
    /// In the piece, where there is room.
    Inside,
    /// In the piece, also on small plans: people find their way by it.
    Landmark,
    /// Its number beside it.
    Number,
    /// None.
    None,
}

/// A piece on the plan.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PiecePlan {
    /// The piece.
    pub piece: PieceId,
    /// Marks, from the lowest to the topmost.
    pub marks: Vec<PlanMark>,
    /// Least x and z, greatest x and z.
    pub bounds: [f64; 4],
    /// It hangs over people's heads: plans draw it as seen through.
    pub overhead: bool,
    /// It is taken hold of by its ink alone, and not by the box around it, which may be large.
    pub thin: bool,
    /// Place of its name.
    pub label: PlanLabel,
}

/// From here up a piece hangs over people's heads, metres.
const OVERHEAD_M: f64 = 2.4;
/// How thick a wall is taken to be where a door opens it, metres: what is thicker keeps its edges.
const THROUGH_M: f64 = 0.3;

/// Every piece that is not hidden, as the plan draws it: large ones first, so that small ones lie on top.
pub fn pieces(pieces: &[Piece]) -> Vec<PiecePlan> {
    let mut all: Vec<PiecePlan> = pieces.iter().filter(|p| !p.hidden).map(|p| drawn(p, pieces)).collect();
    let area = |p: &PiecePlan| (p.bounds[2] - p.bounds[0]) * (p.bounds[3] - p.bounds[1]);
    all.sort_by(|a, b| area(b).total_cmp(&area(a)));
    all
}

/// Outline of a piece from above, around its own foot and unturned.
pub fn outline(piece: &Piece, others: &[Piece]) -> Vec<Place> {
    match piece.outline() {
        bare if bare.is_empty() => convex_hull(piece.parts(others).iter().flat_map(footprint).collect()),
        outline => outline,
    }
}

fn drawn(piece: &Piece, others: &[Piece]) -> PiecePlan {
    let place = |x: f64, z: f64| {
        let at = piece.pose().position + piece.pose().rotation * DVec3::new(x, 0.0, z);
        [at.x, at.z]
    };
    let mut areas: Vec<(Role, Vec<Vec<Place>>)> = Vec::new();
    let mut put = |role: Role, outline: Vec<Place>| match areas.iter_mut().find(|(known, _)| *known == role) {
        Some((_, outlines)) => outlines.push(outline),
        None => areas.push((role, vec![outline])),
    };
    let mut leaf = None;
    if let Form::Door { width, .. } = piece.form {
        let (w, t) = (width / 2.0, THROUGH_M / 2.0);
        put(Role::Gap, [(-w, -t), (w, -t), (w, t), (-w, t)].map(|(x, z)| place(x, z)).into());
        let [hinge, closed, open] = [place(-w, 0.0), place(w, 0.0), place(-w, width)];
        leaf = Some(MarkShape::Leaf { hinge, closed, open, radius_m: width });
    }
    for solid in piece.solids(others) {
        if let Some(role) = role(&piece.form, &solid) {
            put(role, footprint(&solid));
        }
    }
    let outline = piece.outline();
    if !outline.is_empty() {
        let role = if matches!(piece.form, Form::Opening { .. }) { Role::Gap } else { Role::Thing };
        put(role, outline.iter().map(|[x, z]| place(*x, *z)).collect());
    }
    let foot = [piece.position[0], piece.position[2]];
    let inked = || areas.iter().flat_map(|(_, outlines)| outlines.iter().flatten().copied());
    // A piece of which nothing is drawn still has its place.
    let points = inked().chain(inked().next().is_none().then_some(foot));
    let nowhere = [f64::INFINITY, f64::INFINITY, f64::NEG_INFINITY, f64::NEG_INFINITY];
    let bounds = points.fold(nowhere, |[left, top, right, bottom], [x, z]| {
        [left.min(x), top.min(z), right.max(x), bottom.max(z)]
    });
    let areas =
        areas.into_iter().map(|(role, outlines)| PlanMark { role, shape: MarkShape::Areas { outlines } });
    let marks = areas.chain(leaf.map(|shape| PlanMark { role: Role::Way, shape })).collect();
    let in_wall = matches!(piece.form, Form::Door { .. } | Form::Window { .. } | Form::Opening { .. });
    PiecePlan {
        piece: piece.id,
        marks,
        bounds,
        overhead: piece.position[1] >= OVERHEAD_M && !in_wall,
        thin: matches!(piece.form, Form::Wall { .. } | Form::Rails { .. }),
        label: label(&piece.form),
    }
}

fn label(form: &Form) -> PlanLabel {
    match form {
        Form::Mark { .. } => PlanLabel::Number,
        Form::Tram { .. } | Form::Gallery { .. } => PlanLabel::Landmark,
        // Steps say what they are, and words over them cannot be read.
        Form::Rails { .. } | Form::Stair { .. } => PlanLabel::None,
        _ => PlanLabel::Inside,
    }
}

/// Role of a solid on the plan; none for one that would only crowd it.
fn role(form: &Form, solid: &Solid) -> Option<Role> {
    let only = |names: &[&str], role: Role| names.contains(&&*solid.body.name).then_some(role);
    match form {
        Form::Wall { .. } | Form::Pillars { .. } => Some(Role::Wall),
        Form::Door { .. } => only(&["leaf"], Role::Wall),
        Form::Window { .. } => only(&["pane"], Role::Glass),
        Form::Stair { .. } => only(&["step"], Role::Thing),
        Form::Gallery { .. } | Form::Platform { .. } => only(&["deck"], Role::Thing),
        Form::Tram { .. } => only(&["side"], Role::Thing),
        Form::Vehicle { .. } => only(&["body", "cab"], Role::Thing),
        Form::Workbench { .. } | Form::Table { .. } => only(&["top"], Role::Thing),
        Form::Chair => (solid.body.name != "leg").then_some(Role::Thing),
        Form::Lamp { .. } => only(&["shade"], Role::Gap),
        Form::Rails { .. } => Some(Role::Rail),
        Form::Mark { .. } => Some(Role::Tape),
        Form::Block { .. } | Form::Round { .. } | Form::Ramp { .. } => Some(Role::Thing),
        Form::Card { .. } => Some(Role::Wall),
        // These have an outline instead of solids.
        Form::Opening { .. } | Form::Mesh { .. } => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::set::Tape;
    use crate::solid::Material;

    fn piece(id: u32, form: Form, position: [f64; 3], turn_deg: f64) -> Piece {
        Piece { id: PieceId(id), turn_deg, ..Piece::new("piece", form, position) }
    }

    fn block(id: u32, size: f64, x: f64) -> Piece {
        let form = Form::Block { size: [size, 1.0, size], material: Material::Timber };
        piece(id, form, [x, 0.0, x], 0.0)
    }

    #[test]
    fn small_pieces_lie_on_large_ones_and_bounds_go_round_what_is_drawn() {
        let all = pieces(&[block(1, 1.0, 0.0), block(2, 4.0, 5.0)]);
        assert_eq!(all.iter().map(|p| p.piece.0).collect::<Vec<_>>(), [2, 1]);
        assert_eq!(all[0].bounds, [3.0, 3.0, 7.0, 7.0]);
        assert_eq!(pieces(&[Piece { hidden: true, ..block(1, 1.0, 0.0) }]), []);
    }

    #[test]
    fn a_door_opens_its_wall_and_shows_how_it_swings() {
        // Turned to the right by a quarter: what was to the right of its foot is towards the viewer.
        let form = Form::Door { width: 1.0, height: 2.1, open_deg: 0.0 };
        let door = &pieces(&[piece(2, form, [1.0, 0.0, 0.0], 90.0)])[0];
        assert_eq!(door.marks.iter().map(|m| m.role).collect::<Vec<_>>(), [Role::Gap, Role::Wall, Role::Way]);
        let MarkShape::Leaf { hinge, closed, open, radius_m } = door.marks[2].shape else { panic!() };
        let near = |a: Place, b: Place| (a[0] - b[0]).hypot(a[1] - b[1]) < 1e-9;
        assert!(near(hinge, [1.0, -0.5]) && near(closed, [1.0, 0.5]), "{hinge:?} {closed:?}");
        assert!(near(open, [0.0, -0.5]) && radius_m == 1.0, "{open:?}");
    }

    #[test]
    fn what_hangs_over_heads_is_seen_through_unless_it_stands_in_a_wall() {
        let lamp = piece(3, Form::Lamp { cord: 1.0 }, [1.0, 5.0, 1.0], 0.0);
        let pane = piece(4, Form::Window { width: 1.0, height: 1.0, lit: false }, [1.0, 3.0, 1.0], 0.0);
        let mark = piece(5, Form::Mark { number: 2, tape: Tape::Red }, [0.0; 3], 0.0);
        let all = pieces(&[lamp, pane, mark]);
        let of = |id: u32| all.iter().find(|p| p.piece.0 == id).unwrap();
        assert_eq!([of(3).overhead, of(4).overhead], [true, false]);
        assert_eq!((of(5).label, of(5).marks[0].role), (PlanLabel::Number, Role::Tape));
    }

    #[test]
    fn every_form_has_ink_within_its_bounds() {
        for form in crate::set::Form::kinds().into_iter().map(|kind| kind.usual) {
            let all = pieces(&[piece(1, form.clone(), [2.0, 0.0, -3.0], 30.0)]);
            let [left, top, right, bottom] = all[0].bounds;
            assert!(
                left <= right && top <= bottom && all[0].bounds.iter().all(|v| v.is_finite()),
                "{form:?}"
            );
            let bare = matches!(form, Form::Mesh { .. });
            assert_eq!(all[0].marks.is_empty(), bare, "{form:?}");
        }
    }
}
