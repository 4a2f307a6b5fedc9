//! The page and the notices of everything that the binary is made of are embedded into it. Where the page has not
//! been built yet, a line that says so stands in for it, so that the server's own tests need no Node.js.

use cargo_metadata::{CargoOpt, DependencyKind, Metadata, MetadataCommand, Package, PackageId};
use std::collections::{BTreeMap, BTreeSet};
use std::env::var;
use std::fs;
use std::path::{Path, PathBuf};

fn main() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let dist = root.join("web/dist");
    println!("cargo::rerun-if-changed={}", dist.display());
    println!("cargo::rerun-if-changed={}", root.join("Cargo.lock").display());
    let index = dist.join("index.html");
    if !index.exists() {
        let line =
            "<!doctype html><title>Rovnek</title><p>The page has not been built. Run: cargo xtask demo</p>\n";
        fs::create_dir_all(&dist).and_then(|()| fs::write(index, line)).expect("web/dist can be written");
    }
    let gathered = root.join("web/licences.json");
    println!("cargo::rerun-if-changed={}", gathered.display());
    let notices = [crates(), page(&gathered), fonts(&root.join("web/node_modules/@fontsource"))].concat();
    let to = PathBuf::from(var("OUT_DIR").expect("cargo says where to")).join("licences.txt");
    fs::write(to, told(notices)).expect("cargo's folder can be written");
}

/// Notice of a package: names, and a text that may be that of several.
#[derive(Clone)]
struct Notice {
    package: String,
    text: String,
}

/// Each text once, below the packages that it belongs to.
fn told(notices: Vec<Notice>) -> String {
    let mut by_text: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
    for Notice { package, text } in notices {
        by_text.entry(text.trim().replace("\r\n", "\n")).or_default().insert(package);
    }
    let mut all: Vec<(BTreeSet<String>, String)> = by_text.into_iter().map(|(t, p)| (p, t)).collect();
    all.sort();
    let part = |(packages, text): &(BTreeSet<String>, String)| {
        let names: Vec<&str> = packages.iter().map(String::as_str).collect();
        format!("{}\n\n{text}\n", names.join("\n"))
    };
    all.iter().map(part).collect::<Vec<_>>().join("\n----------------------------------------\n\n")
}

/// Notices of the crates that the server is compiled from.
fn crates() -> Vec<Notice> {
    let target = var("TARGET").expect("cargo says for what");
    let options = ["--locked".to_string(), format!("--filter-platform={target}")];
    let asked = MetadataCommand::new().features(CargoOpt::AllFeatures).other_options(options).exec();
    match asked {
        Ok(known) => used(&known).into_iter().flat_map(notices_of).collect(),
        Err(error) => {
            println!("cargo::warning=notices of crates are missing from the binary: {error}");
            Vec::new()
        }
    }
}

/// Packages that are reached from the server without those that only tests or builds need.
fn used(known: &Metadata) -> Vec<&Package> {
    let nodes: BTreeMap<&PackageId, _> =
        known.resolve.iter().flat_map(|resolved| &resolved.nodes).map(|node| (&node.id, node)).collect();
    let server = known.packages.iter().find(|p| p.name == "rovnek-server").expect("it is of the workspace");
    let (mut reached, mut next) = (BTreeSet::new(), vec![&server.id]);
    while let Some(id) = next.pop() {
        if !reached.insert(id) {
            continue;
        }
        let deps = nodes.get(id).into_iter().flat_map(|node| &node.deps);
        let shipped = deps.filter(|dep| dep.dep_kinds.iter().any(|k| k.kind == DependencyKind::Normal));
        next.extend(shipped.map(|dep| &dep.pkg));
    }
    known.packages.iter().filter(|p| p.source.is_some() && reached.contains(&p.id)).collect()
}

fn notices_of(package: &Package) -> Vec<Notice> {
    let named =
        format!("{} {} ({})", package.name, package.version, package.license.as_deref().unwrap_or("?"));
    let folder = package.manifest_path.parent().expect("a manifest lies in a folder");
    let texts = texts_in(folder.as_std_path());
    let notice = |text| Notice { package: named.clone(), text };
    if texts.is_empty() {
        return vec![notice(format!(
            "Distributed without a file of its own; {}",
            package.repository.as_deref().unwrap_or("")
        ))];
    }
    texts.into_iter().map(notice).collect()
}

/// Texts of the files in a folder that are named as notices are.
fn texts_in(folder: &Path) -> Vec<String> {
    let words = ["LICEN", "COPYING", "NOTICE", "UNLICEN"];
    let mut files: Vec<PathBuf> =
        fs::read_dir(folder).into_iter().flatten().flatten().map(|f| f.path()).collect();
    files.retain(|f| {
        let name = f.file_name().unwrap_or_default().to_string_lossy().to_uppercase();
        f.is_file() && words.iter().any(|word| name.starts_with(word))
    });
    files.sort();
    files.iter().filter_map(|f| fs::read_to_string(f).ok()).collect()
}

/// Notices of the page's packages, as its build has gathered them.
fn page(gathered: &Path) -> Vec<Notice> {
    let text = fs::read_to_string(gathered).unwrap_or_else(|_| "[]".into());
    let packages: Vec<BTreeMap<String, Option<String>>> =
        serde_json::from_str(&text).expect("the page's build writes a list of packages");
    let notice = |package: &BTreeMap<String, Option<String>>| {
        let field = |name: &str| package.get(name).cloned().flatten().unwrap_or_default();
        let named = format!("{} {} ({})", field("name"), field("version"), field("license"));
        Notice { package: named, text: format!("{}\n\n{}", field("text"), field("notice")) }
    };
    packages.iter().map(notice).collect()
}

/// Notices of the fonts: they are styles to the page's build, which gathers those of scripts.
fn fonts(folder: &Path) -> Vec<Notice> {
    let mut fonts: Vec<PathBuf> =
        fs::read_dir(folder).into_iter().flatten().flatten().map(|f| f.path()).collect();
    fonts.sort();
    let named = |font: &PathBuf| format!("font {}", font.file_name().unwrap_or_default().to_string_lossy());
    let notices = |font: PathBuf| {
        let package = named(&font);
        texts_in(&font).into_iter().map(move |text| Notice { package: package.clone(), text })
    };
    fonts.into_iter().flat_map(notices).collect()
}
