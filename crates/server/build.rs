//! The page is embedded into the binary. Where it has not been built yet, a line that says so
//! stands in for it, so that the server's own tests need no Node.js.

use std::path::Path;

fn main() {
    let dist = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/dist");
    println!("cargo::rerun-if-changed={}", dist.display());
    let index = dist.join("index.html");
    if !index.exists() {
        let line =
            "<!doctype html><title>Rovnek</title><p>The page has not been built. Run: cargo xtask demo</p>\n";
        std::fs::create_dir_all(&dist)
            .and_then(|()| std::fs::write(index, line))
            .expect("web/dist can be written");
    }
}
