//! Tables in other forms than text and XLSX: JSON, Parquet, OpenDocument, archives of text.

use crate::common::zipped;
use acorn_data::frame::{Kind, Values};
use acorn_formats::{ReadOptions, Reading, Source, read, write_json, write_parquet};

fn opened(name: &str, bytes: impl Into<Vec<u8>>) -> Result<Reading, String> {
    let read = Source::open(name, bytes.into()).and_then(|source| read(&source, &ReadOptions::default()));
    read.map_err(|error| format!("{error}. {}", error.advice()))
}

/// Names, kinds and the cells of a table, each column in one line.
fn table(reading: &Reading) -> Vec<String> {
    let cells = |values: &Values| (0..values.len()).map(|row| values.text(row).unwrap_or_default()).collect::<Vec<_>>().join("|");
    reading.table.columns.iter().map(|column| format!("{} {:?} {}", column.name, column.kind, cells(&column.values))).collect()
}

fn said(reading: &Reading) -> String {
    reading.notes.iter().map(|note| note.sentence.as_str()).collect::<Vec<_>>().join("\n")
}

#[test]
fn objects_of_json_are_rows() {
    let columns = 4;
    let rows = [
        r#"{"lot": "A", "flux": 812.5, "ok": true, "at": {"line": "1"}}"#,
        r#"{"lot": "B", "flux": null, "at": {"line": "2"}}"#,
        r#"{"flux": 0.25, "ok": false, "lot": null, "at": {"line": "1"}}"#,
    ];
    let joined = rows.join(", ");
    for text in [format!("[{joined}]"), rows.join("\n"), format!(r#"{{"page": 1, "rows": [{joined}]}}"#)] {
        let read = opened("bench.json", text.clone()).unwrap();
        assert_eq!(table(&read).len(), columns, "{text}");
        assert_eq!(table(&read)[1], "flux Number 812.5||0.25");
        assert_eq!(table(&read)[3].split(' ').next_back(), Some("1|2|1"), "what is within an object is a column of its own");
    }
    // What a workbook calls stored is right as it stands: no sign of it is guessed at.
    let thousandth = opened("a.json", r#"[{"gap": 2.401}, {"gap": 2.409}]"#).unwrap();
    assert_eq!((table(&thousandth)[0].as_str(), thousandth.problem_count), ("gap Number 2.401|2.409", 0));
    let lists = opened("a.json", r#"[{"gap": 1, "tags": [1, 2]}, {"gap": 2, "tags": []}]"#).unwrap();
    assert!(said(&lists).contains("2 values are lists and kept as text."), "{}", said(&lists));
    for (text, words) in [
        (r#"[{"gap": 1}, {"gap": "#, "is broken: EOF"),
        (r#"[{"gap": 1}, 7]"#, "is broken: invalid type"),
        ("{}", "has no rows of values"),
        ("[]", "has no rows of values"),
    ] {
        let refused = opened("a.json", text).unwrap_err();
        assert!(refused.contains(words), "{text}: {refused}");
    }
    for (columns, fits) in [(499, true), (500, true), (501, false)] {
        let names: Vec<String> = (0..columns).map(|k| format!("c{k}")).collect();
        let ones = vec!["1"; columns].join(",");
        assert_eq!(opened("a.csv", format!("{}\n{ones}\n{ones}\n", names.join(","))).is_ok(), fits, "{columns}");
    }
    let wide: String = (0..501).map(|k| format!("\"c{k}\": 1,")).collect();
    assert!(opened("a.json", format!("[{{{}}}]", wide.trim_end_matches(','))).unwrap_err().contains("columns: 501 is more than 500"));
}

#[test]
fn what_is_written_as_parquet_reads_back() {
    let labels = Values::Label { codes: [0, 1, u32::MAX].into(), labels: ["A, \"one\"".to_owned(), "007".into()].into() };
    let times = Values::Time([1_777_852_800_000_000, i64::MIN, 1_777_852_801_500_000].into());
    let numbers = Values::Number([812.5, f64::NAN, 1e-7].into());
    let bytes = write_parquet(&[("lot", &labels), ("at", &times), ("flux", &numbers)]).unwrap();
    let read = opened("bench.parquet", bytes.clone()).unwrap();
    assert_eq!(table(&read)[2], "flux Number 812.5||0.0000001");
    assert_eq!(read.table.columns[1].kind, Kind::DateTime);
    assert!(table(&read)[0].ends_with("A, \"one\"|007|"), "{:?}", table(&read));
    assert!(table(&read)[1].ends_with("2026-05-04 00:00||2026-05-04 00:00:01.5"), "{:?}", table(&read));
    for cut in [8, 40, bytes.len() / 2, bytes.len() - 9] {
        let mut broken = bytes.clone();
        broken.drain(cut..cut + 4);
        assert!(opened("bench.parquet", broken).is_err(), "{cut}");
    }
}

#[test]
fn what_is_written_as_json_reads_back() {
    let labels = Values::Label { codes: [0, 1, u32::MAX].into(), labels: ["A, \"one\"".to_owned(), "x".into()].into() };
    let numbers = Values::Number([812.5, f64::NAN, 9_007_199_254_740_991.0].into());
    let times = Values::Time([1_777_852_800_000_000, i64::MIN, 0].into());
    let mut text = Vec::new();
    write_json(&[("lot", &labels), ("flux", &numbers), ("at", &times)], &mut text).unwrap();
    let wanted = r#"[
{"lot":"A, \"one\"","flux":812.5,"at":"2026-05-04 00:00"},
{"lot":"x","flux":null,"at":null},
{"lot":null,"flux":9007199254740991,"at":"1970-01-01 00:00"}
]
"#;
    assert_eq!(String::from_utf8(text.clone()).unwrap(), wanted);
    let read = opened("a.json", text).unwrap();
    assert!(table(&read)[1].ends_with("812.5||9007199254740991") && read.table.columns[2].kind == Kind::DateTime, "{:?}", table(&read));
    let mut none = Vec::new();
    write_json(&[], &mut none).unwrap();
    assert_eq!(none, b"[\n]\n");
}

fn ods(body: &str) -> Vec<u8> {
    let content = format!(
        r#"<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x" xmlns:calcext="c"><office:body><office:spreadsheet>{body}</office:spreadsheet></office:body></office:document-content>"#
    );
    zipped(&[("mimetype".to_owned(), "application/vnd.oasis.opendocument.spreadsheet".to_owned()), ("content.xml".to_owned(), content)])
}

fn cell(kind: &str, value: &str, shown: &str) -> String {
    format!(r#"<table:table-cell office:value-type="{kind}" {value}><text:p>{shown}</text:p></table:table-cell>"#)
}

#[test]
fn merged_cells_of_an_open_document_hold_for_each_of_their_rows_unless_they_are_kept() {
    let flux = |value: &str| cell("float", &format!(r#"office:value="{value}""#), value);
    let bench = r#"<table:table-cell office:value-type="string" table:number-rows-spanned="2"><text:p>A</text:p></table:table-cell>"#;
    let body = format!(
        r#"<table:table table:name="data"><table:table-row>{}{}</table:table-row><table:table-row>{bench}{}</table:table-row><table:table-row><table:covered-table-cell/>{}</table:table-row></table:table>"#,
        cell("string", "", "bench"),
        cell("string", "", "flux"),
        flux("812.5"),
        flux("813")
    );
    let source = Source::open("bench.ods", ods(&body)).unwrap();
    let filled = read(&source, &ReadOptions::default()).unwrap();
    assert!(table(&filled)[0].ends_with("A|A"), "{:?}", table(&filled));
    assert!(said(&filled).contains("merged, the first from A2 to A3: each of its rows has the value of the first."), "{}", said(&filled));
    let kept = read(&source, &ReadOptions { keep_merged: true, ..ReadOptions::default() }).unwrap();
    assert!(table(&kept)[0].ends_with("A|") && said(&kept).contains("the others are missing"), "{:?}", table(&kept));
}

#[test]
fn an_open_document_is_read_as_it_is_stored() {
    let head = ["lot", "at", "flux", "share", "ok"].map(|name| cell("string", "", name)).concat();
    let row = [
        cell("string", "", "A &amp; B<text:s/>1"),
        cell("date", r#"office:date-value="2026-05-04T06:10:00""#, "04/05/26"),
        cell("float", r#"office:value="812.5""#, "813"),
        cell("percentage", r#"office:value="0.025""#, "3 %"),
        cell("boolean", r#"office:boolean-value="true""#, "TRUE"),
    ];
    let body = format!(
        r#"<table:table table:name="cover"/><table:table table:name="data"><table:table-row>{head}</table:table-row><table:table-row>{}</table:table-row><table:table-row table:number-rows-repeated="2" table:visibility="collapse"><table:table-cell/><table:table-cell/>{}</table:table-row><table:table-row>{}<table:table-cell office:value-type="string" calcext:value-type="error"><text:p>#DIV/0!</text:p></table:table-cell></table:table-row><table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row></table:table>"#,
        row.concat(),
        cell("float", r#"office:value="2""#, "2"),
        cell("string", "", "C"),
    );
    let read = opened("bench.ods", ods(&body)).unwrap();
    assert_eq!((read.read_as.sheet.as_deref(), read.table.rows), (Some("data"), 4));
    let read_as = table(&read);
    assert!(read_as[0].ends_with("A & B 1|||C") && read_as[2].ends_with("812.5|2|2|"), "{read_as:?}");
    assert!(read_as[1].starts_with("at DateTime 2026-05-04 06:10|") && read_as[3].ends_with("0.025|||"), "{read_as:?}");
    let said = said(&read);
    assert!(
        said.contains("2 rows are hidden in the workbook") && said.contains("One cell holds an error and is read as missing."),
        "{said}"
    );
}

#[test]
fn a_small_open_document_cannot_fill_the_memory() {
    let value = cell("float", r#"office:value="2""#, "2");
    let far = |rows: &str, columns: &str, cell: &str| {
        ods(&format!(
            r#"<table:table table:name="a"><table:table-row table:number-rows-repeated="{rows}"><table:table-cell table:number-columns-repeated="{columns}"/>{cell}</table:table-row></table:table>"#
        ))
    };
    let wide = value.replace("<table:table-cell ", r#"<table:table-cell table:number-columns-repeated="499" "#);
    for (bytes, words) in [
        (far("1", "16384", &value), "columns: 16385 is more than 500"),
        (far("9000000", "1", &value), "rows: 9000000 is more than 5000000"),
        (far("18446744073709551615", "18446744073709551615", &value), "columns: "),
        (far("4999999", "1", &wide), "unpacked size in bytes"),
    ] {
        let refused = opened("a.ods", bytes).unwrap_err();
        assert!(refused.contains(words), "{words}: {refused}");
    }
}

#[test]
fn an_archive_of_text_is_one_table_with_a_column_for_the_file() {
    let parts = [
        ("may/line 2.csv", "lot;flux\nC;2,5\nD;3,5\nTotal;6,0\n"),
        ("may/line 1.csv", "Bench log\n\nlot,flux\nA,1.5\nB,1.75\n"),
        ("may/line 3.csv", "flux,lot,angle\n4.5,E,7\n"),
        ("__MACOSX/line 1.csv", "nothing"),
        ("read me.md", "nothing"),
    ];
    let archive = zipped(&parts.map(|(name, text)| (name.to_owned(), text.to_owned())));
    let read = opened("may.zip", archive).unwrap();
    let found = table(&read);
    assert!(found[0].ends_with("A|B|C|D|E"), "{found:?}");
    assert!(found[2].contains("line 1.csv|line 1.csv|line 2.csv|line 2.csv|line 3.csv"), "{found:?}");
    assert!(found[3].ends_with("||||7"), "{found:?}");
    let said = said(&read);
    assert!(said.contains("3 files, one after the other: line 1.csv (2 rows)") && said.contains("line 3.csv has angle"), "{said}");
    let other = zipped(&[("a.csv".to_owned(), "flux\n1\n".to_owned()), ("b.csv".to_owned(), "torque\n1\n".to_owned())]);
    assert!(opened("a.zip", other).unwrap_err().contains("“b.csv” has none of the columns of “a.csv”. Bring it in by itself"));
    assert!(opened("a.zip", zipped(&[("a.png".to_owned(), String::new())])).unwrap_err().contains("an archive without CSV or text files"));
}

#[test]
fn files_dropped_together_are_one_table() {
    let mut source = Source::open("a.csv", b"lot,flux (lm)\nA,1.5\n".to_vec()).unwrap();
    source.add("b.csv", b"lot,flux (lm)\nB,2.5\nC,3.5\n".to_vec()).unwrap();
    source.add("c.csv", b"lot,flux (lm)\nD,\n".to_vec()).unwrap();
    let read = read(&source, &ReadOptions::default()).unwrap();
    assert!(table(&read)[1].ends_with("1.5|2.5|3.5|") && table(&read)[2].ends_with("a.csv|b.csv|b.csv|c.csv"), "{:?}", table(&read));
    let many: Vec<(String, String)> = (0..999).map(|k| (format!("{k}.csv"), "lot,flux (lm)\nE,1\n".to_owned())).collect();
    let refused = source.add("many.zip", zipped(&many)).unwrap_err().to_string();
    assert!(refused.contains("files: 1002 is more than 1000"), "{refused}");
    let refused = source.add("d.xlsx", crate::common::workbook("")).unwrap_err().to_string();
    assert!(refused.contains("only text files are put together"), "{refused}");
    assert_eq!(acorn_formats::read(&source, &ReadOptions::default()).unwrap().table.rows, 4, "what could not be added changes nothing");
}

#[test]
fn a_table_at_the_bound_of_rows_is_read_and_one_beyond_it_refused() {
    let with = |rows: usize| format!("n\n{}", "7\n".repeat(rows));
    assert_eq!(opened("a.csv", with(5_000_000)).unwrap().table.rows, 5_000_000);
    let refused = opened("a.csv", with(5_000_001)).err().unwrap();
    assert!(refused.contains("rows: 5000001 is more than 5000000"), "{refused}");
}

#[test]
fn a_file_at_the_bound_of_bytes_is_read_and_one_beyond_it_refused() {
    const BOUND: usize = 256 * 1024 * 1024;
    let with = |bytes: usize| {
        let line = format!("{}\n", "bench ".repeat(1000));
        let mut file = b"note\n".to_vec();
        while file.len() + line.len() < bytes {
            file.extend_from_slice(line.as_bytes());
        }
        file.resize(bytes, b'n');
        file
    };
    let read = opened("a.csv", with(BOUND)).unwrap();
    assert_eq!(read.table.rows, (BOUND - 5).div_ceil(6001));
    let refused = opened("a.csv", with(BOUND + 1)).err().unwrap();
    assert!(refused.contains("268435457 is more than 268435456"), "{refused}");
}

#[test]
fn cells_that_stand_under_each_other_are_columns() {
    let text = "Leak bench 2, May\n\nlamp  tested at         bench      leak rate\n\
                4101  2026-05-04 06:10  bench A        0,512\n\
                4102  2026-05-04 06:22  bench B       12,400\n\
                4103  2026-05-04 06:34  bench A\n";
    let read = opened("bench.txt", text).unwrap();
    assert_eq!(
        table(&read),
        [
            "lamp WholeNumber 4101|4102|4103",
            "tested at DateTime 2026-05-04 06:10|2026-05-04 06:22|2026-05-04 06:34",
            "bench Category bench A|bench B|bench A",
            "leak rate Number 0.512|12.4|",
        ]
    );
    assert!(said(&read).contains("Columns of fixed width, comma as decimal sign."), "{}", said(&read));
    assert_eq!(read.read_as.delimiter, Some(' '));
    // It can be wished otherwise, and wished for where there is none.
    let source = Source::open("bench.txt", text.into()).unwrap();
    let commas = read_with(&source, Some(',')).unwrap();
    assert!(commas.columns.len() < 4);
    let plain = Source::open("a.csv", "flux,gap\n1,2\n3,4\n".into()).unwrap();
    assert!(read_with(&plain, Some(' ')).unwrap_err().to_string().contains("fixed width"));
}

fn read_with(source: &Source, delimiter: Option<char>) -> Result<Reading, acorn_formats::FormatError> {
    read(source, &ReadOptions { delimiter, ..ReadOptions::default() })
}
