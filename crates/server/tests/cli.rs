//! The command line, run as a user runs it.

use rovnek_core::ids::MoveId;
use rovnek_formats::tracking::capture;
use rovnek_server::demo;
use rovnek_store::shelf::Shelf;
use serde_json::Value;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};
use tempfile::TempDir;

fn rovnek(folder: &Path, words: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_rovnek")).args(words).current_dir(folder).output().unwrap()
}

fn done(output: &Output) {
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
}

/// One sentence on standard error, and exit status 2.
fn refused(output: &Output) -> String {
    assert_eq!(output.status.code(), Some(2));
    assert!(output.stdout.is_empty());
    String::from_utf8_lossy(&output.stderr).trim().to_string()
}

/// A folder with a shaky track in it, 4 s at 24 frames, panning past the half turn.
fn folder() -> (TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let mut text =
        String::from("f_stop,time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm,focus_m,mood\n");
    for i in 0..97 {
        let (t, wobble) = (f64::from(i) / 24.0, if i % 2 == 0 { 0.4 } else { -0.4 });
        let pan = (170.0 + 10.0 * t + wobble + 180.0_f64).rem_euclid(360.0) - 180.0;
        text += &format!("4,{t},{},1.7,0,{pan},{wobble},0,{},5,calm\n", t + wobble / 100.0, 35.0 + wobble);
    }
    let path = folder.path().join("in.csv");
    std::fs::write(&path, text).unwrap();
    (folder, path)
}

fn column(path: &Path, name: &str) -> Vec<f64> {
    let text = std::fs::read_to_string(path).unwrap();
    let place = text.lines().next().unwrap().split(',').position(|c| c == name).unwrap();
    text.lines().skip(1).map(|l| l.split(',').nth(place).unwrap().parse().unwrap()).collect()
}

#[test]
fn a_bare_track_is_retimed_with_its_times() {
    let (folder, path) = folder();
    let words = ["treat", "in.csv", "slow.csv", "--treatment", "retime:way.by=stretch,way.length_s=8"];
    done(&rovnek(folder.path(), &words));
    let slow = folder.path().join("slow.csv");
    let (time, x) = (column(&slow, "time_s"), column(&slow, "x_m"));
    let (raw_time, raw_x) = (column(&path, "time_s"), column(&path, "x_m"));
    let rate = (raw_time.len() - 1) as f64 / raw_time[raw_time.len() - 1];
    assert_eq!(time.len(), (8.0 * rate).round() as usize + 1);
    assert!((time[time.len() - 1] - 8.0).abs() < 1e-6);
    assert_eq!((x[0], x[x.len() - 1]), (raw_x[0], raw_x[raw_x.len() - 1]));
}

#[test]
fn what_goes_by_who_plays_is_refused_on_a_bare_track() {
    let (folder, _) = folder();
    for kind in ["aim", "focus:nearer_m=0.2", "counter_zoom"] {
        let words = ["treat", "in.csv", "out.csv", "--treatment", kind];
        let said = refused(&rovnek(folder.path(), &words));
        assert!(said.contains("reads where the performers are, which a bare track does not hold"), "{said}");
        assert!(!folder.path().join("out.csv").exists());
    }
    done(&rovnek(folder.path(), &["treat", "in.csv", "out.csv", "--treatment", "correction"]));
}

#[test]
fn treat_smooths_and_measure_says_so() {
    let (folder, path) = folder();
    let treat = |out: &str, more: &[&str]| {
        let words = [&["treat", "in.csv", out, "--smooth", "gaussian:sigma_s=0.08"], more].concat();
        let output = rovnek(folder.path(), &words);
        done(&output);
        assert!(String::from_utf8_lossy(&output.stderr).contains("\"mood\" is not known and was left out"));
        folder.path().join(out)
    };
    let all = treat("all.csv", &[]);
    let (raw_x, x) = (column(&path, "x_m"), column(&all, "x_m"));
    assert_eq!((raw_x[0], raw_x[96]), (x[0], x[96]));
    assert!((x[48] - 2.0).abs() < 1e-3, "{}", x[48]);
    let pan = column(&all, "pan_deg");
    assert!(pan.windows(2).all(|w| (w[1] - w[0]).abs() < 1.5), "unwrapped and not wrapped again");
    assert!((pan[96] - 210.4).abs() < 1e-9);
    let turned = treat("turned.csv", &["--only", "rotation"]);
    assert_eq!(column(&turned, "x_m"), raw_x);
    assert_eq!(column(&turned, "pan_deg"), pan);
    let two = treat("two.csv", &["--only", "position", "--only", "lens"]);
    assert_eq!(column(&two, "focal_mm"), column(&all, "focal_mm"));
    assert_eq!(column(&two, "tilt_deg"), column(&path, "tilt_deg"));

    let output = rovnek(folder.path(), &["measure", "all.csv", "--against", "in.csv"]);
    done(&output);
    let figures: Value = serde_json::from_slice(&output.stdout).unwrap();
    let number = |v: &Value| v.as_f64().unwrap();
    assert!(
        number(&figures["shake_rotation_deg"]["worst_second"])
            < 0.3 * number(&figures["against"]["shake_rotation_deg"]["worst_second"])
    );
    assert!(
        number(&figures["departure_rotation_deg"]) > 0.1 && number(&figures["departure_position_cm"]) > 0.1
    );
    assert_eq!(figures["samples"], 97);
}

#[test]
fn uneven_rows_are_evened_with_the_line_of_the_gap_and_passes_that_are_none_are_told() {
    let (folder, _) = folder();
    // A hundred a second, half a second missing after row 40, which is line 42.
    let row = |k: usize| {
        let t = 0.01 * if k > 40 { k + 50 } else { k } as f64;
        format!("{t},{},1.6,0,0,0,0,35,5,4\n", 2.0 * t)
    };
    let text: String = (0..100).map(row).collect();
    let head = "time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm,focus_m,f_stop\n";
    std::fs::write(folder.path().join("gap.csv"), format!("{head}{text}")).unwrap();
    let smooth = ["treat", "gap.csv", "out.csv", "--smooth", "gaussian:sigma_s=0.05"];
    let output = rovnek(folder.path(), &smooth);
    done(&output);
    let said = String::from_utf8_lossy(&output.stderr).to_string();
    assert!(
        said.contains("line 43 comes 0.510 s after") && said.contains("evened to 100.000 a second"),
        "{said}"
    );
    let x = column(&folder.path().join("out.csv"), "x_m");
    assert_eq!(x.len(), 150);
    assert!(x.windows(2).all(|w| (w[1] - w[0] - 0.02).abs() < 1e-6), "a straight line stays one");
    let few = ["treat", "in.csv", "out.csv", "--smooth", "binomial:passes=1,rate=120"];
    let output = rovnek(folder.path(), &few);
    done(&output);
    let said = String::from_utf8_lossy(&output.stderr).to_string();
    assert!(said.contains("1 passes at 120 frames a second are less than one"), "{said}");
    // Compared by time, at another rate too; tracks that share no time are refused.
    done(&rovnek(
        folder.path(),
        &["convert", "--from", "csv", "--to", "csv", "--rate", "60", "in.csv", "fine.csv"],
    ));
    let output = rovnek(folder.path(), &["measure", "fine.csv", "--against", "in.csv"]);
    done(&output);
    let figures: Value = serde_json::from_slice(&output.stdout).unwrap();
    assert!(figures["departure_position_cm"].as_f64().unwrap() < 1e-6, "{figures}");
    std::fs::write(folder.path().join("later.csv"), format!("{head}{}", row(400) + &row(401) + &row(402)))
        .unwrap();
    let output = rovnek(folder.path(), &["measure", "gap.csv", "--against", "later.csv"]);
    assert!(String::from_utf8_lossy(&output.stderr).contains("they share no time"));
}

#[test]
fn a_bare_track_is_shaken_too_and_the_same_each_time() {
    let (folder, path) = folder();
    let shake = |out: &str, seed: u32| {
        let of = format!("shake:seed={seed},way.to_hz=6");
        done(&rovnek(folder.path(), &["treat", "in.csv", out, "--treatment", &of]));
        std::fs::read(folder.path().join(out)).unwrap()
    };
    assert_eq!(shake("a.csv", 3), shake("b.csv", 3));
    assert_ne!(shake("a.csv", 3), shake("c.csv", 4));
    let (raw, now) = (column(&path, "y_m"), column(&folder.path().join("a.csv"), "y_m"));
    let square: f64 = raw.iter().zip(&now).map(|(a, b)| (a - b).powi(2)).sum();
    assert!(((square / 97.0).sqrt() - 0.005).abs() < 0.002, "half a centimetre: {}", (square / 97.0).sqrt());
    assert_eq!(column(&path, "focal_mm"), column(&folder.path().join("a.csv"), "focal_mm"));
}

#[test]
fn binomial_passes_at_their_own_rate_are_plain_passes() {
    let (folder, path) = folder();
    done(&rovnek(folder.path(), &["treat", "in.csv", "out.csv", "--smooth", "binomial:passes=2,rate=24"]));
    let mut want = column(&path, "x_m");
    for _ in 0..2 {
        let odd = |i: isize| -> f64 {
            let n = want.len() as isize;
            if i < 0 {
                2.0 * want[0] - want[-i as usize]
            } else if i >= n {
                2.0 * want[n as usize - 1] - want[(2 * n - 2 - i) as usize]
            } else {
                want[i as usize]
            }
        };
        want =
            (0..want.len() as isize).map(|i| 0.25 * odd(i - 1) + 0.5 * odd(i) + 0.25 * odd(i + 1)).collect();
    }
    let got = column(&folder.path().join("out.csv"), "x_m");
    assert!(got.iter().zip(&want).all(|(g, w)| (g - w).abs() < 1e-9));
}

#[test]
fn tum_and_csv_become_csv_and_glb() {
    let (folder, _) = folder();
    std::fs::write(folder.path().join("walk.txt"), "10 1 2 3 0 0 0 1\n11 1 3 3 0 0 0 1\n").unwrap();
    done(&rovnek(
        folder.path(),
        &["convert", "--from", "tum", "--to", "csv", "--rate", "24", "walk.txt", "walk.csv"],
    ));
    let walk = folder.path().join("walk.csv");
    assert_eq!(column(&walk, "time_s").len(), 25);
    assert_eq!(
        (column(&walk, "x_m")[0], column(&walk, "y_m")[0], column(&walk, "z_m")[24]),
        (1.0, 3.0, -3.0)
    );
    done(&rovnek(folder.path(), &["convert", "--from", "csv", "--to", "glb", "walk.csv", "walk.glb"]));
    assert_eq!(&std::fs::read(folder.path().join("walk.glb")).unwrap()[..4], b"glTF");
    done(&rovnek(folder.path(), &["convert", "--from", "csv", "--to", "csv", "walk.csv", "same.csv"]));
    let read = |name: &str| std::fs::read(folder.path().join(name)).unwrap();
    assert_eq!(read("walk.csv"), read("same.csv"));
}

#[test]
fn what_cannot_be_done_is_said_in_one_sentence() {
    let (folder, path) = folder();
    let ask = |words: &[&str]| refused(&rovnek(folder.path(), words));
    let said = ask(&["measure", "nowhere.csv"]);
    assert!(said.contains("cannot read nowhere.csv") && said.lines().count() == 1, "{said}");
    let good = std::fs::read_to_string(&path).unwrap();
    std::fs::write(folder.path().join("short.csv"), &good[..good.len() - 20]).unwrap();
    let said = ask(&["treat", "short.csv", "out.csv", "--smooth", "gaussian:sigma_s=0.1"]);
    assert!(said.contains("short.csv, line 98:") && said.lines().count() <= 2, "{said}");
    assert!(!folder.path().join("out.csv").exists());
    assert!(ask(&["measure", "in.csv", "--against", "nothing.csv"]).contains("nothing.csv"));
    assert!(
        ask(&["treat", "in.csv", "out.csv", "--smooth", "gaussian:sigma=1"])
            .contains("gaussian:sigma_s=0.08")
    );
    assert!(
        ask(&["treat", "in.csv", "out.csv", "--smooth", "binomial:passes=401,rate=24"]).contains("1 to 400")
    );
    assert!(
        ask(&["convert", "--from", "fbx", "--to", "csv", "in.csv", "out.csv"])
            .contains("give csv, tum, opentrackio or glb")
    );
    assert!(
        ask(&["treat", "in.csv", "no/such/out.csv", "--smooth", "gaussian:sigma_s=1"])
            .contains("cannot write")
    );
    std::fs::write(folder.path().join("data"), "a file where a folder should be").unwrap();
    assert!(ask(&["serve", "--data", "data"]).contains("data"));
}

#[test]
fn an_address_that_lets_others_in_must_be_meant() {
    let (folder, _) = folder();
    for bind in ["0.0.0.0", "::", "192.168.1.7"] {
        let said = refused(&rovnek(folder.path(), &["serve", "--bind", bind, "--data", "new"]));
        assert!(said.contains("drive the machines") && said.contains("add --open"), "{said}");
    }
    assert!(!folder.path().join("new").exists(), "nothing was begun");
}

#[test]
fn a_take_is_exported_from_its_folder() {
    let (folder, _) = folder();
    assert!(
        refused(&rovnek(folder.path(), &["export", "--take", "1", "--to", "csv", "out.csv"]))
            .contains("holds no production")
    );
    {
        let shelf = Shelf::open(&folder.path().join("rovnek-data")).unwrap();
        let id = shelf.begin(demo::NAME, demo::fill).unwrap();
        let mut store = shelf.open_one(&id).unwrap();
        let by = Some(rovnek_core::treatments::SmoothBy::Binomial { passes: 100 });
        let smooth = rovnek_core::treatments::Smooth { machine: by, head: by, lens: None };
        let kind = rovnek_core::treatments::TreatmentKind::Smooth(smooth);
        let mut edit = store.edit("smooth", None).unwrap();
        edit.treat(MoveId(1), &vec![kind.into()].into()).unwrap();
        edit.commit().unwrap();
    }
    for (more, out) in [(&["--raw"][..], "raw.csv"), (&[], "now.csv")] {
        done(&rovnek(folder.path(), &[&["export", "--take", "1", "--to", "csv", out], more].concat()));
    }
    let path = |name: &str| folder.path().join(name);
    let (raw, now) = (column(&path("raw.csv"), "tilt_deg"), column(&path("now.csv"), "tilt_deg"));
    assert_eq!((raw.len(), now.len(), raw[0], raw[288]), (289, 289, now[0], now[288]));
    assert!(raw.iter().zip(&now).any(|(a, b)| (a - b).abs() > 0.1));
    done(&rovnek(folder.path(), &["export", "--take", "2", "--to", "glb", "out.glb"]));
    let glb = std::fs::read(path("out.glb")).unwrap();
    let text = String::from_utf8_lossy(&glb);
    assert!(text.contains("\"conductor\"") && text.contains("\"tram 7\"") && text.contains("focal_mm"));
    // By the number of its move it is the same; a move that is not there is told with those that are.
    done(&rovnek(folder.path(), &["export", "--move", "2", "--to", "glb", "move.glb"]));
    let read = |name: &str| std::fs::read(folder.path().join(name)).unwrap();
    assert_eq!(read("out.glb"), read("move.glb"));
    let said = refused(&rovnek(folder.path(), &["export", "--move", "arc", "--to", "csv", "out.csv"]));
    assert!(said.contains("there is no move \"arc\"; there are 1, 2"), "{said}");
    let said = refused(&rovnek(folder.path(), &["export", "--take", "9", "--to", "csv", "out.csv"]));
    assert!(said.contains("no take 9; there are 1, 2"), "{said}");
    let take = ["export", "--take", "1", "--to", "csv", "out.csv"];
    let said = refused(&rovnek(folder.path(), &[&take[..], &["--scene", "99"]].concat()));
    assert!(said.contains("there is no scene 99; there are 12"), "{said}");
    let said = refused(&rovnek(folder.path(), &[&take[..], &["--production", "noon"]].concat()));
    assert!(said.contains("there is no production \"noon\"; there are last-tram"), "{said}");
    done(&rovnek(folder.path(), &[&take[..], &["--production", "last-tram", "--scene", "12"]].concat()));
    // A copy of it is one file, which another folder takes; also while it is in use here.
    let shelf = Shelf::open(&folder.path().join("rovnek-data")).unwrap();
    done(&rovnek(folder.path(), &["copy", "kept.sqlite"]));
    assert!(refused(&rovnek(folder.path(), &["copy", "kept.sqlite"])).contains("is there already"));
    drop(shelf);
    let bring = ["copy", "--bring", "--data", "other"];
    done(&rovnek(folder.path(), &[&bring[..], &["kept.sqlite"]].concat()));
    assert!(refused(&rovnek(folder.path(), &[&bring[..], &["in.csv"]].concat())).contains("damaged"));
    done(&rovnek(folder.path(), &["export", "--data", "other", "--take", "2", "--to", "glb", "other.glb"]));
    assert_eq!(read("out.glb"), read("other.glb"));
}

#[test]
fn help_explains_each_command() {
    let (folder, _) = folder();
    let help = rovnek(folder.path(), &["--help"]);
    let text = String::from_utf8(help.stdout).unwrap();
    for command in ["serve", "demo", "device", "copy", "convert", "treat", "measure"] {
        assert!(text.contains(command));
        done(&rovnek(folder.path(), &[command, "--help"]));
    }
}

#[test]
fn a_device_is_sent_and_sent_again_from_a_capture() {
    let (folder, _) = folder();
    let socket = std::net::UdpSocket::bind("127.0.0.1:0").unwrap();
    socket.set_read_timeout(Some(std::time::Duration::from_secs(20))).unwrap();
    let to = socket.local_addr().unwrap().to_string();
    let receive = |socket: &std::net::UdpSocket| {
        let mut buffer = [0; 2000];
        let length = socket.recv(&mut buffer).unwrap();
        buffer[..length].to_vec()
    };
    let args =
        ["device", "--protocol", "freed", "--to", &to, "--number", "7", "--seconds", "0.3", "--seed", "5"];
    done(&rovnek(folder.path(), &args));
    let first = receive(&socket);
    assert_eq!((first.len(), first[0], first[1]), (29, 0xD1, 7));
    while socket.set_nonblocking(true).is_ok() && socket.recv(&mut [0; 64]).is_ok() {}
    socket.set_nonblocking(false).unwrap();

    let packets: Vec<capture::Packet> = (0..5)
        .map(|i| capture::Packet { time_s: f64::from(i) * 0.01, port: 9, data: vec![i as u8; 3] })
        .collect();
    std::fs::write(folder.path().join("take.pcap"), capture::write(&packets)).unwrap();
    done(&rovnek(folder.path(), &["device", "--to", &to, "--replay", "take.pcap"]));
    for packet in &packets {
        assert_eq!(receive(&socket), packet.data);
    }
    std::fs::write(folder.path().join("no.pcap"), "hello").unwrap();
    for (args, words) in [
        (["--replay", "no.pcap"], "no packet capture"),
        (["--move", "jump"], "is no move"),
        (["--loss", "101"], "0 to 100"),
        (["--protocol", "x"], "opentrackio or freed"),
    ] {
        let output = rovnek(folder.path(), &[&["device", "--to", &to][..], &args].concat());
        assert_eq!(output.status.code(), Some(2));
        let said = String::from_utf8_lossy(&output.stderr);
        assert!(said.contains(words), "{said}");
    }
}
