//! Runs the Playwright specs. They need what `cargo xtask test e2e` installs and builds.

use std::path::Path;
use std::process::Command;

#[test]
fn the_page_works_in_chromium() {
    let here = Path::new(env!("CARGO_MANIFEST_DIR"));
    for (variable, stands_for) in
        [("ROVNEK_BIN", "the built binary"), ("ROVNEK_RECORDING", "the fetched recording")]
    {
        let value = std::env::var(variable).unwrap_or_default();
        assert!(Path::new(&value).exists(), "{variable} must name {stands_for}; run `cargo xtask test e2e`");
    }
    let status = Command::new("npx").args(["playwright", "test"]).current_dir(here).status();
    assert!(status.expect("npx is there").success(), "a spec failed; its report is above");
}
