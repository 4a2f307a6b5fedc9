//! A plan as SVG, to scale: marks with roles in metres become lines in millimetres of paper.

use rovnek_core::plan::{MarkShape, Place, PlanMark, Role};
use svg::node::element::path::Data;
use svg::node::element::{Circle, Group, Path, Rectangle, Text};
use svg::{Document, Node};

/// Width and height of the paper, millimetres: A3 lying (ISO 216).
const PAPER_MM: [f64; 2] = [420.0, 297.0];
/// Margin on every side, millimetres.
const MARGIN_MM: f64 = 6.0;
/// Height of the strip below the drawing with title and scale bar, millimetres.
const STRIP_MM: f64 = 18.0;
/// Scales that plans of stages are drawn to, one over these (common practice, no source).
const SCALES: [f64; 8] = [10.0, 20.0, 25.0, 50.0, 75.0, 100.0, 200.0, 500.0];

/// Pen and fill of a role.
struct Pen {
    fill: &'static str,
    stroke: &'static str,
    width_mm: f64,
    dash: &'static str,
}

const fn pen(fill: &'static str, stroke: &'static str, width_mm: f64, dash: &'static str) -> Pen {
    Pen { fill, stroke, width_mm, dash }
}

const INK: &str = "#1b1b1b";
const BLUE: &str = "#1f5fa8";

/// How each role is drawn: in ink and one blue, so that a copy in grey still reads.
const fn pen_of(role: Role) -> Pen {
    match role {
        Role::Wall | Role::Track => pen(INK, "none", 0.0, ""),
        Role::Thing => pen("#efece4", INK, 0.18, ""),
        Role::Glass | Role::Tape => pen(BLUE, "none", 0.0, ""),
        Role::Rail | Role::Sleeper => pen("#c9c4b6", "none", 0.0, ""),
        Role::Gap => pen("#ffffff", INK, 0.18, ""),
        Role::Way => pen("none", INK, 0.13, ""),
        Role::Guide => pen("none", "#8d8778", 0.25, ""),
        Role::Rough => pen("none", "#b3432b", 0.25, ""),
        Role::Machine => pen("#5a5a5a", INK, 0.13, ""),
        Role::Person => pen(INK, "none", 0.0, ""),
        Role::Walk => pen("none", INK, 0.18, "2 1.4"),
        Role::Path => pen("none", BLUE, 0.5, ""),
        Role::Tick => pen("none", BLUE, 0.25, ""),
        Role::Sight => pen("none", BLUE, 0.18, "3 1 0.6 1"),
        Role::Dimension => pen("none", INK, 0.13, ""),
    }
}

/// Words in the strip below the drawing.
pub struct Title<'a> {
    /// Number and name of the scene.
    pub scene: &'a str,
    /// What is drawn: setup, take, variant.
    pub what: &'a str,
}

/// Marks as one sheet, to the largest scale at which they fit.
pub fn write(marks: &[PlanMark], title: &Title) -> Vec<u8> {
    let sheet = Sheet::around(marks);
    let [width, height] = PAPER_MM;
    let paper = Rectangle::new().set("width", width).set("height", height).set("fill", "#ffffff");
    let mut document = Document::new()
        .set("width", format!("{width}mm"))
        .set("height", format!("{height}mm"))
        .set("viewBox", (0, 0, width, height))
        .set("font-family", "sans-serif")
        .add(paper);
    for mark in marks {
        document.append(sheet.drawn(mark));
    }
    document.append(sheet.strip(title));
    document.to_string().into_bytes()
}

/// A place on the paper, millimetres from its upper left corner.
type OnPaper = (f64, f64);

/// Where the world lies on the paper.
struct Sheet {
    /// Millimetres of the world in a millimetre of paper.
    scale: f64,
    /// Place of the world in the middle of the drawing.
    middle: Place,
}

impl Sheet {
    fn around(marks: &[PlanMark]) -> Sheet {
        // What the lens sees may go far beyond the stage, and is cut off at the edge of the paper.
        let whole = bounds(marks, |role| role != Role::Sight);
        // A leaf swings out of the stage: the sheet makes room for it, but is not drawn smaller for it.
        let Some(needed) = bounds(marks, |role| !matches!(role, Role::Sight | Role::Way)).or(whole) else {
            return Sheet { scale: SCALES[0], middle: [0.0, 0.0] };
        };
        let room = [PAPER_MM[0] - 2.0 * MARGIN_MM, PAPER_MM[1] - 2.0 * MARGIN_MM - STRIP_MM];
        let wanted = [0, 1].map(|i| (needed[i].1 - needed[i].0) / room[i] * 1000.0);
        let wanted = wanted[0].max(wanted[1]);
        // A set for which no usual scale has room is drawn to a round one that has.
        let scale = SCALES.into_iter().find(|s| *s >= wanted).unwrap_or((wanted / 100.0).ceil() * 100.0);
        let middle = [0, 1].map(|i| {
            let (from, to) = needed[i];
            let spare = (room[i] * scale / 1000.0 - (to - from)).max(0.0) / 2.0;
            let all = whole.map_or((from, to), |whole| whole[i]);
            let shift = (all.0 + all.1 - from - to) / 2.0;
            (from + to) / 2.0 + shift.clamp(-spare, spare)
        });
        Sheet { scale, middle }
    }

    fn mm(&self, metres: f64) -> f64 {
        rounded(metres * 1000.0 / self.scale)
    }

    fn at(&self, [x, z]: Place) -> OnPaper {
        let middle = [PAPER_MM[0] / 2.0, (PAPER_MM[1] - STRIP_MM) / 2.0];
        let place = |i: usize, v: f64| rounded(middle[i] + (v - self.middle[i]) * 1000.0 / self.scale);
        (place(0, x), place(1, z))
    }

    fn drawn(&self, mark: &PlanMark) -> Group {
        let pen = pen_of(mark.role);
        let mut group = Group::new()
            .set("class", format!("{:?}", mark.role).to_lowercase())
            .set("fill", pen.fill)
            .set("stroke", pen.stroke)
            .set("stroke-width", pen.width_mm);
        if !pen.dash.is_empty() {
            group.assign("stroke-dasharray", pen.dash);
        }
        match &mark.shape {
            MarkShape::Areas { outlines } => group.append(self.lines(outlines, true)),
            MarkShape::Lines { lines } => group.append(self.lines(lines, false)),
            MarkShape::Leaf { hinge, closed, open, radius_m } => {
                let (radius, (x, y)) = (self.mm(*radius_m), self.at(*open));
                let arc = (radius, radius, 0, 0, 1, x, y);
                let data = Data::new().move_to(self.at(*closed)).elliptical_arc_to(arc);
                group.append(Path::new().set("d", data.line_to(self.at(*hinge))));
            }
            MarkShape::Spots { places, radius_m } => {
                for (x, y) in places.iter().map(|place| self.at(*place)) {
                    group.append(Circle::new().set("cx", x).set("cy", y).set("r", self.mm(*radius_m)));
                }
            }
            MarkShape::Words { at, text } => group.append(words(self.at(*at), text)),
            MarkShape::Length { from, to } => {
                let length_m = (to[0] - from[0]).hypot(to[1] - from[1]);
                let (data, middle, turn_deg) = measured(self.at(*from), self.at(*to));
                group.append(Path::new().set("d", data));
                let turn = format!("rotate({turn_deg} {} {}) translate(0 -1.5)", middle.0, middle.1);
                group.append(words(middle, &format!("{length_m:.2} m")).set("transform", turn));
            }
        }
        group
    }

    fn lines(&self, lines: &[Vec<Place>], closed: bool) -> Path {
        let line = |data: Data, places: &Vec<Place>| {
            let Some((first, rest)) = places.split_first() else { return data };
            let start = data.move_to(self.at(*first));
            let drawn = rest.iter().fold(start, |data, place| data.line_to(self.at(*place)));
            if closed { drawn.close() } else { drawn }
        };
        Path::new().set("d", lines.iter().fold(Data::new(), line))
    }

    /// Strip below the drawing: what is drawn, its scale, five metres to lay a ruler on.
    fn strip(&self, title: &Title) -> Group {
        const BAR_M: f64 = 5.0;
        let [width, height] = PAPER_MM;
        let top = height - MARGIN_MM - STRIP_MM / 2.0;
        let left = |text: Text| text.set("text-anchor", "start");
        let bar = self.mm(BAR_M);
        let end = width - MARGIN_MM - 12.0;
        let (rule, ..) = measured((end - bar, top), (end, top));
        Group::new()
            .set("class", "strip")
            .set("fill", INK)
            .add(left(words((MARGIN_MM, top), title.what)).set("font-size", 5))
            .add(left(words((MARGIN_MM, top + 5.0), title.scene)))
            .add(words((width / 2.0, top), &format!("1 : {} on A3", self.scale)).set("font-size", 4))
            .add(Path::new().set("d", rule).set("fill", "none").set("stroke", INK).set("stroke-width", 0.3))
            .add(left(words((end + 2.0, top + 1.0), &format!("{BAR_M} m"))))
    }
}

/// Least and greatest x and z of the marks whose roles count; none without any.
fn bounds(marks: &[PlanMark], counts: impl Fn(Role) -> bool) -> Option<[(f64, f64); 2]> {
    let places = marks.iter().filter(|mark| counts(mark.role)).flat_map(|mark| mark.shape.places());
    places.fold(None, |known, place| {
        let known: [(f64, f64); 2] = known.unwrap_or(place.map(|v| (v, v)));
        Some([0, 1].map(|i| (known[i].0.min(place[i]), known[i].1.max(place[i]))))
    })
}

/// A line with a stroke across either end; its middle; and the turn of words along it, degrees.
fn measured(from: OnPaper, to: OnPaper) -> (Data, OnPaper, f64) {
    const HALF_MM: f64 = 1.2;
    let (dx, dy) = (to.0 - from.0, to.1 - from.1);
    let length = dx.hypot(dy).max(1e-9);
    let (ax, ay) = (-dy / length * HALF_MM, dx / length * HALF_MM);
    let across = |data: Data, (x, y): OnPaper| data.move_to((x - ax, y - ay)).line_to((x + ax, y + ay));
    let data = across(across(Data::new().move_to(from).line_to(to), from), to);
    (data, ((from.0 + to.0) / 2.0, (from.1 + to.1) / 2.0), rounded(dy.atan2(dx).to_degrees()))
}

/// Words around a place, in ink and without an outline.
fn words((x, y): OnPaper, text: &str) -> Text {
    Text::new(text)
        .set("x", x)
        .set("y", y)
        .set("font-size", 3)
        .set("text-anchor", "middle")
        .set("fill", INK)
        .set("stroke", "none")
}

/// Thousandths of a millimetre are enough on paper.
fn rounded(mm: f64) -> f64 {
    (mm * 1000.0).round() / 1000.0
}

#[cfg(test)]
mod tests {
    use super::*;

    fn written(marks: &[PlanMark]) -> String {
        String::from_utf8(write(marks, &Title { scene: "night & day <2>", what: "take 3" })).unwrap()
    }

    fn length(from: Place, to: Place) -> PlanMark {
        PlanMark { role: Role::Dimension, shape: MarkShape::Length { from, to } }
    }

    #[test]
    fn lengths_measure_to_the_scale_that_the_sheet_says() {
        // 18 m on 408 mm of paper: 1 : 50 is the largest usual scale; 18 m are 360 mm.
        let text = written(&[length([-9.0, 0.0], [9.0, 0.0])]);
        assert!(text.contains("1 : 50 on A3"), "{text}");
        assert!(text.contains("18.00 m"));
        let path = text.split(" d=\"M").nth(1).unwrap().split('"').next().unwrap();
        let numbers: Vec<f64> =
            path.split(|c: char| "ML, ".contains(c)).filter_map(|n| n.parse().ok()).collect();
        assert!((numbers[2] - numbers[0] - 360.0).abs() < 1e-3, "{path}");
    }

    #[test]
    fn a_leaf_that_swings_out_of_the_stage_moves_the_sheet_and_does_not_shrink_it() {
        let stage = length([-18.0, 0.0], [18.0, 0.0]);
        let (hinge, closed, open) = ([-18.0, 2.0], [-18.0, 6.5], [-22.5, 2.0]);
        let leaf = MarkShape::Leaf { hinge, closed, open, radius_m: 4.5 };
        let sheet = Sheet::around(&[stage, PlanMark { role: Role::Way, shape: leaf }]);
        assert_eq!(sheet.scale, 100.0);
        // 408 mm have 4.8 m to spare; the sheet goes to the left by half of that, or to the middle of everything.
        assert!((sheet.middle[0] + 2.25).abs() < 1e-9, "{:?}", sheet.middle);
    }

    #[test]
    fn a_sheet_without_marks_and_a_set_larger_than_usual_are_drawn_too() {
        assert!(written(&[]).contains("1 : 10 on A3"));
        assert!(written(&[length([0.0, 0.0], [0.0, 400.0])]).contains("1 : 1500 on A3"));
    }

    #[test]
    fn words_of_people_stay_words() {
        let text = written(&[]);
        assert!(text.contains("night &amp; day &lt;2&gt;"), "{text}");
    }
}
