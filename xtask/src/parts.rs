//! The parts of `cargo xtask test`, in order. Each installs what it needs.

use crate::{Outcome, binary, build_page, cargo, command, npm_install, root, run};
use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::OnceLock;

/// A part of the tests.
pub struct Part {
    /// For the command line.
    pub name: &'static str,
    /// Description for people.
    pub what: &'static str,
    /// Function that runs the part.
    pub run: fn() -> Outcome,
}

/// Parts of the tests, in order.
pub fn tests() -> Vec<Part> {
    let part = |name, what, run| Part { name, what, run };
    vec![
        part(
            "build",
            "what tests need, the binary with the page inside, tests and lints of all crates",
            build,
        ),
        part("page", "types, lint, format and unit tests of the page", page),
        part("format", "cargo fmt", || cargo(&["fmt", "--all", "--check"])),
        part("rust", "tests of all crates", rust),
        part("e2e", "the real page in Chromium, and what it hands over, read by others", e2e),
    ]
}

/// Does at once what needs one core or none; what failed is told once all have ended.
fn together(all: &[fn() -> Outcome]) -> Outcome {
    let each = |run: &fn() -> Outcome| std::thread::spawn(*run);
    let running: Vec<_> = all.iter().map(each).collect();
    let ended: Vec<Outcome> =
        running.into_iter().map(|t| t.join().unwrap_or_else(|_| Err("a part panicked".into()))).collect();
    ended.into_iter().collect()
}

fn install() -> Outcome {
    together(&[install_browser, || npm_install("e2e"), fetch_recordings])
}

/// Debian's Chromium, a software OpenGL, and what looks into films.
pub fn install_browser() -> Outcome {
    let there = ["/usr/bin/chromium", "/usr/bin/ffprobe", "/usr/lib/x86_64-linux-gnu/libEGL_mesa.so.0"]
        .map(Path::new);
    if there.iter().all(|file| file.exists()) {
        return Ok(());
    }
    let quiet = |arguments: &[&str]| {
        let mut apt = Command::new("apt-get");
        apt.args(arguments).env("DEBIAN_FRONTEND", "noninteractive");
        run(apt)
    };
    quiet(&["update", "-qq"])?;
    // Films are counted and compared by somebody else: ffmpeg.
    let wanted = ["chromium", "libegl-mesa0", "libgl1-mesa-dri", "ffmpeg"];
    quiet(&[&["install", "-qq", "-y", "--no-install-recommends"], &wanted[..]].concat())
}

/// What others recorded and the tests read, from source packages of the registry. It is fetched
/// for the tests and never shipped.
///
/// * evo's carries a handheld camera in the TUM text format. The package is GPL-3.0; the recording
///   is of the TUM RGB-D benchmark, CC BY 4.0 (from memory).
/// * bvhtoolbox's, MIT as a whole, carries two captured performances as BVH.
pub fn fetch_recordings() -> Outcome {
    fetch("evo==1.38.1", "evo-1.38.1", &[(recording(), "test/data/freiburg1_xyz-groundtruth.txt")])?;
    let inside = |name: &str| format!("tests/example_files/{name}.bvh");
    let [free, bank] = captures();
    let files = [(free, inside("test_freebvh")), (bank, inside("test_mocapbank"))];
    let files = files.each_ref().map(|(to, from)| (to.clone(), from.as_str()));
    fetch("bvhtoolbox==0.1.3", "bvhtoolbox-0.1.3", &files)
}

/// Files out of a source package, where they are not there yet.
fn fetch(package: &str, folder: &str, files: &[(PathBuf, &str)]) -> Outcome {
    if files.iter().all(|(to, _)| to.exists()) {
        return Ok(());
    }
    let place = root().join("target/recording").to_string_lossy().into_owned();
    let download = ["-m", "pip", "download", "--quiet", "--disable-pip-version-check", "--no-deps"];
    let mut get = command(".", "python3", &download);
    get.args(["--no-binary", ":all:", "-d", &place, package]);
    run(get)?;
    let archive = format!("{place}/{folder}.tar.gz");
    files.iter().try_for_each(|(_, from)| {
        let strip = format!("--strip-components={}", from.split('/').count());
        let inside = format!("{folder}/{from}");
        run(command(".", "tar", &["-xzf", &archive, "-C", &place, &strip, &inside]))
    })
}

/// Path of the handheld recording, once fetched.
pub fn recording() -> PathBuf {
    root().join("target/recording/freiburg1_xyz-groundtruth.txt")
}

/// Paths of the captured performances, once fetched.
pub fn captures() -> [PathBuf; 2] {
    ["test_freebvh", "test_mocapbank"].map(|name| root().join(format!("target/recording/{name}.bvh")))
}

fn page() -> Outcome {
    together(&[|| npm_install("web"), || npm_install("e2e")])?;
    together(&[|| page_script("web", &["types", "format"]), || page_script("web", &["lint"])])?;
    together(&[|| page_script("web", &["test"]), || page_script("e2e", &["check"])])
}

fn page_script(folder: &str, scripts: &[&str]) -> Outcome {
    scripts.iter().try_for_each(|script| run(command(folder, "npm", &["run", "--silent", script])))
}

/// All crates but the one whose tests need a browser. One choice for building and for running: with
/// another one the features of what they stand on are others too, and half of it is built again.
const CRATES: [&str; 5] = ["test", "--profile", PROFILE, "--workspace", "--exclude=rovnek-e2e"];

/// Profile that tests are built with.
const PROFILE: &str = "checked";

/// Cargo that compiles our own crates with clippy, so that nothing is compiled once to be linted and once to run. A
/// warning is an error.
fn linted(arguments: &[&str]) -> Command {
    let mut cargo = command(".", env!("CARGO"), arguments);
    cargo.env("RUSTC_WORKSPACE_WRAPPER", root().join("xtask/linted"));
    cargo
}

/// While packages are fetched and unpacked the crates are compiled.
fn build() -> Outcome {
    together(&[install, build_all])
}

fn build_all() -> Outcome {
    static BUILT: OnceLock<Outcome> = OnceLock::new();
    // Benches are compiled and linted as well, and run by `cargo xtask bench`.
    fn crates() -> Outcome {
        run(linted(&[&CRATES[..], &["--all-targets", "--no-run"]].concat()))
    }
    let build = || {
        if binary(PROFILE).parent().is_some_and(Path::exists) {
            build_page()?;
        } else {
            // Where nothing at all is built yet, the server is compiled minutes after the page that it holds.
            together(&[build_page, crates])?;
        }
        crates()
    };
    BUILT.get_or_init(build).clone()
}

fn rust() -> Outcome {
    fetch_recordings()?;
    build_all()?;
    // What building wrote is on the disk before tests ask how quickly takes are.
    run(command(".", "sync", &[]))?;
    let mut tests = linted(&CRATES);
    tests.env("ROVNEK_RECORDING", recording()).env("ROVNEK_CAPTURE", &captures()[1]);
    run(tests)
}

fn e2e() -> Outcome {
    install()?;
    build_all()?;
    let mut tests = linted(&["test", "--profile", PROFILE, "--package", "rovnek-e2e", "--", "--nocapture"]);
    tests.env("ROVNEK_BIN", binary(PROFILE)).env("ROVNEK_RECORDING", recording());
    tests.env("ROVNEK_CAPTURE", &captures()[1]);
    run(tests)
}
