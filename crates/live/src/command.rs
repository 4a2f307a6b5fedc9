//! Commands that pages send to the floor, and the status that the floor sends to pages.

use crate::bounds::within;
use crate::control_lease::Asking;
use crate::machine::LeadKind;
use rovnek_core::ids::{PerformerId, SetupId, TakeId};
use rovnek_core::input_shaping::Shaping;
use rovnek_core::playing::MoverId;
use rovnek_core::wheels::Wheel;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// The longest time that can be named, in seconds: an hour, as long as a scene may be.
const LONG_S: i32 = 3600;
/// Most stored positions that one rehearsal goes through.
pub const MOST_POSITIONS: usize = 99;
/// The farthest place or step that can be named, in shown units.
const FAR: i32 = 1_000_000;
const FAR_BACK: i32 = -FAR;

/// Command of a page to the floor.
#[derive(Clone, Debug, PartialEq, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "do")]
pub enum Command {
    /// Hands on the axes; also the sign that the page is there. Shares of top speed, −1 to 1, and
    /// distances to add, in shown units; missing ones are 0.
    Drive {
        /// Wanted rates, one per axis, −1 to 1.
        #[serde(deserialize_with = "within::<-1, 1, _, _>")]
        rates: Vec<f64>,
        /// Steps to add, one per axis, shown units.
        #[serde(default, deserialize_with = "within::<FAR_BACK, FAR, _, _>")]
        nudges: Vec<f64>,
        /// Everything at a fifth of its speed, for as long as it is said.
        #[serde(default)]
        fine: bool,
    },
    /// Hands on two pads instead of axes: on what hangs on a wheel, in its order. Shares of top speed.
    Pads {
        /// Wheel that is meant.
        wheel: Wheel,
        /// The first axis; of a performer the turn to the right.
        #[serde(deserialize_with = "within::<-1, 1, _, _>")]
        across: f64,
        /// The second axis; of a performer the way ahead.
        #[serde(deserialize_with = "within::<-1, 1, _, _>")]
        ahead: f64,
        /// Rate of the third axis, −1 to 1.
        #[serde(deserialize_with = "within::<-1, 1, _, _>")]
        up: f64,
    },
    /// How each axis takes what hands say.
    Shape {
        /// Shaping of the hand, one per axis.
        axes: Vec<Shaping>,
    },
    /// The speed dial, 0.05 to 1, and the fluid drag, 0 to 4.
    Feel {
        /// Speed dial, a factor on all rates.
        #[serde(deserialize_with = "within::<0, 1, _, _>")]
        dial: f64,
        /// Scales the drag of every axis.
        #[serde(deserialize_with = "within::<0, 4, _, _>")]
        drag: f64,
    },
    /// Arms or disarms an axis. A disarmed axis holds still while a take rolls.
    Arm {
        /// Its place in the rig's list.
        axis: usize,
        /// True to record the axis.
        on: bool,
    },
    /// Count in, then roll: a take, or where one is laid below, a pass over it.
    Roll {
        /// Count-in before the roll, 0 to 5 s.
        #[serde(deserialize_with = "within::<0, 5, _, _>")]
        count_in_s: f64,
        /// Scene time at which it is cut by itself.
        #[serde(default, deserialize_with = "within::<0, LONG_S, _, _>")]
        until_s: Option<f64>,
        /// Kept with the take.
        #[serde(default)]
        note: String,
        /// How a pass lies over the take below.
        #[serde(default)]
        pass: PassRequest,
    },
    /// How fast the floor's clock goes: 1, or slower to give hands time. 0.05 to 1.
    Clock {
        /// Seconds of the scene in a second.
        #[serde(deserialize_with = "within::<0, 1, _, _>")]
        speed: f64,
    },
    /// Drive somebody or something of the scene, or nobody.
    Act {
        /// Performer or piece to drive; none for nobody.
        #[serde(default)]
        who: Option<MoverId>,
        /// The camera does not record meanwhile.
        #[serde(default)]
        alone: bool,
    },
    /// Hands on who is driven.
    Walk {
        /// Share of walking speed, 0 to 1.
        #[serde(deserialize_with = "within::<0, 1, _, _>")]
        ahead: f64,
        /// Rate of turning, −1 to 1, positive to the right.
        #[serde(deserialize_with = "within::<-1, 1, _, _>")]
        turn: f64,
        /// True to run, false to walk.
        #[serde(default)]
        run: bool,
        /// Sits down, or stays seated.
        #[serde(default)]
        sit: bool,
    },
    /// Hang who is driven on a tracked device, or give them back to hands.
    Hang {
        /// Name of the device; none for hands.
        #[serde(default)]
        source: String,
        /// Metres on set for a real metre.
        #[serde(deserialize_with = "within::<0, 1000, _, _>")]
        scale: f64,
    },
    /// Attach the camera to its tracked device where it stands, or let go.
    Attach {
        /// True to attach the device.
        on: bool,
    },
    /// Stop counting or rolling.
    Cut,
    /// Let the performance run, or hold it.
    Run {
        /// True to run the performance.
        on: bool,
    },
    /// End of the performance while nothing rolls: it begins again or stands. Also the range that it
    /// plays.
    Loop {
        /// True to begin again.
        on: bool,
        /// Seconds of scene time; the beginning where missing.
        #[serde(default, deserialize_with = "within::<0, LONG_S, _, _>")]
        from_s: Option<f64>,
        /// Seconds of scene time; the end where missing.
        #[serde(default, deserialize_with = "within::<0, LONG_S, _, _>")]
        to_s: Option<f64>,
    },
    /// Put the performance at a time.
    Seek {
        /// Seconds of scene time.
        #[serde(deserialize_with = "within::<0, LONG_S, _, _>")]
        time_s: f64,
    },
    /// Bring every axis back to where the last roll began, or to where the rig starts. While the scene's time
    /// stands and nothing rolls the machine is put there at once; else it drives.
    Return,
    /// Bring axes to values, in shown units; a missing one stays. While the scene's time stands and nothing
    /// rolls they are put there at once; else they drive.
    Go {
        /// Wanted values, one per axis; none leaves the axis alone.
        #[serde(deserialize_with = "within::<FAR_BACK, FAR, _, _>")]
        targets: Vec<Option<f64>>,
        /// Number that the page gave this request; the status names the last one that was done.
        #[serde(default)]
        request: u32,
    },
    /// Bring the machine to a stored position: put as [`Command::Go`] does, or driven.
    GoTo {
        /// Number of the stored position.
        number: u32,
        /// True to drive there though the scene's time stands.
        #[serde(default)]
        drive: bool,
        /// Time to take, seconds; it drives. Without it as quickly as dial and limits allow.
        #[serde(default, deserialize_with = "within::<0, LONG_S, _, _>")]
        seconds: Option<f64>,
        /// Number that the page gave this request; the status names the last one that was done.
        #[serde(default)]
        request: u32,
    },
    /// Drive the machine through stored positions in a set time. It begins at the first one: put there while
    /// nothing rolls, else it drives there first.
    Rehearse {
        /// Numbers of stored positions, in order.
        positions: Vec<u32>,
        /// Time from the first to the last, seconds.
        #[serde(deserialize_with = "within::<0, LONG_S, _, _>")]
        seconds: f64,
    },
    /// Turn the head so that the horizon is level.
    Level,
    /// Stop going anywhere.
    Stay,
    /// Keeps the focus on the eyes of a performer, or leaves it to hands again.
    FocusOn {
        /// Id of the performer; none for nobody.
        performer: Option<PerformerId>,
    },
    /// Hands fly the camera and the machine follows, or hands move the axes.
    Fly {
        /// True if hands fly the camera, false if hands move the axes.
        on: bool,
    },
    /// Forget what hands made of some axes: they follow their keys again.
    Discard {
        /// Places of the axes in the rig's list; all of them where none is named.
        #[serde(default)]
        axes: Vec<usize>,
    },
    /// Ask for the wheels, or for one of them.
    Ask {
        /// Wheel that is meant; without it all wheels.
        #[serde(default)]
        wheel: Option<Wheel>,
    },
    /// Give what is asked for; of who was lent some, give them back.
    Give,
    /// Keep the wheels.
    Keep,
    /// Take a wheel back that was lent.
    TakeBack {
        /// Wheel that is meant.
        wheel: Wheel,
    },
    /// Say who sits at the page.
    Sign {
        /// Name that the person at the page gave.
        name: String,
    },
}

/// A command as a page sends it, with the setup that it means.
#[derive(Clone, Debug, PartialEq, Deserialize)]
pub struct PageCommand {
    /// The setup that the page drives. What was meant for one never drives another's machine: it
    /// may have been put onto the floor while the command was on its way.
    #[serde(default)]
    pub setup: Option<SetupId>,
    /// Command of the page.
    #[serde(flatten)]
    pub command: Command,
}

impl PageCommand {
    /// Reads a page's message: every number is within its bounds, or the error sentence names the fault.
    pub fn read(text: &str) -> Result<PageCommand, String> {
        let asked: PageCommand =
            serde_json::from_str(text).map_err(|e| format!("this command cannot be read: {e}"))?;
        if asked.command.drives() && asked.setup.is_none() {
            return Err("this command cannot be done: it drives a machine; say of which setup".into());
        }
        Ok(asked)
    }
}

impl Command {
    /// True if the command drives axes of a setup's machine.
    pub fn drives(&self) -> bool {
        use Command::*;
        match self {
            Drive { .. }
            | Pads { .. }
            | Shape { .. }
            | Arm { .. }
            | Attach { .. }
            | Return
            | Go { .. }
            | GoTo { .. } => true,
            Rehearse { .. } | Level | Stay | Fly { .. } | FocusOn { .. } | Discard { .. } => true,
            Feel { .. } | Roll { .. } | Clock { .. } | Act { .. } | Walk { .. } | Hang { .. } => false,
            Cut | Run { .. } => false,
            Seek { .. } | Loop { .. } | Ask { .. } | Give | Keep | TakeBack { .. } | Sign { .. } => false,
        }
    }

    /// True if the command is about the lease of the wheels, which every page may send.
    pub fn of_the_lease(&self) -> bool {
        use Command::*;
        matches!(self, Ask { .. } | Give | Keep | TakeBack { .. } | Sign { .. })
    }

    /// Roll without a pass.
    pub fn roll(count_in_s: f64) -> Command {
        Command::Roll { count_in_s, until_s: None, note: String::new(), pass: PassRequest::default() }
    }
}

/// A pass over the take below.
#[derive(Clone, Debug, Default, PartialEq, Deserialize, TS)]
#[serde(default)]
pub struct PassRequest {
    /// Name of the pass.
    pub name: String,
    /// Start of the pass, scene time in seconds; before it everything plays from the take below.
    #[serde(deserialize_with = "within::<0, LONG_S, _, _>")]
    pub from_s: f64,
    /// Pre-roll before the start of the pass, seconds.
    #[serde(deserialize_with = "within::<0, 60, _, _>")]
    pub pre_roll_s: f64,
    /// Length of the joints, seconds.
    #[serde(deserialize_with = "within::<0, 10, _, _>")]
    pub blend_s: f64,
}

/// A setup's tracked device, as its machine has it.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct TrackingStatus {
    /// Name of the device; empty while none is heard.
    pub source: String,
    /// The camera is attached to it.
    pub attached: bool,
    /// It has been heard lately.
    pub alive: bool,
    /// How late the camera is behind the hand, ms.
    pub delay_ms: f64,
}

/// The device that who is driven hangs on.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct HangStatus {
    /// Name of the device.
    pub source: String,
    /// Metres on set for a real metre.
    pub scale: f64,
    /// It has been heard lately.
    pub alive: bool,
}

/// Phase of the roll.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "kebab-case")]
pub enum RollState {
    /// No roll: standby.
    Standby,
    /// It is counted in.
    Counting,
    /// The take below plays up to where the pass begins.
    PreRoll,
    /// Recording a take.
    Rolling,
}

/// A request of a page that brought axes to values, as far as that went.
#[derive(Clone, Debug, Default, PartialEq, Serialize, TS)]
pub struct BroughtAxes {
    /// Number that the page gave the request.
    pub request: u32,
    /// Step of the floor before which it was done: state frames of later steps show it.
    pub step: u64,
    /// Sentences about axes that do not stand where they were asked to be.
    pub short: Vec<String>,
}

/// Status that the floor sends to pages when it changes.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
pub struct Status {
    /// The setup on the floor.
    pub setup_id: SetupId,
    /// The page at the wheels.
    pub holder: Option<u32>,
    /// The pages whose hands are on each wheel: machine, head, lens, performer.
    pub hands: [Option<u32>; 4],
    /// The page that asks, and for what.
    pub asking: Option<Asking>,
    /// Names that people at pages gave, by page.
    pub names: BTreeMap<u32, String>,
    /// Number of open pages.
    pub pages: usize,
    /// Phase of the roll.
    pub roll: RollState,
    /// Seconds of the scene in a second.
    pub clock: f64,
    /// The take that is laid below: what is not armed plays from it.
    pub below: Option<TakeId>,
    /// Performer or piece that is driven.
    pub acting: Option<MoverId>,
    /// The camera does not record meanwhile.
    pub alone: bool,
    /// The device that who is driven hangs on.
    pub hangs: Option<HangStatus>,
    /// The device of the setup on the floor.
    pub tracking: TrackingStatus,
    /// Armed axes, one flag per axis.
    pub armed: Vec<bool>,
    /// Name of a pass over the armed axes, until it is given another one.
    pub pass_name: String,
    /// Value of the speed dial.
    pub dial: f64,
    /// Fluid drag of the head.
    pub drag: f64,
    /// How each axis takes what hands say.
    pub shaping: Vec<Shaping>,
    /// Source of the camera's motion: hands, keys, a followed move or a device.
    pub lead: LeadKind,
    /// The performer on whose eyes the focus stays.
    pub focus_on: Option<PerformerId>,
    /// The axes that hands took from their keys: what they made of them no key knows.
    pub pending: Vec<bool>,
    /// It is on its way to a position.
    pub sent: bool,
    /// Why its way takes longer than was asked.
    pub slowed: Option<String>,
    /// The axes that hands touched since they were last keyed, whether or not they have keys.
    pub touched: Vec<bool>,
    /// The last request of each page that brought axes somewhere.
    pub brought: BTreeMap<u32, BroughtAxes>,
    /// The performance runs.
    pub running: bool,
    /// Reason why the recorder stopped, until the next roll.
    pub trouble: Option<String>,
}

#[cfg(test)]
mod tests {
    use super::{Command, PageCommand};
    use rovnek_core::ids::SetupId;

    /// A command of a page that drives setup 3.
    fn read(text: &str) -> Result<Command, String> {
        let with = text.replacen('{', r#"{"setup":3,"#, 1);
        PageCommand::read(&with).map(|asked| asked.command)
    }

    #[test]
    fn no_number_gets_past_its_bounds() {
        let refused = [
            r#"{"do":"roll","count_in_s":0,"until_s":4e17}"#,
            r#"{"do":"roll","count_in_s":1e300}"#,
            r#"{"do":"roll","count_in_s":0,"pass":{"from_s":4e17}}"#,
            r#"{"do":"roll","count_in_s":0,"pass":{"pre_roll_s":-1}}"#,
            r#"{"do":"roll","count_in_s":0,"pass":{"blend_s":1e9}}"#,
            r#"{"do":"drive","rates":[2.0]}"#,
            r#"{"do":"drive","rates":[0.5],"nudges":[1e12]}"#,
            r#"{"do":"feel","dial":-3,"drag":1}"#,
            r#"{"do":"clock","speed":7}"#,
            r#"{"do":"walk","ahead":-1,"turn":0}"#,
            r#"{"do":"seek","time_s":-1}"#,
            r#"{"do":"loop","on":true,"to_s":1e9}"#,
            r#"{"do":"seek","time_s":1e999}"#,
            r#"{"do":"go","targets":[null,1e7]}"#,
            r#"{"do":"go_to","number":1,"seconds":1e18}"#,
            r#"{"do":"rehearse","positions":[1],"seconds":1e18}"#,
        ];
        for text in refused {
            assert!(read(text).is_err(), "{text}");
        }
        let many = format!(r#"{{"do":"drive","rates":[{}0]}}"#, "0,".repeat(64));
        assert!(read(&many).unwrap_err().contains("at most 64"));
        let sentence = read(refused[0]).unwrap_err();
        assert!(sentence.contains("out of bounds; give 0 to 3600"), "{sentence}");
    }

    #[test]
    fn what_lies_within_is_taken_and_what_is_left_out_is_as_usual() {
        let roll = r#"{"do":"roll","count_in_s":3,"until_s":12.5,"pass":{"from_s":3600}}"#;
        let Ok(Command::Roll { until_s, pass, .. }) = read(roll) else { panic!("it is a roll") };
        assert_eq!((until_s, pass.from_s, pass.blend_s), (Some(12.5), 3600.0, 0.0));
        for text in [r#"{"do":"go_to","number":2}"#, r#"{"do":"drive","rates":[-1,1,0.25]}"#] {
            assert!(read(text).is_ok(), "{text}");
        }
    }

    #[test]
    fn what_drives_a_machine_says_which() {
        assert_eq!(
            PageCommand::read(r#"{"do":"drive","rates":[0.5],"setup":2}"#).unwrap().setup,
            Some(SetupId(2))
        );
        for text in [r#"{"do":"drive","rates":[0.5]}"#, r#"{"do":"level"}"#, r#"{"do":"go_to","number":1}"#] {
            assert!(PageCommand::read(text).unwrap_err().contains("say of which setup"), "{text}");
        }
        assert!(PageCommand::read(r#"{"do":"cut"}"#).is_ok());
    }
}
