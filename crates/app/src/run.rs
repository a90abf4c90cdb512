//! `acorn-dial run`: one specification in, one answer out, with the same core as the browser.

use std::io::{BufWriter, Read, Write};
use std::path::Path;
use std::process::ExitCode;
use std::time::Instant;

use acorn_core::methods;
use acorn_data::frame::{Column, ColumnInfo, Frame};
use acorn_formats::{ReadOptions, Source, read};
use acorn_study::problem::Problem;
use acorn_study::{Cancel, DataSource, Note, Spec, StudyError, Table, TypedColumns, Verdict, View};
use serde::Serialize;

/// Exit code of an error that is reported as JSON.
const REFUSED: u8 = 2;

#[derive(Serialize)]
struct Printed<'a> {
    verdict: &'a Verdict,
    notes: &'a [Note],
    numbers: methods::Numbers,
    tables: Vec<Table>,
    #[serde(skip_serializing_if = "Option::is_none")]
    timing: Option<Timing>,
}

#[derive(Serialize)]
struct Timing {
    best_seconds: f64,
    median_seconds: f64,
}

/// Answers a specification file; `-` is standard input.
pub fn run(path: &Path, repeat: Option<u32>) -> ExitCode {
    match answer(path, repeat) {
        Ok(()) => ExitCode::SUCCESS,
        Err(problem) => {
            eprintln!("{}", serde_json::to_string(&problem).expect("a problem is plain data"));
            ExitCode::from(REFUSED)
        }
    }
}

fn answer(path: &Path, repeat: Option<u32>) -> Result<(), Problem> {
    let unreadable =
        |error: std::io::Error| Problem::new("unreadable-specification", format!("{}: {error}", path.display()), "Check the path.");
    let mut text = String::new();
    if path == Path::new("-") {
        std::io::stdin().read_to_string(&mut text).map_err(unreadable)?;
    } else {
        text = std::fs::read_to_string(path).map_err(unreadable)?;
    }
    let wrong = |error: serde_json::Error| {
        Problem::new("bad-specification", error.to_string(), "Correct the JSON: it needs method, roles, options and data.")
    };
    let spec: Spec = serde_json::from_str(&text).map_err(wrong)?;
    let frame = frame(path, &spec)?;
    let cancel = Cancel::default();
    let computed = methods::compute(&frame, &spec, &cancel)?;
    let timing = repeat.map(|times| timing(times, || methods::compute(&frame, &spec, &cancel)));
    let printed = Printed {
        verdict: &computed.verdict,
        notes: &computed.notes,
        numbers: computed.answer.numbers(&View::ALL),
        tables: computed.answer.tables(),
        timing,
    };
    let mut out = BufWriter::new(std::io::stdout().lock());
    let written = serde_json::to_writer_pretty(&mut out, &printed)
        .map_err(std::io::Error::from)
        .and_then(|()| writeln!(out))
        .and_then(|()| out.flush());
    // A reader that has seen enough closes the pipe; that is no error.
    written.or_else(|error| if error.kind() == std::io::ErrorKind::BrokenPipe { Ok(()) } else { Err(unreadable(error)) })
}

fn timing<T>(times: u32, work: impl Fn() -> T) -> Timing {
    let mut seconds: Vec<f64> = (0..times)
        .map(|_| {
            let start = Instant::now();
            std::hint::black_box(work());
            start.elapsed().as_secs_f64()
        })
        .collect();
    seconds.sort_by(f64::total_cmp);
    Timing { best_seconds: seconds[0], median_seconds: seconds[seconds.len() / 2] }
}

/// The data of a specification: typed columns, a file beside it, or nothing.
fn frame(path: &Path, spec: &Spec) -> Result<Frame, Problem> {
    let none = |problem: &str| Problem::from(StudyError::NoData { problem: problem.to_owned() });
    match &spec.data {
        Some(DataSource::Columns(TypedColumns(columns))) => Ok(Frame::from_json(columns).map_err(StudyError::from)?),
        Some(DataSource::File(file)) => {
            let beside = path.parent().unwrap_or(Path::new("")).join(file);
            let unreadable = |error: std::io::Error| {
                Problem::new(
                    "unreadable-file",
                    format!("{}: {error}", beside.display()),
                    "Check data.file; it is taken from the folder of the specification.",
                )
            };
            from_file(file, std::fs::read(&beside).map_err(unreadable)?)
        }
        Some(DataSource::Dataset(_)) => Err(none("stored datasets are known to the server only")),
        // Everything is typed in the options.
        None => Ok(Frame::empty()),
    }
}

fn from_file(name: &str, bytes: Vec<u8>) -> Result<Frame, Problem> {
    let reading = read(&Source::open(name, bytes)?, &ReadOptions::default())?;
    if let Some(problem) = reading.problems.first() {
        let detail = format!(
            "{} values do not fit; the first is “{}” in row {} of “{}”",
            reading.problem_count, problem.text, problem.row, problem.name
        );
        return Err(Problem::new("values-do-not-fit", detail, "Correct the file; an empty cell is a missing value."));
    }
    let column = |column: acorn_formats::TableColumn| Column {
        measuring: None,
        held: None,
        name: column.name,
        kind: column.kind,
        info: ColumnInfo { unit: column.unit, ..ColumnInfo::default() },
        values: column.values,
    };
    Ok(Frame::new(reading.table.columns.into_iter().map(column).collect(), None).map_err(StudyError::from)?)
}
