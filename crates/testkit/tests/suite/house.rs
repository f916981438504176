//! The rules of the house, held against its files.

use crate::files::{Imports, below, circle, of_crate, of_front_end, project};
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

/// The crates from the ground up: each uses only those before it.
const CRATES: [&str; 18] = [
    "glossary",
    "text",
    "acoustics",
    "cabinet",
    "paper",
    "document",
    "curves",
    "design",
    "shelf",
    "listening",
    "matching",
    "tour",
    "bundle",
    "booklet",
    "store",
    "server",
    "cli",
    "testkit",
];

/// The floors of `design` from the ground up: a file imports only from its own floor and those below. The stations are one floor.
const FLOORS: [&[&str]; 5] = [
    &["analysis"],
    &["trial"],
    &["finding"],
    &["brief", "woofer", "enclosure", "airway", "quiet", "cabinet", "drive", "room", "prove"],
    &["evaluation"],
];

fn imports(names: &[(&str, &[&str])]) -> Imports {
    names.iter().map(|(a, b)| ((*a).to_owned(), b.iter().map(|x| (*x).to_owned()).collect())).collect()
}

/// A circle is found, and only where there is one.
#[test]
fn circles_are_found() {
    assert_eq!(circle(&imports(&[("a", &["b"]), ("b", &["c"]), ("c", &[])])), None);
    let found = circle(&imports(&[("a", &["b"]), ("b", &["c"]), ("c", &["b"])])).unwrap();
    assert_eq!(found.into_iter().collect::<BTreeSet<_>>(), BTreeSet::from(["b".into(), "c".into()]));
}

#[test]
fn no_crate_has_a_circle_of_files() {
    let mut edges = 0;
    for name in CRATES {
        let imports = of_crate(&project().join("crates").join(name));
        edges += imports.values().map(BTreeSet::len).sum::<usize>();
        assert_eq!(circle(&imports), None, "{name}");
    }
    assert!(edges > 300, "only {edges} imports were understood");
}

#[test]
fn the_front_end_has_no_circle_of_files() {
    let imports = of_front_end(&project().join("web/src"));
    let edges: usize = imports.values().map(BTreeSet::len).sum();
    assert!(edges > 300, "only {edges} imports were understood");
    assert_eq!(circle(&imports), None);
}

#[test]
fn no_crate_uses_one_above_it() {
    let folder = project().join("crates");
    let there: BTreeSet<String> =
        std::fs::read_dir(&folder).unwrap().flatten().map(|e| e.file_name().to_string_lossy().into_owned()).collect();
    assert_eq!(there, CRATES.iter().map(|c| (*c).to_owned()).collect(), "every crate has its floor");
    for (i, name) in CRATES.iter().enumerate() {
        let manifest = std::fs::read_to_string(folder.join(name).join("Cargo.toml")).unwrap();
        // what tests use besides is told apart by its own heading
        let own = manifest.split("[dev-dependencies]").next().unwrap();
        for used in own.lines().filter_map(|l| l.strip_prefix("oak-drum-")?.split('.').next()) {
            let floor = CRATES.iter().position(|c| *c == used).unwrap_or_else(|| panic!("{used}"));
            assert!(floor < i, "{name} uses {used}, which is above it");
        }
    }
}

#[test]
fn nothing_in_design_runs_back_up() {
    let imports = of_crate(&project().join("crates/design"));
    let floors: BTreeMap<&str, usize> =
        FLOORS.iter().enumerate().flat_map(|(i, names)| names.iter().map(move |n| (*n, i))).collect();
    let floor = |module: &str| floors.get(module.split("::").next()?).copied();
    for (from, list) in imports.iter().filter(|(from, _)| *from != "crate") {
        let here = floor(from).unwrap_or_else(|| panic!("{from} is on no floor"));
        for to in list {
            assert!(floor(to).is_some_and(|there| there <= here), "{from} imports {to}");
        }
    }
}

/// A station has the same name in `design`, among the routes and in the front end; the box is `enclosure` in code (`box` is a
/// reserved word) and has its address under its old name.
#[test]
fn stations_have_one_name() {
    let folders = |path: &str| -> BTreeSet<String> {
        let entries = std::fs::read_dir(project().join(path)).unwrap().flatten();
        entries.map(|e| e.path().file_stem().unwrap().to_string_lossy().into_owned()).collect()
    };
    let (web, routes) = (folders("web/src/stations"), folders("crates/server/src/routes"));
    for station in ["airway", "quiet", "cabinet", "drive", "room", "enclosure"] {
        assert!(FLOORS[3].contains(&station) && web.contains(station) && routes.contains(station), "{station}");
    }
    for station in ["brief", "woofer"] {
        assert!(FLOORS[3].contains(&station) && web.contains(station), "{station}");
    }
}

/// Versions of dependencies stand once, in the workspace's table; a crate's own manifest names no other, and none stands unused.
#[test]
fn dependencies_stand_in_the_workspace_table() {
    let manifest = |path: &Path| std::fs::read_to_string(path).unwrap();
    let root = manifest(&project().join("Cargo.toml"));
    let table = root.split("[workspace.dependencies]").nth(1).unwrap().split("\n[").next().unwrap();
    let name = |line: &str| line.split(['=', '.', ' ']).next().unwrap().to_owned();
    let mut unused: BTreeSet<String> = table.lines().filter(|l| l.contains('=')).map(name).collect();
    for entry in std::fs::read_dir(project().join("crates")).unwrap() {
        let path = entry.unwrap().path().join("Cargo.toml");
        let mut within = false;
        for line in manifest(&path).lines() {
            if line.starts_with('[') {
                within = line.contains("dependencies");
            } else if within && line.contains('=') {
                assert!(line.contains("workspace = true"), "{}: {line}", path.display());
                unused.remove(&name(line));
            }
        }
    }
    assert!(unused.is_empty(), "nobody uses {unused:?}");
}

/// Of what is written by hand (Rust, TypeScript, the scripts that make reference data; nothing that is generated, no benchmark) a
/// quarter is tests: files of tests, `mod tests`, what only tests use, and the reference data's scripts.
#[test]
fn a_quarter_of_the_lines_are_tests() {
    let (mut tests, mut all) = (0, 0);
    let files = [("crates", &["rs"][..]), ("web/src", &["ts", "tsx"]), ("e2e/tests", &["ts"]), ("testdata", &["py"])];
    for file in files.into_iter().flat_map(|(folder, kinds)| below(&project().join(folder), kinds)) {
        let path = file.strip_prefix(project()).unwrap().to_string_lossy().into_owned();
        if path.ends_with("api/types.ts") || path.contains("/benches/") {
            continue;
        }
        let text = std::fs::read_to_string(&file).unwrap();
        let lines = |text: &str| text.lines().filter(|line| !line.trim().is_empty()).count();
        let whole = ["/tests/", ".test.", "testdata/", "crates/testkit/", "e2e/"].iter().any(|of| path.contains(of))
            || path.ends_with("/tests.rs");
        let within = text.find("#[cfg(test)]\nmod tests {").map_or(0, |at| lines(&text[at..]));
        tests += if whole { lines(&text) } else { within };
        all += lines(&text);
    }
    println!("{tests} of {all} lines are tests: {:.1} %", 100.0 * tests as f64 / all as f64);
    assert!(tests * 4 >= all, "{tests} of {all} lines");
}
