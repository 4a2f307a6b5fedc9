//! `cargo xtask demo`, `dev` and `test`: everything a fresh machine needs, in one command each. Only the standard library, so that it starts at once.

mod parts;

use parts::{Part, tests};
use std::env;
use std::path::{Path, PathBuf};
use std::process::{Command, ExitCode};
use std::time::Instant;

const HELP: &str = "cargo xtask COMMAND

  demo [--port N]   install and build what is needed, then serve the demo production
  dev               the same beside a page that is built anew whenever a file of it is saved
  test [PART ...]   install what the tests need and run everything, or only the named parts
  bench             run the benches, the filters beside SciPy, a drag on the plan
  reference         make the check values in reference/values anew
  shots             take the pictures in docs/screenshots anew
";

fn main() -> ExitCode {
    let words: Vec<String> = env::args().skip(1).collect();
    let Some((command, rest)) = words.split_first() else {
        print!("{HELP}");
        return ExitCode::from(2);
    };
    let outcome = match command.as_str() {
        "demo" => demo(rest),
        "dev" => dev(),
        "test" => return test(rest),
        "bench" => bench(),
        "reference" => reference(),
        "shots" => shots(),
        _ => {
            print!("{HELP}");
            return ExitCode::from(2);
        }
    };
    match outcome {
        Ok(()) => ExitCode::SUCCESS,
        Err(sentence) => {
            eprintln!("xtask: {sentence}");
            ExitCode::FAILURE
        }
    }
}

/// Outcome of a step: nothing, or a sentence that says what failed.
type Outcome = Result<(), String>;

/// Folder of the checkout.
fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("xtask is in the workspace").into()
}

/// A command in a folder of the checkout.
fn command(folder: &str, program: &str, arguments: &[&str]) -> Command {
    let mut command = Command::new(program);
    command.args(arguments).current_dir(root().join(folder));
    command
}

/// Runs a command to its end.
fn run(mut command: Command) -> Outcome {
    let shown = format!("{command:?}");
    let status = command.status().map_err(|e| format!("{shown} could not be started: {e}"))?;
    if status.success() { Ok(()) } else { Err(format!("{shown} failed ({status})")) }
}

fn cargo(arguments: &[&str]) -> Outcome {
    run(command(".", env!("CARGO"), arguments))
}

/// Installs the packages of a folder as its lock file names them, once per lock file.
fn npm_install(folder: &str) -> Outcome {
    let place = root().join(folder);
    let lock = std::fs::read(place.join("package-lock.json"))
        .map_err(|e| format!("{folder}/package-lock.json: {e}"))?;
    let mark = place.join("node_modules/.rovnek-lock");
    if std::fs::read(&mark).is_ok_and(|old| old == lock) {
        return Ok(());
    }
    let mut install = command(folder, "npm", &["ci", "--no-fund", "--no-audit"]);
    install.env("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1");
    run(install)?;
    std::fs::write(&mark, lock).map_err(|e| format!("{}: {e}", mark.display()))
}

fn build_page() -> Outcome {
    npm_install("web")?;
    run(command("web", "npm", &["run", "build", "--silent"]))
}

/// The binary with the page inside.
fn build() -> Outcome {
    build_page()?;
    cargo(&["build", "--release", "--package", "rovnek-server"])
}

fn binary(profile: &str) -> PathBuf {
    let target = env::var_os("CARGO_TARGET_DIR").map_or_else(|| root().join("target"), PathBuf::from);
    target.join(profile).join("rovnek")
}

fn demo(rest: &[String]) -> Outcome {
    build()?;
    let mut demo = Command::new(binary("release"));
    demo.arg("demo").args(rest);
    run(demo)
}

/// The port that the page's own server hands requests on to; see `web/vite.config.ts`.
const DEV_PORT: &str = "4780";

/// The demo production, and the page served from its sources beside it, until either ends.
fn dev() -> Outcome {
    build()?;
    let mut server = Command::new(binary("release"));
    server.args(["demo", "--port", DEV_PORT]);
    let mut server =
        server.spawn().map_err(|e| format!("{} could not be started: {e}", binary("release").display()))?;
    let page = run(command("web", "npm", &["run", "--silent", "dev"]));
    let _ = server.kill();
    let _ = server.wait();
    page
}

/// A Python with packages of its own, kept below `target`.
fn python(requirements: &str) -> Result<PathBuf, String> {
    let place = root().join("target/reference-python");
    let python = place.join("bin/python");
    if !python.exists() {
        run(command(".", "python3", &["-m", "venv", &place.to_string_lossy()]))?;
    }
    let wanted = root().join("reference").join(requirements);
    let text = std::fs::read_to_string(&wanted).map_err(|e| format!("{}: {e}", wanted.display()))?;
    let mark = place.join(requirements);
    if std::fs::read_to_string(&mark).is_ok_and(|old| old == text) {
        return Ok(python);
    }
    let mut install = Command::new(&python);
    install.args(["-m", "pip", "install", "--quiet", "--disable-pip-version-check", "-r"]).arg(&wanted);
    run(install)?;
    std::fs::write(&mark, text).map_err(|e| format!("{}: {e}", mark.display()))?;
    Ok(python)
}

fn reference() -> Outcome {
    for script in ["make.py", "make_machines.py", "make_steady.py", "make_curves.py"] {
        let mut make = Command::new(python("requirements.txt")?);
        make.arg(root().join("reference").join(script));
        run(make)?;
    }
    npm_install("web")?;
    run(command(".", "node", &["reference/make_figure.mjs"]))?;
    parts::fetch_recordings()?;
    let mut make = Command::new(python("requirements-evo.txt")?);
    make.arg(root().join("reference/make_evo.py")).arg(parts::recording());
    run(make)?;
    let mut make = Command::new(python("requirements-bvh.txt")?);
    make.arg(root().join("reference/make_bvh.py")).args(parts::captures());
    run(make)
}

fn bench() -> Outcome {
    let python = python("requirements.txt")?;
    build()?;
    let mut bench = command(
        ".",
        env!("CARGO"),
        &["bench", "--workspace", "--exclude", "rovnek-e2e", "--exclude", "xtask"],
    );
    bench
        .args([
            "--bench", "smooth", "--bench", "chain", "--bench", "floor", "--bench", "live", "--bench", "load",
        ])
        .env("ROVNEK_PYTHON", python)
        .env("ROVNEK_BIN", binary("release"));
    run(bench)?;
    parts::install_browser()?;
    npm_install("e2e")?;
    let mut measures = command("e2e", "npx", &["playwright", "test", "--config", "measures.config.ts"]);
    measures.env("ROVNEK_BIN", binary("release"));
    run(measures)
}

fn shots() -> Outcome {
    parts::install_browser()?;
    build()?;
    npm_install("e2e")?;
    let mut shots = command("e2e", "npx", &["playwright", "test", "--config", "shots.config.ts"]);
    shots.env("ROVNEK_BIN", binary("release"));
    run(shots)
}

/// Runs the parts one after another, all of them even when one fails, and sums up.
fn test(wanted: &[String]) -> ExitCode {
    let all = tests();
    if let Some(unknown) = wanted.iter().find(|w| all.iter().all(|p| p.name != w.as_str())) {
        let names: Vec<&str> = all.iter().map(|p| p.name).collect();
        eprintln!("xtask: there is no part {unknown}; there are {}", names.join(", "));
        return ExitCode::from(2);
    }
    let start = Instant::now();
    let mut results: Vec<(&Part, Outcome, f64)> = Vec::new();
    for part in all.iter().filter(|p| wanted.is_empty() || wanted.iter().any(|w| w == p.name)) {
        println!("\n━━ {}: {}", part.name, part.what);
        let began = Instant::now();
        let outcome = (part.run)();
        if let Err(sentence) = &outcome {
            println!("✗ {sentence}");
        }
        results.push((part, outcome, began.elapsed().as_secs_f64()));
    }
    println!("\n━━ summary, {:.0} s in all", start.elapsed().as_secs_f64());
    for (part, outcome, seconds) in &results {
        let mark = if outcome.is_ok() { "✓" } else { "✗" };
        println!(
            "{mark} {:10} {seconds:5.0} s  {}",
            part.name,
            outcome.as_ref().err().unwrap_or(&part.what.into())
        );
    }
    let failed = results.iter().filter(|(_, outcome, _)| outcome.is_err()).count();
    println!("parts: {} passed, {failed} failed", results.len() - failed);
    if failed == 0 { ExitCode::SUCCESS } else { ExitCode::FAILURE }
}
