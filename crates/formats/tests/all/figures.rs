//! Who dances in a glTF file: every joint at 20 times of each animation where three.js puts it
//! (`reference/make_figure.mjs`), with keys that step, go straight and ease, in centimetres, below nodes
//! that are no joints, with a bone that is stretched.

use rovnek_core::performer::Clip;
use rovnek_core::set::Form;
use rovnek_formats::gltf_set;

const FILE: &[u8] = include_bytes!("../../../../reference/values/figure.gltf");

#[test]
fn joints_are_where_three_js_puts_them() {
    let values: serde_json::Value =
        serde_json::from_str(include_str!("../../../../reference/values/figure.json")).unwrap();
    let figures = gltf_set::read(FILE, "dance").unwrap().content.figures;
    let clips = |i: usize| figures[i].clips.iter().map(|(name, _)| name.as_str()).collect::<Vec<_>>();
    assert_eq!(figures.iter().map(|f| f.name.as_str()).collect::<Vec<_>>(), ["dancer", "partner"]);
    assert_eq!((clips(0), clips(1)), (vec!["sway", "bow"], vec!["sway"]));
    let mut compared = 0;
    for animation in values["animations"].as_array().unwrap() {
        for (k, figure) in figures.iter().enumerate() {
            let Some((_, clip)) = figure.clips.iter().find(|(name, _)| *name == animation["name"]) else {
                continue;
            };
            // As kept.
            let kept = Clip::from_bytes(&clip.to_bytes()).unwrap();
            for (time, rows) in
                animation["times"].as_array().unwrap().iter().zip(animation["joints_e8"].as_array().unwrap())
            {
                let time_s = time.as_f64().unwrap();
                for clip in [clip, &kept] {
                    for (joint, pose) in clip.joints.iter().zip(clip.joints_at(time_s)) {
                        let wanted = rows[k][&joint.name].as_array().unwrap();
                        for (value, wanted) in pose.position.to_array().into_iter().zip(wanted) {
                            let wanted = wanted.as_f64().unwrap() / 1e8;
                            let name = &joint.name;
                            assert!((value - wanted).abs() < 1e-5, "{name} at {time_s} s: {value} {wanted}");
                            compared += 1;
                        }
                    }
                }
            }
        }
    }
    assert_eq!(compared, 3 * 20 * 12 * 3 * 2);
    // What eases takes more frames than it has keys, but not as many as it is looked at.
    let frames = figures[0].clips[0].1.frames.len();
    assert!((20..4000).contains(&frames), "{frames}");
}

#[test]
fn who_dances_is_no_part_of_the_set_and_who_stands_still_is() {
    let read = gltf_set::read(FILE, "dance").unwrap();
    assert_eq!(read.content.pieces.len(), 1);
    let Form::Mesh { size, .. } = &read.content.pieces[0].form else { panic!("it is a mesh") };
    assert!((size[1] - 2.0).abs() < 1e-6, "only the post stands there: {size:?}");
    assert!(read.notes.is_empty(), "{:?}", read.notes);
    // Without animations the two are a mesh like any other.
    let mut still: serde_json::Value = serde_json::from_slice(FILE).unwrap();
    still.as_object_mut().unwrap().remove("animations");
    let read = gltf_set::read(&serde_json::to_vec(&still).unwrap(), "dance").unwrap();
    assert!(read.content.figures.is_empty());
    assert_eq!(read.content.pieces.len(), 1);
}

#[test]
fn damaged_figures_are_refused_with_a_sentence() {
    let changed = |change: &dyn Fn(&mut serde_json::Value)| {
        let mut file: serde_json::Value = serde_json::from_slice(FILE).unwrap();
        change(&mut file);
        gltf_set::read(&serde_json::to_vec(&file).unwrap(), "dance")
    };
    let ring = changed(&|f| f["nodes"][5]["children"] = serde_json::json!([1])).unwrap_err();
    assert!(ring.sentence.contains("ring"), "{ring}");
    let flat = changed(&|f| f["nodes"][1]["scale"] = serde_json::json!([0.0, 0.0, 0.0])).unwrap_err();
    assert!(flat.sentence.contains("nowhere"), "{flat}");
    // A joint that is not there, and keys that are not as many as their values.
    assert!(changed(&|f| f["skins"][0]["joints"][0] = serde_json::json!(900)).is_err());
    let odd = changed(&|f| f["animations"][1]["samplers"][1]["output"] = serde_json::json!(0));
    assert!(odd.is_err() || odd.is_ok_and(|r| r.content.figures[0].clips.len() == 2));
}
