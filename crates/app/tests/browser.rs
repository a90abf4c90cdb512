//! The real interface in headless Chromium, and what the front end lays out without one.
//!
//! One Playwright run drives all specs, two at a time, each test on a server of its own that starts from a copy of the demo data;
//! each spec is told as one test.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};
use std::sync::OnceLock;

use libtest_mimic::{Arguments, Failed, Trial};
use serde_json::Value;

const CHROMIUM: &str = "/usr/bin/chromium";

/// What failed in each spec, from the one run of all that were asked for.
static RUN: OnceLock<Result<BTreeMap<String, Vec<String>>, String>> = OnceLock::new();

fn web() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web")
}

fn main() {
    let arguments = Arguments::from_args();
    let files = std::fs::read_dir(web().join("e2e")).expect("web/e2e is there").map(|entry| entry.expect("an entry").file_name());
    let mut specs: Vec<String> = files.filter_map(|name| Some(name.to_str()?.strip_suffix(".spec.ts")?.to_owned())).collect();
    specs.sort();
    let wanted: Vec<String> = specs.iter().filter(|name| wants(&arguments, name)).cloned().collect();
    let spec = |name: String| {
        let wanted = wanted.clone();
        Trial::test(name.clone(), move || told_of(&name, &wanted))
    };
    let mut trials: Vec<Trial> = specs.into_iter().map(spec).collect();
    trials.push(Trial::test("what the front end lays out", laid_out));
    trials.push(Trial::test("the generated types are those of the API", types_are_current));
    libtest_mimic::run(&arguments, trials).exit();
}

/// Whether a test was asked for, as the runner decides it.
fn wants(arguments: &Arguments, name: &str) -> bool {
    let matches = |filter: &String| if arguments.exact { name == filter } else { name.contains(filter) };
    arguments.filter.as_ref().is_none_or(matches) && !arguments.skip.iter().any(matches)
}

fn ready() -> Result<(), Failed> {
    for (path, what) in [(PathBuf::from(CHROMIUM), "Chromium"), (web().join("node_modules/@playwright/test"), "Playwright")] {
        if !path.exists() {
            return Err(format!("{what} is missing at {}; run: cargo verify", path.display()).into());
        }
    }
    Ok(())
}

fn output(command: &mut Command) -> Result<Output, String> {
    command.current_dir(web()).output().map_err(|error| format!("{command:?}: {error}"))
}

fn said(output: &Output) -> String {
    format!("{}\n{}", String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr))
}

fn run(command: &mut Command) -> Result<(), Failed> {
    let output = output(command)?;
    if output.status.success() { Ok(()) } else { Err(said(&output).into()) }
}

fn told_of(spec: &str, wanted: &[String]) -> Result<(), Failed> {
    ready()?;
    match RUN.get_or_init(|| playwright(wanted)) {
        Ok(failures) => match failures.get(&format!("{spec}.spec.ts")) {
            Some(failures) if failures.is_empty() => Ok(()),
            Some(failures) => Err(failures.join("\n").into()),
            None => Err("Playwright ran none of its tests".into()),
        },
        Err(error) => Err(error.into()),
    }
}

fn playwright(specs: &[String]) -> Result<BTreeMap<String, Vec<String>>, String> {
    let folder = Path::new(env!("CARGO_TARGET_TMPDIR")).join("playwright");
    let report = folder.join("report.json");
    let mut test = Command::new("node");
    test.args(["node_modules/@playwright/test/cli.js", "test", "--reporter", "list,json", "--output"]).arg(folder.join("results"));
    test.args(specs.iter().map(|spec| format!("e2e/{spec}.spec.ts")));
    test.env("ACORN_DIAL", env!("CARGO_BIN_EXE_acorn-dial")).env("CHROMIUM", CHROMIUM).env("PLAYWRIGHT_JSON_OUTPUT_FILE", &report);
    // What an earlier run left must not be taken for the report of this one.
    drop(std::fs::remove_file(&report));
    // It lists each test as it ends; what failed is read from the report.
    test.current_dir(web()).status().map_err(|error| format!("{test:?}: {error}"))?;
    let report = std::fs::read(&report).map_err(|error| format!("Playwright left no report: {error}"))?;
    let report: Value = serde_json::from_slice(&report).map_err(|error| error.to_string())?;
    if let Some(error) = report["errors"].as_array().and_then(|errors| errors.first()) {
        return Err(error["message"].as_str().unwrap_or("Playwright failed").to_owned());
    }
    let mut failures = BTreeMap::new();
    for suite in list(&report["suites"]) {
        failed(suite, failures.entry(suite["file"].as_str().unwrap_or_default().to_owned()).or_default());
    }
    Ok(failures)
}

fn list(value: &Value) -> &[Value] {
    value.as_array().map_or(&[], Vec::as_slice)
}

/// The tests of a suite that failed, with what they say.
fn failed(suite: &Value, failures: &mut Vec<String>) {
    for spec in list(&suite["specs"]).iter().filter(|spec| spec["ok"] != true) {
        failures.push(format!("{}:{} {}", suite["file"], spec["line"], spec["title"]));
        let results = list(&spec["tests"]).iter().flat_map(|test| list(&test["results"]));
        failures.extend(results.flat_map(|result| list(&result["errors"])).filter_map(|error| Some(error["message"].as_str()?.to_owned())));
    }
    list(&suite["suites"]).iter().for_each(|suite| failed(suite, failures));
}

fn laid_out() -> Result<(), Failed> {
    ready()?;
    run(Command::new("node").args(["node_modules/vitest/vitest.mjs", "run"]))
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
