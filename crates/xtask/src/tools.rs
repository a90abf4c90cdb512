//! Building, starting and installing.

use std::ffi::OsStr;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::SystemTime;

use anyhow::{Context, Result, bail, ensure};

/// The folder of the repository.
pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// The folder of the front end.
pub fn web() -> PathBuf {
    root().join("web")
}

fn run(command: &mut Command) -> Result<()> {
    let status = command.status().with_context(|| format!("{command:?} cannot be started; is it installed?"))?;
    ensure!(status.success(), "{command:?} failed");
    Ok(())
}

/// Runs cargo in the repository.
pub fn cargo(arguments: &[&str]) -> Result<()> {
    run(Command::new(env!("CARGO")).args(arguments).current_dir(root()))
}

/// Formats every Rust file, or checks that it is.
pub fn format(flags: &[&str]) -> Result<()> {
    cargo(&[&["fmt", "--all", "--"], flags].concat())
}

/// Reads spoilt files, asks odd questions, parses odd formulas and checks what is said of made-up data, a million of each; holds the
/// tables of coverage against 2,000 data sets a cell.
pub fn fuzz() -> Result<()> {
    for (package, some) in [
        ("acorn-formats", "fuzz::"),
        ("acorn-core", "spoilt_specs::"),
        ("acorn-data", "formulas::"),
        ("acorn-core", "sentences::"),
        ("acorn-core", "coverage::"),
        ("acorn-core", "truth::"),
    ] {
        let arguments = ["test", "--package", package, "--test", "all", some];
        let many = [("ACORN_FUZZ", "1000000"), ("PROPTEST_CASES", "1000000")];
        run(Command::new(env!("CARGO")).args(arguments).envs(many).current_dir(root()))?;
    }
    Ok(())
}

/// Runs npm in a folder.
pub fn npm(folder: &Path, arguments: &[&str]) -> Result<()> {
    run(Command::new("npm").args(arguments).current_dir(folder))
}

/// Installs the front end's packages and builds it, each when stale.
pub fn ensure_web() -> Result<()> {
    let web = web();
    let installed = web.join("node_modules/.package-lock.json");
    if newest(&[web.join("package-lock.json")])? > modified(&installed) {
        npm(&web, &["ci", "--no-audit", "--no-fund"])?;
        // npm keeps the time of the packages; the next look compares with this one.
        std::fs::File::options().append(true).open(&installed)?.set_modified(SystemTime::now())?;
    }
    let sources: Vec<PathBuf> =
        ["src", "public", "index.html", "api.html", "vite.config.ts", "package-lock.json"].map(|name| web.join(name)).into();
    if newest(&sources)? > modified(&web.join("dist/built")) {
        npm(&web, &["run", "--silent", "build"])?;
        std::fs::write(web.join("dist/built"), "")?;
    }
    Ok(())
}

fn modified(path: &Path) -> SystemTime {
    path.metadata().and_then(|metadata| metadata.modified()).unwrap_or(SystemTime::UNIX_EPOCH)
}

/// The newest change of any file under some paths; what does not exist is passed over.
fn newest(paths: &[PathBuf]) -> Result<SystemTime> {
    let mut newest = SystemTime::UNIX_EPOCH;
    for path in paths {
        newest = newest.max(modified(path));
        if path.is_dir() {
            let entries: Vec<PathBuf> = std::fs::read_dir(path)?.map(|entry| entry.map(|entry| entry.path())).collect::<Result<_, _>>()?;
            newest = newest.max(self::newest(&entries)?);
        }
    }
    Ok(newest)
}

/// `cargo demo`: builds what is stale and serves with demo data. Further arguments go to `serve`.
pub fn demo(arguments: &[String]) -> Result<()> {
    ensure_web()?;
    cargo(&["build", "--package", "acorn-dial"])?;
    let mut serve = Command::new(binary());
    serve.args(["serve", "--demo", "--demo-gauge", "--data"]).arg(root().join("data")).args(arguments).current_dir(root());
    run(&mut serve)
}

fn binary() -> PathBuf {
    // Beside this very program, whatever folder Cargo was told to build in.
    let own = std::env::current_exe().unwrap_or_default();
    own.with_file_name(format!("acorn-dial{}", std::env::consts::EXE_SUFFIX))
}

/// Makes the OpenAPI document and the TypeScript types anew.
pub fn api_types() -> Result<()> {
    cargo(&["build", "--package", "acorn-dial"])?;
    let output = Command::new(binary()).arg("open-api").output()?;
    ensure!(output.status.success(), "the OpenAPI document cannot be made");
    std::fs::write(web().join("src/api/openapi.json"), output.stdout)?;
    npm(&web(), &["run", "--silent", "types"])
}

/// Takes the pictures in docs/screenshots anew, from the demo data.
pub fn screenshots() -> Result<()> {
    ensure_chromium()?;
    ensure_web()?;
    cargo(&["build", "--package", "acorn-dial"])?;
    let mut take = Command::new("node");
    take.arg("e2e/screenshots.mjs").env("ACORN_DIAL", binary()).current_dir(web());
    run(&mut take)
}

/// Debian's Chromium, installed when missing and possible.
pub fn ensure_chromium() -> Result<()> {
    const CHROMIUM: &str = "/usr/bin/chromium";
    const INSTALL: &str = "apt-get update && apt-get install -y chromium";
    if Path::new(CHROMIUM).exists() {
        return Ok(());
    }
    println!("Installing Chromium for the browser tests");
    let done = Command::new("sh").args([OsStr::new("-c"), OsStr::new(INSTALL)]).status();
    if !done.is_ok_and(|status| status.success()) || !Path::new(CHROMIUM).exists() {
        bail!("the browser tests need Chromium at {CHROMIUM}; install it as root with: {INSTALL}");
    }
    Ok(())
}
