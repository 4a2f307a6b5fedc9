//! The parts of `cargo xtask test`, in order. Each installs what it needs.

use crate::{Outcome, binary, build, build_page, cargo, command, npm_install, root, run};
use std::path::{Path, PathBuf};
use std::process::Command;

/// A part of the tests.
pub struct Part {
    /// For the command line.
    pub name: &'static str,
    /// For people.
    pub what: &'static str,
    /// Does it.
    pub run: fn() -> Outcome,
}

/// All of them.
pub fn tests() -> Vec<Part> {
    let part = |name, what, run| Part { name, what, run };
    vec![
        part("install", "Chromium, packages, the recording that tests read", install),
        part("page", "types, lint, format and unit tests of the page", page),
        part("build", "the page, and the binary with the page inside", build),
        part("format", "cargo fmt", || cargo(&["fmt", "--all", "--check"])),
        part("rust", "tests of all crates", rust),
        part("lint", "clippy", lint),
        part("e2e", "the real page in Chromium, and what it hands over, read by others", e2e),
    ]
}

fn install() -> Outcome {
    install_browser()?;
    npm_install("web")?;
    npm_install("e2e")?;
    fetch_recording()
}

/// Debian's Chromium and a software OpenGL.
pub fn install_browser() -> Outcome {
    if Path::new("/usr/bin/chromium").exists()
        && Path::new("/usr/lib/x86_64-linux-gnu/libEGL_mesa.so.0").exists()
    {
        return Ok(());
    }
    let quiet = |arguments: &[&str]| {
        let mut apt = Command::new("apt-get");
        apt.args(arguments).env("DEBIAN_FRONTEND", "noninteractive");
        run(apt)
    };
    quiet(&["update", "-qq"])?;
    quiet(&["install", "-qq", "-y", "--no-install-recommends", "chromium", "libegl-mesa0", "libgl1-mesa-dri"])
}

/// The handheld recording in the TUM text format that the tests read.
///
/// evo's source package carries it (`test/data/freiburg1_xyz-groundtruth.txt`). The package is
/// GPL-3.0; the recording is of the TUM RGB-D benchmark, CC BY 4.0 (from memory). It is fetched
/// for the tests and never shipped.
pub fn fetch_recording() -> Outcome {
    const PACKAGE: &str = "evo==1.38.1";
    let place = root().join("target/recording");
    if recording().exists() {
        return Ok(());
    }
    let place = place.to_string_lossy().into_owned();
    let fetch = [
        "-m",
        "pip",
        "download",
        "--quiet",
        "--disable-pip-version-check",
        "--no-deps",
        "--no-binary",
        ":all:",
        "-d",
        &place,
        PACKAGE,
    ];
    run(command(".", "python3", &fetch))?;
    let inside = "evo-1.38.1/test/data/freiburg1_xyz-groundtruth.txt";
    let archive = format!("{place}/evo-1.38.1.tar.gz");
    run(command(".", "tar", &["-xzf", &archive, "-C", &place, "--strip-components=3", inside]))
}

/// Where the recording is, once fetched.
pub fn recording() -> PathBuf {
    root().join("target/recording/freiburg1_xyz-groundtruth.txt")
}

fn page() -> Outcome {
    npm_install("web")?;
    for script in ["check", "test"] {
        run(command("web", "npm", &["run", "--silent", script]))?;
    }
    npm_install("e2e")?;
    run(command("e2e", "npm", &["run", "--silent", "check"]))
}

fn rust() -> Outcome {
    fetch_recording()?;
    let mut tests =
        command(".", env!("CARGO"), &["test", "--release", "--workspace", "--exclude", "rovnek-e2e"]);
    tests.env("ROVNEK_RECORDING", recording());
    run(tests)
}

fn lint() -> Outcome {
    cargo(&["clippy", "--release", "--workspace", "--all-targets", "--", "-D", "warnings"])
}

fn e2e() -> Outcome {
    install()?;
    build_page()?;
    let mut tests =
        command(".", env!("CARGO"), &["test", "--release", "--package", "rovnek-e2e", "--", "--nocapture"]);
    tests.env("ROVNEK_BIN", binary()).env("ROVNEK_RECORDING", recording());
    run(tests)
}
