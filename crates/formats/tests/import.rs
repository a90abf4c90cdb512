//! Files as people have them, read through the one public path.

use acorn_data::frame::{Kind, Values};
use acorn_formats::{ColumnReadOptions, Fix, FormatError, LineRole, ReadOptions, Reading, Source, Texts, convert, read, write_csv};

const MESSY: &str = "Fennel Hollow Lamp Works;;;;\nExport press 2;;;;printed 08/05\n\ntaken at;sample;lens thickness;edge leak;remark\n04.05.2026 06:10;1;2,401;0,52;\n04.05.2026 06:11;1;2,398;0,61;\n13.05.2026 06:12;1;2,4O9;0,47;typed on tablet\n13.05.2026 06:13;2;;0,58;\"a; b\"\nTotal;4;;;\n";

fn open(bytes: &[u8]) -> Result<Source, FormatError> {
    Source::open("press2.csv", bytes.to_vec())
}

fn reading(text: &str, read_options: &ReadOptions) -> Reading {
    read(&open(text.as_bytes()).unwrap(), read_options).unwrap()
}

fn kinds(reading: &Reading) -> Vec<Kind> {
    reading.columns.iter().map(|column| column.kind).collect()
}

fn cell(reading: &Reading, column: usize, row: usize) -> Option<String> {
    reading.table.columns[column].values.text(row)
}

#[test]
fn a_messy_export_is_understood() {
    let messy = reading(MESSY, &ReadOptions::default());
    assert_eq!((messy.read_as.delimiter, messy.read_as.decimal, messy.read_as.header_line), (Some(';'), ',', 4));
    assert_eq!(kinds(&messy), [Kind::DateTime, Kind::WholeNumber, Kind::Number, Kind::Number, Kind::Category]);
    assert_eq!(messy.table.rows, 4);
    assert_eq!(cell(&messy, 0, 2).as_deref(), Some("2026-05-13 06:12"));
    assert_eq!(cell(&messy, 2, 0).as_deref(), Some("2.401"));
    assert_eq!(cell(&messy, 4, 3).as_deref(), Some("a; b"));
    let left_out: Vec<u64> = messy.lines.iter().filter(|line| line.role == LineRole::LeftOut).map(|line| line.line).collect();
    assert_eq!(left_out, [1, 2, 9]);
    assert!(messy.notes.iter().any(|note| note.sentence == "Line 9 is a total: left out."));
}

#[test]
fn a_value_that_does_not_fit_is_listed_and_can_be_answered() {
    let read_options = ReadOptions {
        columns: vec![ColumnReadOptions { index: 2, kind: Some(Kind::Number), ..ColumnReadOptions::default() }],
        ..ReadOptions::default()
    };
    let messy = reading(MESSY, &read_options);
    let problem = &messy.problems[0];
    assert_eq!((messy.problem_count, problem.row, problem.column), (1, 3, 2));
    assert_eq!((problem.text.as_str(), problem.guess.as_deref()), ("2,4O9", Some("2.409")));
    for (answer, stored) in [(Some("2.409"), Some("2.409")), (Some("2,409"), Some("2.409")), (None, None)] {
        let fix = Fix { row: 3, column: 2, text: answer.map(str::to_owned) };
        let fixed = reading(MESSY, &ReadOptions { fixes: vec![fix], ..read_options.clone() });
        assert_eq!((fixed.problem_count, cell(&fixed, 2, 2).as_deref()), (0, stored));
    }
    // An answer that does not fit either leaves the problem standing.
    let fix = Fix { row: 3, column: 2, text: Some("soon".into()) };
    assert_eq!(reading(MESSY, &ReadOptions { fixes: vec![fix], ..read_options }).problem_count, 1);
}

#[test]
fn every_encoding_and_delimiter_gives_the_same_table() {
    let text = "größe;flux\n1;812,5\n2;810,25\n";
    let utf16 = |to: fn(u16) -> [u8; 2], mark: &[u8]| [mark, &text.encode_utf16().flat_map(to).collect::<Vec<_>>()].concat();
    let files: Vec<Vec<u8>> = vec![
        text.into(),
        [b"\xEF\xBB\xBF", text.as_bytes()].concat(),
        utf16(u16::to_le_bytes, b"\xFF\xFE"),
        utf16(u16::to_be_bytes, b"\xFE\xFF"),
        utf16(u16::to_le_bytes, b""),
        text.chars().map(|letter| letter as u32 as u8).collect(),
        text.replace(';', "\t").into(),
        text.replace(',', ".").replace(';', ",").into(),
        text.replace('\n', "\r\n").into(),
    ];
    for file in files {
        let reading = read(&open(&file).unwrap(), &ReadOptions::default()).unwrap();
        assert_eq!(reading.table.rows, 2, "{:?} {:?}", reading.read_as, reading.lines);
        assert_eq!(reading.table.columns[0].name, "größe", "{:?}", reading.read_as);
        assert_eq!(cell(&reading, 1, 1).as_deref(), Some("810.25"), "{:?}", reading.read_as);
        assert_eq!(kinds(&reading), [Kind::WholeNumber, Kind::Number]);
    }
}

#[test]
fn a_workbook_gives_numbers_dates_and_labels() {
    let mut book = rust_xlsxwriter::Workbook::new();
    book.add_worksheet().set_name("empty").unwrap();
    let sheet = book.add_worksheet().set_name("press 2").unwrap();
    let date = rust_xlsxwriter::Format::new().set_num_format("yyyy-mm-dd hh:mm");
    for (column, name) in ["taken at", "flux", "bench"].into_iter().enumerate() {
        sheet.write(0, column as u16, name).unwrap();
    }
    for row in 1..4u32 {
        let time = rust_xlsxwriter::ExcelDateTime::parse_from_str("2026-05-04 06:10").unwrap();
        sheet.write_with_format(row, 0, &time, &date).unwrap();
        sheet.write(row, 1, 812.25 + f64::from(row)).unwrap();
        sheet.write(row, 2, "A").unwrap();
    }
    let bytes = book.save_to_buffer().unwrap();
    let reading = read(&Source::open("press2.xlsx", bytes.clone()).unwrap(), &ReadOptions::default()).unwrap();
    assert_eq!(reading.read_as.sheet.as_deref(), Some("press 2"));
    assert_eq!(kinds(&reading), [Kind::DateTime, Kind::Number, Kind::Category]);
    assert_eq!((cell(&reading, 0, 0).as_deref(), cell(&reading, 1, 2).as_deref()), (Some("2026-05-04 06:10"), Some("815.25")));
    let broken = Source::open("press2.xlsx", bytes[..bytes.len() / 2].to_vec()).err().unwrap();
    assert_eq!(broken.code(), "broken-workbook");
}

#[test]
fn what_is_no_table_is_refused_in_words() {
    let refused: [(&[u8], &str); 5] = [
        (b"", "empty-file"),
        (b"\xEF\xBB\xBF \n", "empty-file"),
        (b"\x89PNG\r\n\x1a\n0000", "not-a-table"),
        (b"PK\x03\x04 not a zip", "broken-workbook"),
        (b"a\0\x01\x02", "not-a-table"),
    ];
    for (bytes, code) in refused {
        let error = open(bytes).err().unwrap();
        assert_eq!(error.code(), code);
        assert!(error.advice().ends_with('.'));
    }
    assert_eq!(
        read(&open(b"flux;bench\n").unwrap(), &ReadOptions { header_line: Some(1), ..ReadOptions::default() }).err().map(|e| e.code()),
        Some("no-rows")
    );
}

#[test]
fn empty_and_repeated_headers_get_names_and_a_note() {
    let reading = reading("flux,,flux,bench\n1,2,3,A\n4,5,6,B\n", &ReadOptions::default());
    let names: Vec<_> = reading.columns.iter().map(|column| column.name.as_str()).collect();
    assert_eq!(names, ["flux", "column 2", "flux 2", "bench"]);
    assert!(reading.notes.iter().any(|note| note.about == "names"));
    let bare = self::reading("1,2\n3,4\n", &ReadOptions::default());
    assert_eq!((bare.read_as.header_line, bare.columns[1].name.as_str(), bare.table.rows), (0, "column 2", 2));
}

#[test]
fn a_surprise_far_down_changes_the_kind_of_the_column() {
    let mut text = String::from("n,flux\n");
    for i in 0..30_000 {
        text += &if i < 25_000 { format!("{i},{i}\n") } else { format!("{i},{i}.5\n") };
    }
    assert_eq!(kinds(&reading(&text, &ReadOptions::default())), [Kind::WholeNumber, Kind::Number]);
}

fn labels(texts: &[&str]) -> Values {
    Values::Label { codes: (0..texts.len() as u32).collect(), labels: texts.iter().map(|text| (*text).to_owned()).collect() }
}

#[test]
fn what_is_exported_reads_back_the_same() {
    let text = "taken at,flux,remark\n2026-05-04 06:10,2.4010000000000002,\"a, \"\"b\"\"\nc\"\n2026-05-04 06:11:30.25,,=1+1\n";
    let first = reading(text, &ReadOptions::default());
    let columns: Vec<_> = first.table.columns.iter().map(|column| (column.name.as_str(), &column.values)).collect();
    let mut out = Vec::new();
    write_csv(&columns, Texts::Harmless, &mut out).unwrap();
    // What a spreadsheet would run has an apostrophe in front, unless it is wanted as it stands; numbers have none.
    let written = |texts| {
        let mut out = Vec::new();
        write_csv(&[("b", &labels(&["=1+1", "+3", "-3", "@a", "\ta", "a=1"]))], texts, &mut out).unwrap();
        String::from_utf8(out).unwrap()
    };
    assert_eq!(written(Texts::Harmless), "b\n'=1+1\n'+3\n'-3\n'@a\n'\ta\na=1\n");
    assert_eq!(written(Texts::AsWritten), "b\n=1+1\n+3\n-3\n@a\n\ta\na=1\n");
    let mut numbers = Vec::new();
    write_csv(&[("=x", &Values::Number([-1.5].into()))], Texts::Harmless, &mut numbers).unwrap();
    assert_eq!(numbers, b"'=x\n-1.5\n");
    let again = reading(std::str::from_utf8(&out).unwrap(), &ReadOptions::default());
    for (column, other) in first.table.columns.iter().zip(&again.table.columns) {
        assert_eq!((&column.name, column.kind), (&other.name, other.kind));
        assert!((0..2).all(|row| column.values.text(row) == other.values.text(row)));
    }
}

#[test]
fn a_kind_changes_only_when_every_value_fits() {
    let reading = reading(
        "reel\n1\n2\nx9\n",
        &ReadOptions {
            columns: vec![ColumnReadOptions { kind: Some(Kind::Text), ..ColumnReadOptions::default() }],
            ..ReadOptions::default()
        },
    );
    let error = convert(&reading.table.columns[0].values, Kind::Number).unwrap_err();
    assert_eq!(error.to_string(), "1 value is no number, the first in row 3: “x9”");
    let category = convert(&reading.table.columns[0].values, Kind::Category).unwrap();
    assert_eq!(category.text(2).as_deref(), Some("x9"));
}
