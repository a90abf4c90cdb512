//! Nothing is read wrongly without a word: right, or doubted with both readings, or refused with what to do.

use crate::common::{book, workbook, zipped};
use acorn_data::frame::Kind;
use acorn_formats::{ColumnReadOptions, DateOrder, ReadOptions, Reading, Source, read};

fn wished(bytes: &[u8], read_options: &ReadOptions) -> Result<Reading, String> {
    let read = Source::open("bench.csv", bytes.to_vec()).and_then(|source| read(&source, read_options));
    read.map_err(|error| format!("{error}. {}", error.advice()))
}

fn reading(bytes: impl AsRef<[u8]>) -> Reading {
    wished(bytes.as_ref(), &ReadOptions::default()).unwrap()
}

fn column(reading: &Reading, at: usize) -> Vec<Option<String>> {
    (0..reading.table.rows).map(|row| reading.table.columns[at].values.text(row)).collect()
}

fn texts(reading: &Reading, at: usize) -> Vec<String> {
    column(reading, at).into_iter().map(Option::unwrap_or_default).collect()
}

fn doubts(reading: &Reading) -> String {
    reading.notes.iter().filter(|note| note.doubt).map(|note| note.sentence.as_str()).collect::<Vec<_>>().join("\n")
}

#[test]
fn line_ends_of_any_kind_end_a_row() {
    for text in ["flux,angle\r1,2\r3,4\r", "flux,angle\r\n1,2\r3,4\n", "flux,angle\n1,2\r\n3,4"] {
        let read = reading(text);
        assert_eq!((texts(&read, 0), texts(&read, 1)), (vec!["1".into(), "3".into()], vec!["2".into(), "4".into()]), "{text:?}");
    }
}

#[test]
fn a_decimal_comma_does_not_split_a_single_column() {
    let named = reading("flux\n812,5\n-3,25\n7\n");
    assert_eq!((texts(&named, 0), named.table.columns.len()), (vec!["812.5".into(), "-3.25".into(), "7".into()], 1));
    // Without a name it could be two columns, and is asked.
    let bare = reading("812,5\n3,25\n");
    assert_eq!(bare.table.columns.len(), 2);
    assert!(doubts(&bare).contains("“812,5” is read as two whole numbers. It could be one with a decimal comma."), "{}", doubts(&bare));
    let read_options = ReadOptions { delimiter: Some(';'), decimal: Some(','), ..ReadOptions::default() };
    assert_eq!(texts(&wished(b"812,5\n3,25\n", &read_options).unwrap(), 0), ["812.5", "3.25"]);
}

#[test]
fn a_quotation_mark_that_nothing_closes_is_refused_with_its_line() {
    let refused = wished(b"a,b\n1,\"open\n2,x\n3,y\n", &ReadOptions::default()).unwrap_err();
    assert!(refused.contains("line 2 of “bench.csv” opens a quotation mark that is never closed. Close it"), "{refused}");
    assert_eq!(texts(&reading("a,b\n1,\"two\nlines\"\n2,x\n"), 1), ["two\nlines", "x"]);
}

#[test]
fn numbers_that_are_names_keep_every_digit() {
    for (cells, kept) in [("00123\n00045", "00123"), ("9007199254740993\n9007199254740995", "9007199254740993")] {
        let text = format!("serial,flux\n{}\n", cells.replace('\n', ",1\n") + ",2");
        let read = reading(&text);
        assert_eq!((texts(&read, 0)[0].as_str(), read.columns[0].kind.is_numeric()), (kept, false));
        assert!(doubts(&read).contains(&format!("“{kept}” is kept as it is written, as a label.")), "{}", doubts(&read));
        let read_options = ReadOptions {
            columns: vec![ColumnReadOptions { index: 0, kind: Some(Kind::WholeNumber), ..ColumnReadOptions::default() }],
            ..ReadOptions::default()
        };
        assert_eq!(doubts(&wished(text.as_bytes(), &read_options).unwrap()), "");
    }
    // What no double holds is no number, and what ends with a zero in front of a point is one.
    let read = reading("flux\n1e-400\n0.5\n00.5\n12\n7\n8\n9\n10\n11\n13\n14\n");
    assert_eq!((read.columns[0].kind, read.problem_count, column(&read, 0)[0].clone()), (Kind::Number, 1, None));
}

#[test]
fn a_text_that_is_too_long_is_told_and_not_cut() {
    let read = reading(format!("remark,flux\n{},1\nshort,2\n", "x".repeat(10_001)));
    assert_eq!((read.problem_count, column(&read, 0)), (1, vec![None, Some("short".into())]));
    assert!(read.problems[0].text.len() < 200);
    assert_eq!(reading(format!("remark,flux\n{},1\nshort,2\n", "x".repeat(10_000))).problem_count, 0);
}

#[test]
fn dates_that_can_be_read_in_several_ways_are_doubted_with_each() {
    let read = reading("at,flux\n26-05-04,1\n26-05-05,2\n26-06-01,3\n");
    assert_eq!((texts(&read, 0)[0].as_str(), read.read_as.date_order), ("2026-05-04 00:00", DateOrder::YearFirst));
    assert!(doubts(&read).contains("“26-05-04” is read year first, as 2026-05-04. It could be 2004-05-26."), "{}", doubts(&read));
    let read =
        wished(b"at,flux\n26-05-04,1\n26-05-05,2\n", &ReadOptions { date_order: Some(DateOrder::DayFirst), ..ReadOptions::default() })
            .unwrap();
    assert_eq!(texts(&read, 0)[0], "2004-05-26 00:00");
    let read = reading("lot,flux\n12-10-99,1\n11-10-99,2\n");
    assert!(doubts(&read).contains("“12-10-99” is read day first, as 1999-10-12. It could be"), "{}", doubts(&read));
    for word in ["4 Marble", "1.2.3", "5 Maybe 2026"] {
        assert!(!matches!(reading(format!("lot,flux\n{word},1\n{word},2\n")).columns[0].kind, Kind::DateTime), "{word}");
    }
    let read = reading("at,flux\n2026-05-04T06:10:00Z,1\n2026-05-04 06:11:00,2\n");
    assert!(doubts(&read).contains("some times say their zone and others do not"), "{}", doubts(&read));
}

#[test]
fn a_first_line_that_could_be_a_row_or_names_only_some_columns_is_said() {
    assert!(
        doubts(&reading("bench 4,crack\nbench 5,scratch\nbench 4,void\n"))
            .contains("Line 1 is taken for column names, though the rows under it are words too.")
    );
    let some = reading(",,y\n1,2,3\n4,5,6\n");
    assert_eq!((some.table.rows, some.columns[2].name.as_str(), some.read_as.header_line), (2, "y", 1));
    assert!(doubts(&some).contains("Empty or repeated column names: now column 1, column 2."));
}

#[test]
fn encodings_are_told_and_doubted() {
    let mut slip = "größe,flux\nübergang,1\n".as_bytes().to_vec();
    slip.extend(b"k\xFCrze,2\n");
    let read = reading(&slip);
    assert_eq!((read.read_as.encoding.as_deref(), read.columns[0].name.as_str()), (Some("UTF-8"), "größe"));
    assert!(doubts(&read).contains("One letter is broken and read as “\u{fffd}”, the first in line 3"), "{}", doubts(&read));
    let cyrillic = encoding_rs::WINDOWS_1251.encode("толщина,партия\nпервая,1\nвторая,2\n").0.into_owned();
    let read = reading(&cyrillic);
    assert_eq!(read.columns[0].name, "толщина");
    assert!(doubts(&read).contains("windows-1251 was guessed"), "{}", doubts(&read));
}

#[test]
fn what_is_no_table_is_called_what_it_is() {
    let utf32: Vec<u8> =
        [0xFF, 0xFE, 0, 0].into_iter().chain("flux\n1\n".chars().flat_map(|letter| (letter as u32).to_le_bytes())).collect();
    let noise: Vec<u8> = (0..4000_u32).map(|i| (i.wrapping_mul(2_654_435_761) >> 13) as u8).filter(|byte| *byte != 0).collect();
    for (bytes, what) in [
        (b"<!DOCTYPE html><html><body><table><tr><td>1,2</td></tr></table></body></html>".to_vec(), "a web page"),
        (b"<?xml version=\"1.0\"?>\n<rows><row a=\"1\"/></rows>\n".to_vec(), "an XML document"),
        (b"[[1, 2], [3, 4]]".to_vec(), "a JSON document"),
        (utf32, "text in UTF-32"),
        (noise, "a binary file"),
    ] {
        let refused = wished(&bytes, &ReadOptions::default()).unwrap_err();
        assert!(refused.contains(&format!("is {what}, not a table. Bring in")), "{refused}");
    }
}

fn row(line: u32, cells: &str) -> String {
    format!(r#"<row r="{line}">{cells}</row>"#)
}

fn text_cell(at: &str, text: &str) -> String {
    format!(r#"<c r="{at}" t="inlineStr"><is><t>{text}</t></is></c>"#)
}

#[test]
fn a_workbook_says_what_it_hides_merges_and_never_worked_out() {
    let rows = row(1, &(text_cell("A1", "lot") + &text_cell("B1", "flux")))
        + &row(2, &(text_cell("A2", "A") + r#"<c r="B2"><v>1</v></c>"#))
        + r#"<row r="3" hidden="1"><c r="B3"><v>2</v></c></row>"#
        + &row(4, &(text_cell("A4", "B") + r#"<c r="B4"><f>B2+1</f></c>"#))
        + &row(5, r#"<c r="B5" t="e"><f>B2/0</f><v>#DIV/0!</v></c>"#)
        + &row(6, r#"<c r="B6"><f>B2+2</f><v>3</v></c>"#);
    let sheet = format!(
        r#"<cols><col min="2" max="3" hidden="1"/></cols><sheetData>{rows}</sheetData><mergeCells count="1"><mergeCell ref="A2:A3"/></mergeCells>"#
    );
    let data = format!(
        "<sheetData>{}</sheetData>",
        row(1, &(text_cell("A1", "angle") + &text_cell("B1", "bench"))) + &row(2, r#"<c r="A2"><v>7</v></c>"#)
    );
    let read = reading(book(&[("one", &sheet), ("data", &data)], ""));
    let said = doubts(&read);
    for words in [
        "One row is hidden in the workbook",
        "2 columns are hidden in the workbook",
        "One formula was never calculated and read as missing",
        "One cell holds an error, the first #DIV/0! in B5: read as missing.",
        "One range of cells is merged, the first from A2 to A3",
        "Other sheets hold “data” (angle, bench).",
    ] {
        assert!(said.contains(words), "{words}:\n{said}");
    }
    assert_eq!(column(&read, 1), [Some("1".into()), Some("2".into()), None, Some("3".into())]);
}

#[test]
fn dates_of_workbooks_stand_on_their_days_and_times_of_day_have_none() {
    let styles = r#"<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><numFmts count="1"><numFmt numFmtId="164" formatCode="yyyy-mm-dd hh:mm"/></numFmts><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="164" applyNumberFormat="1"/></cellXfs></styleSheet>"#;
    let dated = |properties: &str, serials: &[f64]| {
        let cells: String = serials
            .iter()
            .enumerate()
            .map(|(at, serial)| row(at as u32 + 2, &format!(r#"<c r="A{}" s="1"><v>{serial}</v></c>"#, at + 2)))
            .collect();
        let sheet = format!("<sheetData>{}{cells}</sheetData>", row(1, &text_cell("A1", "at")));
        let mut zip = zip::ZipArchive::new(std::io::Cursor::new(book(&[("one", &sheet)], properties))).unwrap();
        let mut parts: Vec<(String, String)> = (0..zip.len())
            .map(|part| {
                let mut part = zip.by_index(part).unwrap();
                let mut text = String::new();
                std::io::Read::read_to_string(&mut part, &mut text).unwrap();
                (part.name().unwrap().into_owned(), text)
            })
            .collect();
        parts.push(("xl/styles.xml".into(), styles.into()));
        reading(zipped(&parts))
    };
    // 1 is 1 January 1900, 61 is 1 March; the day between that never was is 60. With the calendar of 1904, 0 is 1 January 1904.
    assert_eq!(
        texts(&dated("", &[1.0, 59.0, 61.0, 46_146.5]), 0),
        ["1900-01-01 00:00", "1900-02-28 00:00", "1900-03-01 00:00", "2026-05-04 12:00"]
    );
    assert_eq!(texts(&dated(r#"<workbookPr date1904="1"/>"#, &[44_684.0]), 0), ["2026-05-04 00:00"]);
    let clock = dated("", &[0.25, 0.5]);
    assert_eq!(texts(&clock, 0), ["06:00", "12:00"]);
    assert!(doubts(&clock).contains("Times of day without a date stand from cell A2 on"), "{}", doubts(&clock));
}

#[test]
fn a_workbook_that_lies_or_refers_to_nowhere_is_refused_before_it_costs_anything() {
    // A part whose stated size is 0 unpacks to more than the bound.
    let vast = "<row r=\"1\"/>".repeat(1 << 20);
    let mut bytes = zipped(&[("xl/worksheets/sheet1.xml".into(), vast.repeat(100))]);
    let length = (12_u32 << 20) * 100;
    let stated = length.to_le_bytes();
    while let Some(at) = bytes.windows(4).position(|window| window == stated) {
        bytes[at..at + 4].copy_from_slice(&[0; 4]);
    }
    let refused = wished(&bytes, &ReadOptions::default()).unwrap_err();
    assert!(refused.contains("unpacked size in bytes") || refused.contains("cannot be read"), "{refused}");
    let nowhere = workbook(&row(1, r#"<c r="A99999999999999999999"><v>1</v></c>"#));
    let refused = wished(&nowhere, &ReadOptions::default()).unwrap_err();
    assert!(refused.contains("cannot be read"), "{refused}");
}
