//! The front end is built by its own tools before this crate; without it the crate still compiles.

use std::path::Path;

fn main() {
    let dist = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/dist");
    println!("cargo:rerun-if-changed={}", dist.display());
    let page = dist.join("index.html");
    if !page.exists() {
        std::fs::create_dir_all(&dist).expect("web/dist can be created");
        std::fs::write(page, "<!doctype html><title>Acorn Dial</title><p>The front end is not built yet: run cargo demo.</p>\n")
            .expect("web/dist can be written");
    }
}
