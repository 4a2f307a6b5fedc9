//! The axes of a rig: what can move, how far, how fast, and how hard it may be pushed.

/// Part of the rig that an axis belongs to; treatments are set for each part.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum AxisGroup {
    /// Machine under the head: arm, base, or a free camera's position.
    Machine,
    /// Head, which turns the camera.
    Head,
    /// Zoom, focus and iris.
    Lens,
    /// Carrier: position of what carries or leads the machine; no hand and no treatment moves it.
    Carrier,
}

/// Unit of an axis.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Unit {
    /// Distance in metres.
    Metres,
    /// Angle; shown in degrees.
    Radians,
    /// Focal length in millimetres.
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

    /// Symbol behind a number.
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
    /// Name on the strip.
    pub name: &'static str,
    /// Action of a hand on the axis: its name, or "ahead" where the machine moves the way it faces.
    /// None for an axis that others move.
    pub hand: Option<&'static str>,
    /// The ink its curves are drawn in, by the name of the axis that has it in the palette.
    pub ink: &'static str,
    /// Part of the rig.
    pub group: AxisGroup,
    /// Unit of the values below.
    pub unit: Unit,
    /// The end stops; infinite where there is none.
    pub min: f64,
    /// Upper end stop; see `min`.
    pub max: f64,
    /// Per second, at full speed.
    pub top_speed: f64,
    /// Per second squared, speeding up or slowing down.
    pub top_acceleration: f64,
    /// Value when the rig is placed.
    pub start: f64,
}

impl Axis {
    /// True if the axis may have the value.
    pub fn allows(&self, value: f64) -> bool {
        self.min <= value && value <= self.max
    }

    /// Indices of pan, tilt and roll among axes; none for a machine without a head.
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

    /// Distance of a value past its nearer end stop; 0 within.
    pub fn beyond(&self, value: f64) -> f64 {
        (self.min - value).max(value - self.max).max(0.0)
    }
}
