//! The real interface in headless Chromium: each Playwright spec of the front end is one test.

use std::path::{Path, PathBuf};
use std::process::Command;

use libtest_mimic::{Arguments, Failed, Trial};

const CHROMIUM: &str = "/usr/bin/chromium";

fn web() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web")
}

fn main() {
    let mut arguments = Arguments::from_args();
    // Each test drives a browser and a server of its own; two at a time keep the timing of the pages honest.
    arguments.test_threads = arguments.test_threads.or(Some(2));
    let mut specs: Vec<PathBuf> =
        std::fs::read_dir(web().join("e2e")).expect("web/e2e is there").map(|entry| entry.expect("an entry").path()).collect();
    specs.retain(|path| path.to_string_lossy().ends_with(".spec.ts"));
    specs.sort();
    let mut trials: Vec<Trial> = specs.into_iter().map(|spec| Trial::test(name(&spec), move || playwright(&spec))).collect();
    trials.push(Trial::test("the generated types are those of the API", types_are_current));
    libtest_mimic::run(&arguments, trials).exit();
}

fn name(spec: &Path) -> String {
    spec.file_name().unwrap_or_default().to_string_lossy().trim_end_matches(".spec.ts").to_owned()
}

fn ready() -> Result<(), Failed> {
    for (path, what) in [(PathBuf::from(CHROMIUM), "Chromium"), (web().join("node_modules/@playwright/test"), "Playwright")] {
        if !path.exists() {
            return Err(format!("{what} is missing at {}; run: cargo verify", path.display()).into());
        }
    }
    Ok(())
}

fn run(command: &mut Command) -> Result<(), Failed> {
    let output = command.current_dir(web()).output().map_err(|error| format!("{command:?}: {error}"))?;
    let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    let said = text(&output.stdout);
    if output.status.success() && said.contains(" flaky") {
        eprintln!("{command:?} passed at the second attempt only:\n{said}");
    }
    if output.status.success() { Ok(()) } else { Err(format!("{said}\n{}", text(&output.stderr)).into()) }
}

fn playwright(spec: &Path) -> Result<(), Failed> {
    ready()?;
    let spec_name = name(spec);
    let results = Path::new(env!("CARGO_TARGET_TMPDIR")).join("playwright").join(&spec_name);
    let mut test = Command::new("node");
    test.args(["node_modules/@playwright/test/cli.js", "test", "--output"]).arg(results).arg(format!("e2e/{spec_name}.spec.ts"));
    run(test.env("ACORN_DIAL", env!("CARGO_BIN_EXE_acorn-dial")).env("CHROMIUM", CHROMIUM))
}

fn types_are_current() -> Result<(), Failed> {
    ready()?;
    let made = Path::new(env!("CARGO_TARGET_TMPDIR")).join("schema.d.ts");
    let mut types = Command::new("node");
    types.args(["node_modules/openapi-typescript/bin/cli.js", "src/api/openapi.json", "--default-non-nullable=false", "-o"]);
    run(types.arg(&made))?;
    let same = std::fs::read(made).ok() == std::fs::read(web().join("src/api/schema.d.ts")).ok();
    if same { Ok(()) } else { Err("web/src/api/schema.d.ts is stale; run: cargo xtask api-types".into()) }
}
