//! The axes of a rig: what can move, how far, how fast, and how hard it may be pushed.

/// Which part of the rig an axis belongs to; treatments are set for each part.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum AxisGroup {
    /// What carries the head: arm, base, or a free camera's position.
    Machine,
    /// What turns the camera.
    Head,
    /// Zoom, focus and iris.
    Lens,
    /// Where what carries or leads the machine is; nobody's hands move it and no treatment.
    Carrier,
}

/// What an axis is counted in.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Unit {
    /// Distance.
    Metres,
    /// Angle; shown in degrees.
    Radians,
    /// Focal length.
    Millimetres,
    /// A share, or a count.
    Plain,
}

impl Unit {
    /// From the core's unit to the one in files and on screen.
    pub fn to_shown(self, value: f64) -> f64 {
        if self == Unit::Radians { value.to_degrees() } else { value }
    }

    /// From the unit in files and on screen to the core's.
    pub fn from_shown(self, value: f64) -> f64 {
        if self == Unit::Radians { value.to_radians() } else { value }
    }

    /// As written behind a number.
    pub fn symbol(self) -> &'static str {
        match self {
            Unit::Metres => "m",
            Unit::Radians => "°",
            Unit::Millimetres => "mm",
            Unit::Plain => "",
        }
    }
}

/// One thing of a rig that moves.
#[derive(Clone, Debug, PartialEq)]
pub struct Axis {
    /// As written on its strip.
    pub name: &'static str,
    /// What a hand on it does: its name, or "ahead" where the machine moves the way it faces.
    /// None for an axis that others move.
    pub hand: Option<&'static str>,
    /// The ink its curves are drawn in, by the name of the axis that has it in the palette.
    pub ink: &'static str,
    /// Which part of the rig.
    pub group: AxisGroup,
    /// Of all values below.
    pub unit: Unit,
    /// The end stops; infinite where there is none.
    pub min: f64,
    /// See `min`.
    pub max: f64,
    /// Per second, at full speed.
    pub top_speed: f64,
    /// Per second squared, speeding up or slowing down.
    pub top_acceleration: f64,
    /// Where it stands when the rig is placed.
    pub start: f64,
}

impl Axis {
    /// Whether the axis may stand there.
    pub fn allows(&self, value: f64) -> bool {
        self.min <= value && value <= self.max
    }

    /// Where pan, tilt and roll of a head are among axes; none where nothing turns the camera.
    pub fn head(axes: &[Axis]) -> Option<[usize; 3]> {
        let at = |name: &str| axes.iter().position(|a| a.group == AxisGroup::Head && a.name == name);
        Some([at("pan")?, at("tilt")?, at("roll")?])
    }

    /// The end stop a value stands at, in words.
    pub fn end(&self, value: f64) -> Option<String> {
        let (low, high) = match (self.name, self.unit) {
            ("boom" | "tilt" | "height", _) => ("lowest", "highest"),
            ("reach" | "radius", _) => ("shortest", "longest"),
            ("travel", _) => ("start", "end"),
            ("iris", _) => ("widest", "narrowest"),
            (_, Unit::Radians) => ("left end", "right end"),
            _ => ("low end", "high end"),
        };
        let word = if value <= self.min + 1e-12 {
            low
        } else if value >= self.max - 1e-12 {
            high
        } else {
            return None;
        };
        Some(format!("{}, {word}", self.name))
    }

    /// How far past its nearer end stop a value is; 0 within.
    pub fn beyond(&self, value: f64) -> f64 {
        (self.min - value).max(value - self.max).max(0.0)
    }
}
