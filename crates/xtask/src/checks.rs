//! `cargo verify`: everything that must hold, one after the other.

use anyhow::Result;

use crate::tools::{cargo, ensure_chromium, ensure_web, format, npm, web};

/// Installs what is missing, lints, and runs every test through Cargo's test runner.
pub fn verify() -> Result<()> {
    ensure_chromium()?;
    ensure_web()?;
    format(&["--check"])?;
    npm(&web(), &["run", "--silent", "check"])?;
    cargo(&["clippy", "--workspace", "--all-targets", "--", "-D", "warnings"])?;
    cargo(&["test", "--workspace"])
}
