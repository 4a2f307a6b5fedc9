//! BVH: captured motion of a skeleton as text.
//!
//! A hierarchy of joints, each with its offset from its parent and the channels it has, then a
//! row of channel values for each frame. Rotations are applied in the order their channels stand
//! in; positions of the root are added to its offset, those of other joints stand for theirs
//! (common practice, no source).

use crate::{FormatError, number, text_of};
use rovnek_core::performer::clip::MOST_POSES;
use rovnek_core::performer::{Clip, Joint};
use rovnek_core::space::Pose;
use rovnek_core::{DQuat, DVec3};

/// Skeletons of more joints are refused.
const MOST_JOINTS: usize = 1000;

#[derive(Clone, Copy)]
enum Channel {
    Position(usize),
    Rotation(usize),
}

/// A captured performance.
pub fn read(bytes: &[u8]) -> Result<Clip, FormatError> {
    let text = text_of(bytes)?;
    let mut words = Words::of(text);
    words.expect("HIERARCHY")?;
    words.expect("ROOT")?;
    let mut tree = Tree::default();
    tree.joint(&mut words, None)?;
    words.expect("MOTION")?;
    let (line, count) = words.frames_header()?;
    let frame_s = words.frame_time()?;
    let width: usize = tree.channels.iter().map(Vec::len).sum();
    if count == 0 || width == 0 {
        return Err(FormatError::at(line, "there is no motion in this file: no frames, or no channels"));
    }
    if count.saturating_mul(tree.joints.len()) > MOST_POSES {
        return Err(FormatError::at(
            line,
            format!("{count} frames of {} joints are too many; cut the clip into parts", tree.joints.len()),
        ));
    }
    let mut frames = Vec::with_capacity(count);
    for i in 0..count {
        frames.push(tree.frame(&mut words, i, count)?);
    }
    if let Some((line, word)) = words.next() {
        return Err(FormatError::at(
            line,
            format!("{word:.20} stands after the last of {count} frames; check the number of frames"),
        ));
    }
    Ok(Clip::even(tree.joints, frame_s, frames))
}

/// The words of a text, with their lines.
struct Words<'a> {
    all: Vec<(u64, &'a str)>,
    at: usize,
}

impl<'a> Words<'a> {
    fn of(text: &'a str) -> Words<'a> {
        let lines = text.lines().zip(1u64..);
        Words { all: lines.flat_map(|(l, n)| l.split_whitespace().map(move |w| (n, w))).collect(), at: 0 }
    }

    fn next(&mut self) -> Option<(u64, &'a str)> {
        let word = self.all.get(self.at).copied();
        self.at += 1;
        word
    }

    fn need(&mut self, what: &str) -> Result<(u64, &'a str), FormatError> {
        let last = self.all.last().map_or(1, |w| w.0);
        self.next().ok_or_else(|| {
            FormatError::at(last, format!("the file ends where {what} should stand; it may be cut off"))
        })
    }

    fn expect(&mut self, wanted: &str) -> Result<u64, FormatError> {
        let (line, word) = self.need(wanted)?;
        if word.eq_ignore_ascii_case(wanted) {
            return Ok(line);
        }
        let hint = if wanted == "HIERARCHY" { "; check that this is a BVH file" } else { "" };
        Err(FormatError::at(
            line,
            format!("{} stands where {wanted} should stand{hint}", crate::excerpt(word)),
        ))
    }

    fn number(&mut self, what: &str) -> Result<f64, FormatError> {
        let (line, word) = self.need(what)?;
        number(word, what, line)
    }

    fn frames_header(&mut self) -> Result<(u64, usize), FormatError> {
        let line = self.expect("Frames:")?;
        let (_, word) = self.need("the number of frames")?;
        let count = word.parse().map_err(|_| {
            FormatError::at(
                line,
                format!("the number of frames is {}, not a whole number", crate::excerpt(word)),
            )
        })?;
        Ok((line, count))
    }

    fn frame_time(&mut self) -> Result<f64, FormatError> {
        self.expect("Frame")?;
        let line = self.expect("Time:")?;
        let frame_s = self.number("the frame time")?;
        if !(1e-4..=10.0).contains(&frame_s) {
            return Err(FormatError::at(
                line,
                format!("a frame time of {frame_s} s is not possible; give 0.0001 to 10 s"),
            ));
        }
        Ok(frame_s)
    }
}

#[derive(Default)]
struct Tree {
    joints: Vec<Joint>,
    channels: Vec<Vec<Channel>>,
}

impl Tree {
    /// A joint and all that hang from it; its keyword is read already.
    fn joint(&mut self, words: &mut Words, parent: Option<usize>) -> Result<(), FormatError> {
        // Without recursion: a file must not choose how deep the stack goes.
        let mut open = vec![];
        self.open(words, parent, false)?;
        open.push(self.joints.len() - 1);
        while let Some(&inside) = open.last() {
            let (line, word) = words.need("a joint or a closing bracket")?;
            match word.to_ascii_uppercase().as_str() {
                "}" => drop(open.pop()),
                "JOINT" => {
                    self.open(words, Some(inside), false)?;
                    open.push(self.joints.len() - 1);
                }
                "END" => {
                    words.expect("Site")?;
                    self.open(words, Some(inside), true)?;
                    words.expect("}")?;
                }
                _ => {
                    return Err(FormatError::at(
                        line,
                        format!("{} stands where a joint should stand", crate::excerpt(word)),
                    ));
                }
            }
        }
        Ok(())
    }

    fn open(&mut self, words: &mut Words, parent: Option<usize>, end: bool) -> Result<(), FormatError> {
        let name = match (end, parent) {
            (true, Some(p)) => format!("{} end", self.joints[p].name),
            _ => words.need("the name of a joint")?.1.to_string(),
        };
        words.expect("{")?;
        let line = words.expect("OFFSET")?;
        let mut offset = [0.0; 3];
        for v in &mut offset {
            *v = words.number("an offset")?;
        }
        let channels = if end { Vec::new() } else { channels(words)? };
        if self.joints.len() == MOST_JOINTS {
            return Err(FormatError::at(
                line,
                format!("this skeleton has more than {MOST_JOINTS} joints; leave out what is not needed"),
            ));
        }
        self.joints.push(Joint { name, parent, rest: Pose::new(DVec3::from(offset), DQuat::IDENTITY) });
        self.channels.push(channels);
        Ok(())
    }

    fn frame(&self, words: &mut Words, index: usize, count: usize) -> Result<Vec<Pose>, FormatError> {
        let mut poses = Vec::with_capacity(self.joints.len());
        for (joint, channels) in self.joints.iter().zip(&self.channels) {
            let mut moved: Option<DVec3> = None;
            let mut rotation = DQuat::IDENTITY;
            for channel in channels {
                let (line, word) = words.next().ok_or_else(|| {
                    let last = words.all.last().map_or(1, |w| w.0);
                    FormatError::at(
                        last,
                        format!("frame {} of {count} is not complete; the file may be cut off", index + 1),
                    )
                })?;
                let value = number(word, &format!("a channel of {}", joint.name), line)?;
                match channel {
                    Channel::Position(axis) => moved.get_or_insert(DVec3::ZERO)[*axis] = value,
                    Channel::Rotation(axis) => {
                        let about = [DVec3::X, DVec3::Y, DVec3::Z][*axis];
                        rotation *= DQuat::from_axis_angle(about, value.to_radians());
                    }
                }
            }
            let position = match moved {
                Some(p) if joint.parent.is_none() => joint.rest.position + p,
                Some(p) => p,
                None => joint.rest.position,
            };
            poses.push(Pose::new(position, rotation.normalize()));
        }
        Ok(poses)
    }
}

fn channels(words: &mut Words) -> Result<Vec<Channel>, FormatError> {
    let line = words.expect("CHANNELS")?;
    let (_, count) = words.need("the number of channels")?;
    let count: usize = count.parse().ok().filter(|n| *n <= 6).ok_or_else(|| {
        FormatError::at(line, format!("a joint has 0 to 6 channels, not {}", crate::excerpt(count)))
    })?;
    (0..count)
        .map(|_| {
            let (line, word) = words.need("a channel")?;
            let axis = |letter: &u8| b"xyz".iter().position(|a| a == &letter.to_ascii_lowercase());
            let kind = word.get(1..).map(str::to_ascii_lowercase);
            match (word.as_bytes().first().and_then(axis), kind.as_deref()) {
                (Some(axis), Some("position")) => Ok(Channel::Position(axis)),
                (Some(axis), Some("rotation")) => Ok(Channel::Rotation(axis)),
                _ => Err(FormatError::at(
                    line,
                    format!("{} is no channel; there are Xposition to Zrotation", crate::excerpt(word)),
                )),
            }
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    const ARM: &str = "HIERARCHY\nROOT Hip\n{\n OFFSET 0 1 0\n CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\n JOINT Arm\n {\n  OFFSET 2 0 0\n  CHANNELS 3 Zrotation Xrotation Yrotation\n  End Site\n  {\n   OFFSET 1 0 0\n  }\n }\n}\nMOTION\nFrames: 2\nFrame Time: 0.5\n0 0 0 0 0 0 0 0 0\n1 0 0 90 0 0 90 0 0\n";

    #[test]
    fn a_bent_arm_is_where_it_should_be() {
        let clip = read(ARM.as_bytes()).unwrap();
        let places = |frame: usize| -> Vec<[f64; 3]> {
            clip.joints_at_frame(frame)
                .iter()
                .map(|p| p.position.to_array().map(|v| (v * 1e9).round() / 1e9))
                .collect()
        };
        assert_eq!(places(0), [[0.0, 1.0, 0.0], [2.0, 1.0, 0.0], [3.0, 1.0, 0.0]]);
        assert_eq!(places(1), [[1.0, 1.0, 0.0], [1.0, 3.0, 0.0], [0.0, 3.0, 0.0]]);
        assert_eq!((clip.length_s(), clip.joints[2].name.as_str()), (0.5, "Arm end"));
        let half = clip.joints_at(0.25)[0];
        assert!((half.position.x - 0.5).abs() < 1e-12);
    }

    #[test]
    fn broken_files_are_named_by_line() {
        for (from, to, line, word) in [
            ("HIERARCHY", "HIER", 1, "BVH"),
            ("ROOT Hip", "JOINT Hip", 2, "ROOT"),
            ("OFFSET 2 0 0", "OFFSET 2 zero 0", 8, "zero"),
            ("CHANNELS 3", "CHANNELS 30", 9, "30"),
            ("Zrotation Xrotation Yrotation\n  End", "Zrotation Xrotation Spin\n  End", 9, "Spin"),
            ("Frames: 2", "Frames: many", 17, "many"),
            ("Frames: 2", "Frames: 3", 20, "frame 3 of 3"),
            ("Frames: 2", "Frames: 1", 20, "after the last"),
            ("Frames: 2", "Frames: 0", 17, "no motion"),
            ("Frames: 2", "Frames: 99999999999", 17, "too many"),
            ("Time: 0.5", "Time: 0", 18, "frame time"),
            ("0 0 0 0 0 0 0 0 0", "0 0 0 0 nan 0 0 0 0", 19, "Hip"),
            (" }\n}\nMOTION", " }\nMOTION", 15, "MOTION"),
        ] {
            let error = read(ARM.replacen(from, to, 1).as_bytes()).unwrap_err();
            assert_eq!(error.line, Some(line), "{to}: {error}");
            assert!(error.sentence.contains(word), "{to}: {error}");
        }
        for cut in 0..ARM.len() - 2 {
            assert!(read(&ARM.as_bytes()[..cut]).is_err(), "cut at {cut}");
        }
    }
}
