//! A hundred thousand commands with whatever numbers: the floor takes or refuses each, goes on, and nothing
//! of its state is no number. `ROVNEK_FUZZ` asks for another count.

use crate::common::{keyed, of, placed, somebody, staged};
use rand::{Rng, SeedableRng};
use rand_pcg::Pcg64Mcg;
use rovnek_core::ids::SetupId;
use rovnek_core::rigs::RigSpec;
use rovnek_live::command::PageCommand;
use rovnek_live::floor::{Floor, RecorderEvent, Staged};
use rovnek_live::wire;

const COMMANDS: usize = 100_000;
/// Ticks between two commands, at the most.
const TICKS: usize = 4;

/// Every command, with `N` where a number goes.
const SAID: [&str; 32] = [
    r#""do":"drive","rates":[N,N,N,N,N,N,N,N,N,N],"nudges":[N,N,N]"#,
    r#""do":"drive","rates":[0.5,-0.5,1,1,-1],"fine":true"#,
    r#""do":"feel","dial":N,"drag":N"#,
    r#""do":"arm","axis":W,"on":false"#,
    r#""do":"arm","axis":W,"on":true"#,
    r#""do":"roll","count_in_s":N"#,
    r#""do":"roll","count_in_s":0,"until_s":N,"pass":{"from_s":N,"pre_roll_s":N,"blend_s":N}"#,
    r#""do":"clock","speed":N"#,
    r#""do":"act","who":{"kind":"performer","id":W},"alone":true"#,
    r#""do":"act""#,
    r#""do":"walk","ahead":N,"turn":N,"run":true"#,
    r#""do":"attach","on":true"#,
    r#""do":"hang","source":"freed 1","scale":10"#,
    r#""do":"cut""#,
    r#""do":"run","on":true"#,
    r#""do":"run","on":false"#,
    r#""do":"seek","time_s":N"#,
    r#""do":"loop","on":false,"from_s":N,"to_s":N"#,
    r#""do":"loop","on":true,"from_s":N,"to_s":N"#,
    r#""do":"return""#,
    r#""do":"go","targets":[N,null,N,N,N,N,N,N,N,N,N]"#,
    r#""do":"go_to","number":W,"seconds":N"#,
    r#""do":"rehearse","positions":[1,W,W],"seconds":N"#,
    r#""do":"level""#,
    r#""do":"stay""#,
    r#""do":"fly","on":true"#,
    r#""do":"fly","on":false"#,
    r#""do":"discard""#,
    r#""do":"focus_on","performer":1"#,
    r#""do":"focus_on","performer":W"#,
    r#""do":"shape","axes":[{"dead_zone":N,"curve":N,"scale":N}]"#,
    r#""do":"ask""#,
];

fn number(dice: &mut Pcg64Mcg) -> String {
    const EXTREME: [&str; 12] =
        ["1e308", "-1e308", "1e-308", "-0", "0", "1", "-1", "1e6", "-1e6", "1e18", "0.0000001", "4294967296"];
    match dice.random_range(0..3) {
        0 => EXTREME[dice.random_range(0..EXTREME.len())].into(),
        1 => dice.random_range(-1.0..1.0_f64).to_string(),
        _ => dice.random_range(0.0..30.0_f64).to_string(),
    }
}

/// A command of somebody who means the setup that is driven, and now and then another one.
fn said(dice: &mut Pcg64Mcg, driven: u32) -> String {
    let template = SAID[dice.random_range(0..SAID.len())];
    let setup = if dice.random_range(0..10) > 0 { driven } else { dice.random_range(0..20) };
    let mut text = format!("{{\"setup\":{setup},");
    for c in template.chars() {
        match c {
            'N' => text += &number(dice),
            'W' => text += &dice.random_range(0..12).to_string(),
            c => text.push(c),
        }
    }
    text + "}"
}

#[test]
fn no_command_ends_the_floor_or_leaves_it_without_a_number() {
    let count = std::env::var("ROVNEK_FUZZ").ok().and_then(|n| n.parse().ok()).unwrap_or(COMMANDS);
    let mut dice = Pcg64Mcg::seed_from_u64(12);
    // One of each machine, and one with keys.
    let all = RigSpec::all().into_iter().enumerate().map(|(k, spec)| of(k as u32 + 1, spec));
    let keys = keyed(placed(), &[("swing", &[(0.0, 0.0), (4.0, 30.0)])]);
    let setups: Vec<_> = all.chain([rovnek_live::floor::Placed { setup_id: SetupId(13), ..keys }]).collect();
    let scene = || Staged { cast: vec![somebody(6)].into(), ..staged(setups.clone()) };
    let mut floor = Floor::new(scene(), SetupId(1));
    floor.join(1);
    let (mut taken, mut rolled) = (0, 0);
    for k in 0..count {
        let text = said(&mut dice, floor.placed().setup_id.0);
        if let Ok(asked) = PageCommand::read(&text) {
            taken += 1;
            floor.asked(1, asked);
        }
        if k % 50 == 0 {
            floor.put(SetupId(dice.random_range(1..14)));
        }
        if k % 5000 == 0 {
            floor.stage(scene());
        }
        for _ in 0..dice.random_range(0..=TICKS) {
            floor.step();
        }
        for event in floor.take_events() {
            match event {
                RecorderEvent::Begin(_) => rolled += 1,
                RecorderEvent::Chunk { values, .. } => {
                    assert!(values.iter().all(|v| v.is_finite()), "{k}: {text}");
                }
                _ => {}
            }
        }
        let state = floor.state();
        assert!(state.axes.iter().all(|a| a.value.is_finite() && a.speed.is_finite()), "{k}: {text}");
        let camera = state.rig_pose.camera;
        assert!(camera.position.is_finite() && camera.rotation.is_finite(), "{k}: {text}");
        if k % 100 == 0 {
            assert!(!wire::encode(&state).is_empty());
        }
    }
    println!("{taken} of {count} commands taken, {rolled} takes rolled");
    assert!(taken > count / 4 && taken < count && rolled > 10, "{taken} of {count}, {rolled} rolled");
}
