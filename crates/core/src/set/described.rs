//! What kinds of pieces say of themselves: their parameters, and how long they are along their own
//! axes. Written once: the page's form and handles and the range check come from it.

use super::{Form, Tape};
use crate::ids::{ImageId, MeshId};
use crate::params::Param;
use crate::solid::Material;
use serde::Serialize;
use ts_rs::TS;

/// A whole length of a piece along one of its own axes, metres:
/// `value(path) · times · (value(each) − less) + plus + value(plus_of)`, and of what is missing nothing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Extent {
    /// The parameter that is changed where somebody asks for another length; none where nothing is.
    pub path: Option<&'static str>,
    /// How often that parameter counts.
    pub times: f64,
    /// Another parameter that it is multiplied with, and how much less of it.
    pub each: Option<(&'static str, f64)>,
    /// Length to add, metres.
    pub plus: f64,
    /// Another parameter on top.
    pub plus_of: Option<&'static str>,
}

impl Extent {
    /// Extent that equals a parameter.
    const fn of(path: &'static str) -> Extent {
        Extent { path: Some(path), times: 1.0, each: None, plus: 0.0, plus_of: None }
    }

    /// Extent of a fixed length, metres.
    const fn fixed(plus: f64) -> Extent {
        Extent { path: None, times: 1.0, each: None, plus, plus_of: None }
    }

    const fn times(self, times: f64) -> Extent {
        Extent { times, ..self }
    }

    const fn each(self, path: &'static str, less: f64) -> Extent {
        Extent { each: Some((path, less)), ..self }
    }

    const fn plus_of(self, path: &'static str) -> Extent {
        Extent { plus_of: Some(path), ..self }
    }
}

/// A kind of piece as it is described.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct PieceKind {
    /// Name of the kind on screen.
    pub word: &'static str,
    /// Form with default values.
    pub usual: Form,
    /// Parameters of the kind.
    pub params: Vec<Param>,
    /// Extents along the piece's own x, y and z; none where a length means nothing.
    pub extents: [Option<Extent>; 3],
    /// Offset of the middle from the foot along the piece's own z; none for a middle at the foot.
    pub middle_z: Option<Extent>,
    /// How a new piece is drawn on the plan; none for a piece that comes with a file.
    pub drawing: Option<Drawing>,
}

/// Gesture that makes a new piece on the plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Gesture {
    /// A click.
    Spot,
    /// A line from end to end.
    Line,
    /// Two opposite corners.
    Area,
}

/// How a new piece is drawn on the plan, and how it comes by the sizes that are not drawn.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
pub struct Drawing {
    /// Gesture on the plan.
    pub by: Gesture,
    /// Key of the tool; none for a tool without a key.
    pub key: Option<char>,
    /// True for a piece as high as the stage.
    pub tall: bool,
    /// True for a piece that stands in a wall.
    pub in_wall: bool,
    /// True for a piece that runs along its longer side and is open towards the middle of the stage.
    pub faces_middle: bool,
    /// Height of the piece's foot above the floor, metres.
    pub foot_m: f64,
    /// Parameter that reaches from the ceiling down to the foot; none for a piece that does not hang.
    pub hangs_by: Option<&'static str>,
    /// Parameter that counts the parts along a line, and the spacing that is wanted, metres; none for a piece of
    /// one part.
    pub repeats: Option<(&'static str, f64)>,
}

impl Drawing {
    const fn by(by: Gesture, key: Option<char>) -> Drawing {
        let (tall, in_wall, faces_middle) = (false, false, false);
        Drawing { by, key, tall, in_wall, faces_middle, foot_m: 0.0, hangs_by: None, repeats: None }
    }
}

/// The largest that anything is, metres.
const LARGEST_M: f64 = 500.0;

/// A length, as it stands.
fn metres(path: &'static str, label: &'static str, now: f64) -> Param {
    Param::row(label, vec![Param::number(path, label, "m", 0.001, LARGEST_M).start(now).step(0.05)])
}

/// Parameter for a number of repeats.
fn count(path: &'static str, label: &'static str, now: u32) -> Param {
    Param::row(label, vec![Param::whole(path, label, "", 1, 200).start(f64::from(now))])
}

/// Length, height and depth that stand in one list.
fn size(now: [f64; 3]) -> Vec<Param> {
    let [x, y, z] = now;
    vec![metres("size/0", "length", x), metres("size/1", "height", y), metres("size/2", "depth", z)]
}

/// Materials of a block, a wall or a column.
const MATERIALS: [(&str, &str); 10] = [
    ("timber", "timber"),
    ("brick", "brick"),
    ("plaster", "plaster"),
    ("concrete", "concrete"),
    ("steel", "steel"),
    ("dark_steel", "dark steel"),
    ("glass", "glass"),
    ("tram_red", "tram red"),
    ("tram_cream", "tram cream"),
    ("signal", "signal"),
];

fn material() -> Param {
    Param::choice("material", "of", &MATERIALS)
}

/// Colours of tape.
const TAPES: [(&str, &str); 6] = [
    ("red", "red"),
    ("yellow", "yellow"),
    ("blue", "blue"),
    ("green", "green"),
    ("orange", "orange"),
    ("white", "white"),
];

impl Form {
    /// One of each kind, as it comes.
    pub fn all() -> Vec<Form> {
        let material = Material::Timber;
        vec![
            Form::Wall { size: [4.0, 3.0, 0.3], material: Material::Brick },
            Form::Door { width: 0.9, height: 2.1, open_deg: 0.0 },
            Form::Window { width: 1.2, height: 1.2, lit: false },
            Form::Opening { width: 1.5, height: 2.1 },
            Form::Block { size: [1.0; 3], material },
            Form::Round { radius: 0.3, height: 0.9, material },
            Form::Stair { steps: 16, rise: 0.18, run: 0.26, width: 1.2 },
            Form::Platform { size: [2.0, 0.6, 1.0] },
            Form::Ramp { size: [1.2, 0.5, 3.0] },
            Form::Pillars { count: 1, spacing: 4.0, width: 0.5, height: 3.0, base: true },
            Form::Gallery { size: [6.0, 2.88, 2.5] },
            Form::Rails { length: 20.0, gauge: 1.435 },
            Form::Tram { length: 14.6, bays: 7, lit: true },
            Form::Vehicle { size: [4.4, 1.9, 1.8] },
            Form::Workbench { length: 3.0 },
            Form::Table { size: [1.6, 0.75, 0.8] },
            Form::Chair,
            Form::Lamp { cord: 1.2 },
            Form::Mark { number: 1, tape: Tape::Yellow },
            Form::Card { image: ImageId(0), width: 2.0, height: 2.0, toward: None, sequence: None },
            Form::Mesh { mesh: MeshId(0), size: [1.0; 3], outline: Vec::new(), scale: 1.0 },
        ]
    }

    /// Descriptions of all kinds.
    pub fn kinds() -> Vec<PieceKind> {
        let kind = |usual: Form| PieceKind {
            word: usual.word(),
            params: usual.params(),
            extents: usual.extents(),
            middle_z: usual.middle_z(),
            drawing: usual.drawing(),
            usual,
        };
        Form::all().into_iter().map(kind).collect()
    }

    /// Name of the kind on screen.
    pub fn word(&self) -> &'static str {
        match self {
            Form::Block { .. } => "box",
            Form::Round { .. } => "cylinder",
            Form::Wall { .. } => "wall",
            Form::Opening { .. } => "opening",
            Form::Door { .. } => "door",
            Form::Window { .. } => "window",
            Form::Stair { .. } => "stair",
            Form::Platform { .. } => "platform",
            Form::Ramp { .. } => "ramp",
            Form::Pillars { .. } => "pillars",
            Form::Gallery { .. } => "gallery",
            Form::Rails { .. } => "tram rails",
            Form::Tram { .. } => "tram",
            Form::Vehicle { .. } => "vehicle",
            Form::Workbench { .. } => "workbench",
            Form::Table { .. } => "table",
            Form::Chair => "chair",
            Form::Lamp { .. } => "lamp",
            Form::Mark { .. } => "mark",
            Form::Card { .. } => "card",
            Form::Mesh { .. } => "mesh",
        }
    }

    /// Parameters with their current values. Their ranges are the check.
    pub fn params(&self) -> Vec<Param> {
        match *self {
            Form::Block { size: now, .. } | Form::Wall { size: now, .. } => {
                let mut params = size(now);
                params.push(material());
                params
            }
            Form::Gallery { size: now }
            | Form::Platform { size: now }
            | Form::Ramp { size: now }
            | Form::Vehicle { size: now }
            | Form::Table { size: now } => size(now),
            Form::Round { radius, height, .. } => {
                vec![metres("radius", "radius", radius), metres("height", "height", height), material()]
            }
            Form::Opening { width, height } | Form::Card { width, height, .. } => {
                vec![metres("width", "width", width), metres("height", "height", height)]
            }
            Form::Door { width, height, open_deg } => {
                let open = Param::number("open_deg", "open", "°", -360.0, 360.0).start(open_deg).step(1.0);
                let open = Param::row("open", vec![open]);
                vec![metres("width", "width", width), metres("height", "height", height), open]
            }
            Form::Window { width, height, .. } => vec![
                metres("width", "width", width),
                metres("height", "height", height),
                Param::switch("lit", "lit"),
            ],
            Form::Stair { steps, rise, run, width } => vec![
                count("steps", "steps", steps),
                metres("rise", "rise", rise),
                metres("run", "run", run),
                metres("width", "width", width),
            ],
            Form::Pillars { count: how_many, spacing, width, height, .. } => vec![
                count("count", "count", how_many),
                metres("spacing", "spacing", spacing),
                metres("width", "thickness", width),
                metres("height", "height", height),
                Param::switch("base", "guards"),
            ],
            Form::Rails { length, gauge } => {
                vec![metres("length", "length", length), metres("gauge", "gauge", gauge)]
            }
            Form::Tram { length, bays, .. } => vec![
                metres("length", "length", length),
                count("bays", "bays", bays),
                Param::switch("lit", "lit"),
            ],
            Form::Workbench { length } => vec![metres("length", "length", length)],
            Form::Chair => Vec::new(),
            Form::Lamp { cord } => vec![metres("cord", "cord", cord)],
            Form::Mark { number, .. } => {
                vec![count("number", "number", number), Param::choice("tape", "tape", &TAPES)]
            }
            Form::Mesh { scale, .. } => {
                let scale = Param::number("scale", "scale", "", 0.001, LARGEST_M).start(scale).step(0.05);
                vec![Param::row("scale", vec![scale])]
            }
        }
    }

    /// Extents along the piece's own x, y and z.
    pub fn extents(&self) -> [Option<Extent>; 3] {
        let of = |path| Some(Extent::of(path));
        let fixed = |m| Some(Extent::fixed(m));
        match self {
            Form::Block { .. }
            | Form::Wall { .. }
            | Form::Gallery { .. }
            | Form::Platform { .. }
            | Form::Ramp { .. }
            | Form::Vehicle { .. }
            | Form::Table { .. } => [of("size/0"), of("size/1"), of("size/2")],
            Form::Round { .. } => {
                let across = Some(Extent::of("radius").times(2.0));
                [across, of("height"), across]
            }
            Form::Opening { .. } | Form::Door { .. } | Form::Window { .. } => {
                [of("width"), of("height"), fixed(0.3)]
            }
            Form::Card { .. } => [of("width"), of("height"), fixed(0.1)],
            Form::Rails { .. } => [of("length"), None, Some(Extent::fixed(0.1).plus_of("gauge"))],
            Form::Tram { .. } => [of("length"), None, fixed(2.4)],
            Form::Workbench { .. } => [of("length"), None, fixed(0.8)],
            Form::Pillars { .. } => {
                let row = Extent::of("spacing").each("count", 1.0).plus_of("width");
                [Some(row), of("height"), Some(Extent::fixed(0.0).plus_of("width"))]
            }
            Form::Stair { .. } => {
                let steps = |path| Some(Extent::of(path).each("steps", 0.0));
                [of("width"), steps("rise"), steps("run")]
            }
            Form::Mesh { .. } => {
                ["size/0", "size/1", "size/2"].map(|path| Some(Extent::of("scale").each(path, 0.0)))
            }
            Form::Chair | Form::Lamp { .. } | Form::Mark { .. } => [None; 3],
        }
    }

    /// Offset of the middle from the foot along the piece's own z; none for a middle at the foot.
    pub fn middle_z(&self) -> Option<Extent> {
        matches!(self, Form::Stair { .. }).then(|| Extent::of("run").each("steps", 0.0).times(-0.5))
    }

    /// How a new piece of the kind is drawn on the plan; none for a piece that comes with a file.
    pub fn drawing(&self) -> Option<Drawing> {
        use Gesture::{Area, Line, Spot};
        let by = |gesture, key| Drawing::by(gesture, Some(key));
        Some(match self {
            Form::Wall { .. } => Drawing { tall: true, ..by(Line, 'W') },
            Form::Door { .. } => Drawing { in_wall: true, ..by(Line, 'D') },
            Form::Window { .. } => Drawing { in_wall: true, foot_m: 1.0, ..by(Line, 'N') },
            Form::Opening { .. } => Drawing { in_wall: true, ..by(Line, 'U') },
            Form::Block { .. } => by(Area, 'B'),
            Form::Round { .. } => by(Area, 'Y'),
            Form::Stair { .. } => by(Spot, 'S'),
            Form::Platform { .. } => by(Area, 'F'),
            Form::Ramp { .. } | Form::Table { .. } => Drawing::by(Area, None),
            Form::Pillars { .. } => Drawing { tall: true, repeats: Some(("count", 7.0)), ..by(Line, 'Q') },
            Form::Gallery { .. } => Drawing { faces_middle: true, ..by(Area, 'G') },
            Form::Rails { .. } => by(Line, 'R'),
            Form::Tram { .. } => by(Spot, 'T'),
            Form::Vehicle { .. } => by(Spot, 'V'),
            Form::Workbench { .. } => by(Spot, 'H'),
            Form::Chair => by(Spot, 'C'),
            Form::Lamp { .. } => Drawing { foot_m: 5.0, hangs_by: Some("cord"), ..by(Spot, 'E') },
            Form::Mark { .. } => by(Spot, 'M'),
            Form::Card { .. } | Form::Mesh { .. } => return None,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::params::{self, Holds};
    use crate::set::Piece;
    use serde_json::Value;

    fn value(form: &Value, path: &str) -> f64 {
        form.pointer(&format!("/{path}")).and_then(Value::as_f64).unwrap_or_else(|| panic!("{path}: {form}"))
    }

    fn length(form: &Value, extent: &Extent) -> f64 {
        let of = |path: Option<&str>| path.map_or(0.0, |path| value(form, path));
        let each = extent.each.map_or(1.0, |(path, less)| value(form, path) - less);
        of(extent.path) * extent.times * each + extent.plus + of(extent.plus_of)
    }

    #[test]
    fn what_a_kind_says_of_itself_is_what_is_kept_of_it() {
        for kind in Form::kinds() {
            let form = serde_json::to_value(&kind.usual).unwrap();
            assert_eq!(params::check(&kind.params), Ok(()), "{}", kind.word);
            for param in &kind.params {
                match &param.holds {
                    Holds::Row { params } => {
                        let Holds::Number { start, .. } = params[0].holds else { panic!("a number") };
                        assert_eq!(value(&form, params[0].path), start);
                    }
                    Holds::Choice { options } => {
                        let now = form[param.path].as_str().unwrap();
                        assert!(options.iter().any(|(word, _)| *word == now), "{now}");
                    }
                    _ => assert!(form[param.path].is_boolean()),
                }
            }
        }
    }

    /// Lengths along the own axes are those of what is built, but for what hangs over.
    #[test]
    fn as_long_as_it_says_is_a_piece_that_is_built() {
        for kind in Form::kinds() {
            let form = serde_json::to_value(&kind.usual).unwrap();
            let piece = Piece::new("piece", kind.usual.clone(), [0.0; 3]);
            let solids = piece.solids(&[]);
            if solids.is_empty() {
                continue;
            }
            let corners = solids.iter().flat_map(crate::set::footprint);
            let (mut low, mut high) = ([f64::INFINITY; 2], [f64::NEG_INFINITY; 2]);
            for corner in corners {
                for k in 0..2 {
                    (low[k], high[k]) = (low[k].min(corner[k]), high[k].max(corner[k]));
                }
            }
            for (k, extent) in [kind.extents[0], kind.extents[2]].iter().enumerate() {
                let Some(extent) = extent else { continue };
                let (said, built) = (length(&form, extent), high[k] - low[k]);
                assert!((said - built).abs() < 0.35 + 0.1 * said, "{}: {said} m, built {built} m", kind.word);
            }
        }
    }
}
