//! The front end's own checks, reported here: types, lint, format, unit tests, and that its API types are the
//! ones the server's OpenAPI document gives.

use oak_drum_testkit::project;
use std::process::Command;

fn node(folder: &str, arguments: &[&str]) {
    let folder = project().join(folder);
    assert!(
        folder.join("node_modules").is_dir(),
        "the packages of {} are not installed; scripts/test installs them",
        folder.display()
    );
    let output = Command::new("node").args(arguments).current_dir(&folder).output().expect("node");
    assert!(
        output.status.success(),
        "{}\n{}",
        String::from_utf8_lossy(&output.stdout),
        String::from_utf8_lossy(&output.stderr)
    );
}

#[test]
fn unit_tests() {
    node("web", &["node_modules/vitest/vitest.mjs", "run"]);
}

#[test]
fn types() {
    node("web", &["node_modules/typescript/bin/tsc", "--noEmit"]);
    node("e2e", &["node_modules/typescript/bin/tsc", "--noEmit"]);
}

#[test]
fn lint() {
    node("web", &["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"]);
}

#[test]
fn format() {
    node(
        "web",
        &["node_modules/prettier/bin/prettier.cjs", "--check", ".", "../e2e/tests", "../e2e/playwright.config.ts"],
    );
}

#[test]
fn api_types_are_current() {
    let fresh = std::env::temp_dir().join(format!("oak-drum-types-{}.ts", std::process::id()));
    let target = fresh.to_str().expect("a plain path");
    node(
        "web",
        &[
            "node_modules/openapi-typescript/bin/cli.js",
            "src/api/openapi.json",
            "--default-non-nullable=false",
            "-o",
            target,
        ],
    );
    let (made, kept) = (
        std::fs::read_to_string(&fresh).unwrap(),
        std::fs::read_to_string(project().join("web/src/api/types.ts")).unwrap(),
    );
    std::fs::remove_file(&fresh).unwrap();
    assert!(made == kept, "src/api/types.ts is stale: run `npm run api` in web/");
}
