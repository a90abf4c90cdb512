//! The commands of the repository: `cargo demo`, `cargo verify`, and `cargo xtask` for the rest.

mod checks;
mod tools;

use anyhow::{Result, bail};

const USAGE: &str = "usage: cargo xtask COMMAND
  demo          build what is stale and start the application with demo data
  verify        install what is missing, lint, and run every test
  format        format the Rust code
  fuzz          a million spoilt files, specifications and formulas, a million made-up data sets; an hour or two
  demo-data     make the files in demo/ anew
  api-types     make the OpenAPI document and the TypeScript types anew
  screenshots   take the pictures in docs/screenshots anew";

fn main() -> Result<()> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    let rest = arguments.get(1..).unwrap_or_default();
    match arguments.first().map(String::as_str) {
        Some("demo") => tools::demo(rest),
        Some("verify") => checks::verify(),
        Some("format") => tools::format(&[]),
        Some("fuzz") => tools::fuzz(),
        Some("demo-data") => tools::cargo(&["run", "--package", "demo-data"]),
        Some("api-types") => tools::api_types(),
        Some("screenshots") => tools::screenshots(),
        _ => bail!("{USAGE}"),
    }
}
