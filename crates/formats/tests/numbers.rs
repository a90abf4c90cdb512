//! Numbers never change their size on the way in: decimal signs by column, stored numbers, units, far cells.

use crate::common::workbook;
use acorn_data::frame::{Kind, Values};
use acorn_formats::{ColumnReadOptions, FormatError, LineRole, ReadOptions, Reading, Source, read};

fn reading(text: &str) -> Reading {
    wished(text, &ReadOptions::default())
}

fn wished(text: &str, read_options: &ReadOptions) -> Reading {
    read(&Source::open("bench.csv", text.as_bytes().to_vec()).unwrap(), read_options).unwrap()
}

fn column(reading: &Reading, at: usize) -> Vec<Option<String>> {
    (0..reading.table.rows).map(|row| reading.table.columns[at].values.text(row)).collect()
}

fn sheet(rows: &str) -> Result<Reading, FormatError> {
    read(&Source::open("bench.xlsx", workbook(rows))?, &ReadOptions::default())
}

/// What stands in a file, what its first column holds, whether that is asked about.
#[test]
fn the_decimal_sign_of_a_column_is_its_own() {
    let cases: &[(&str, &str, bool)] = &[
        // A remark with a decimal comma says nothing of a column of points; it is asked once.
        ("width,remark\n2.401,\n2.405,\"3,5\"\n2.399,\n", "2.401", true),
        ("width;remark\n2.401;\n2.41;3,5\n", "2.401", false),
        // Short whole numbers beside 1.234 are pieces, where the file writes decimal commas.
        ("pieces;width\n1.234;2,41\n987;2,4\n", "1234", true),
        ("pieces;width\n1.234.567;2,41\n987;2,4\n", "1234567", false),
        ("width;gap\n2,401;0,5\n2,402;0,25\n", "2.401", false),
        ("width;bench\n2,401;A\n2,402;B\n", "2.401", true),
        ("pieces,bench\n\"2,401\",A\n\"2,402\",B\n", "2401", true),
        ("pieces,width\n\"2,401\",1.5\n\"2,402\",2.25\n", "2401", true),
        // A number that begins with 0 has no thousands.
        ("leak;bench\n0,401;A\n0,402;B\n", "0.401", false),
        ("leak,remark\n0.401,\n0.402,\"3,5\"\n", "0.401", false),
        ("width\n2.401\n2.402\n", "2.401", false),
    ];
    for (text, first, asked) in cases {
        let reading = reading(text);
        assert_eq!(column(&reading, 0)[0].as_deref(), Some(*first), "{text}");
        let doubt = reading.notes.iter().find(|note| note.about == "decimal" && note.column == Some(0));
        assert_eq!(doubt.is_some(), *asked, "{text}: {:?}", reading.notes);
        assert_eq!(reading.problem_count, 0, "{text}");
    }
}

#[test]
fn the_answer_about_one_column_leaves_the_others_alone() {
    let text = "width,remark\n2.401,\n2.405,\"3,5\"\n";
    let asked = reading(text);
    let note = asked.notes.iter().find(|note| note.about == "decimal").unwrap();
    assert_eq!(note.sentence, "width: “2.401” is read as 2.401. It could be 2401.");
    let other = ReadOptions {
        columns: vec![ColumnReadOptions { index: 0, decimal: Some(','), ..ColumnReadOptions::default() }],
        ..ReadOptions::default()
    };
    let answered = wished(text, &other);
    assert_eq!((column(&answered, 0)[0].as_deref(), column(&answered, 1)[1].as_deref()), (Some("2401"), Some("3.5")));
    assert!(answered.notes.iter().all(|note| note.about != "decimal"), "asked once");
}

#[test]
fn a_number_that_a_workbook_stores_stays_that_number() {
    let rows = r#"<row r="1"><c r="A1" t="inlineStr"><is><t>x</t></is></c><c r="B1" t="inlineStr"><is><t>y</t></is></c></row>
        <row r="2"><c r="A2" t="inlineStr"><is><t>1,5</t></is></c><c r="B2"><v>2.513</v></c></row>
        <row r="3"><c r="A3"><v>2.514</v></c><c r="B3"><v>3.514</v></c></row>
        <row r="4"><c r="A4" t="inlineStr"><is><t>2,5</t></is></c><c r="B4"><v>1e-7</v></c></row>"#;
    let reading = sheet(rows).unwrap();
    assert_eq!(column(&reading, 0), [Some("1.5".into()), Some("2.514".into()), Some("2.5".into())]);
    assert_eq!(column(&reading, 1)[..2], [Some("2.513".into()), Some("3.514".into())]);
    assert_eq!(reading.columns.iter().map(|column| column.kind).collect::<Vec<_>>(), [Kind::Number, Kind::Number]);
}

#[test]
fn rows_and_cells_in_any_order_stand_where_they_say() {
    let cell = |address: &str, value: f64| format!(r#"<c r="{address}"><v>{value}</v></c>"#);
    let row = |number: u32, cells: &[(&str, f64)]| {
        let cells: String = cells.iter().map(|(column, value)| cell(&format!("{column}{number}"), *value)).collect();
        format!(r#"<row r="{number}">{cells}</row>"#)
    };
    let mixed = [
        row(3, &[("C", 33.5), ("A", 31.5)]),
        row(1, &[("A", 11.5), ("B", 12.5), ("C", 13.5)]),
        row(2, &[("B", 22.5), ("A", 20.5), ("C", 23.5), ("A", 21.5)]),
        row(3, &[("B", 32.5)]),
    ];
    let reading = sheet(&mixed.concat()).unwrap();
    let texts = |values: [f64; 3]| values.map(|value| Some(value.to_string()));
    assert_eq!(column(&reading, 0), texts([11.5, 21.5, 31.5]), "the last one counts where a cell comes twice");
    assert_eq!(column(&reading, 1), texts([12.5, 22.5, 32.5]));
    assert_eq!(column(&reading, 2), texts([13.5, 23.5, 33.5]));
}

#[test]
fn a_cell_far_away_costs_no_more_than_any_other() {
    let far =
        |address: &str, row: u64| format!(r#"<row r="1"><c r="A1"><v>1</v></c></row><row r="{row}"><c r="{address}"><v>2</v></c></row>"#);
    let down = sheet(&far("A1048576", 1_048_576)).unwrap();
    assert_eq!((down.table.rows, column(&down, 0)[1].as_deref()), (2, Some("2")));
    let corner = sheet(&far("SF1048576", 1_048_576)).unwrap();
    assert_eq!((corner.table.rows, corner.columns.len()), (2, 500));
    assert_eq!(sheet(&far("XFD1048576", 1_048_576)).err().map(|error| error.code()), Some("too-much"));
    // A row that no workbook can have is a broken workbook or a row, never the end of the process.
    assert!(sheet(&far("A4000000000", 4_000_000_000)).map_or_else(|error| error.code() == "broken-workbook", |read| read.table.rows == 2));
}

#[test]
fn a_line_of_units_names_the_units_and_is_no_row() {
    let text =
        "taken at;lens thickness;edge leak;bench\n;[mm];mL/min;\n04.05.2026 06:10;2,401;0,52;A\n04.05.2026 06:11;2,398;0,61;B\n;;;\n";
    let read = reading(text);
    let units: Vec<_> = read.table.columns.iter().map(|column| column.unit.as_deref()).collect();
    assert_eq!(units, [None, Some("mm"), Some("mL/min"), None]);
    assert_eq!((read.table.rows, read.problem_count), (2, 0), "a blank last line is no row either");
    assert!(read.notes.iter().any(|note| note.sentence == "Line 2 holds units: mm, mL/min."));
    assert_eq!(read.lines[1].role, LineRole::Units);
    let kept = wished(text, &ReadOptions { keep_units: true, ..ReadOptions::default() });
    assert_eq!(kept.table.rows, 3);
    // A slip in the first row, a label, a number: rows all of them.
    for text in ["flux\n8O2.5\n812.0\n811.0\n", "flux,bench\nlm,A\n812,B\n813,C\n", "a,b\nmm,7\n1,2\n3,4\n"] {
        assert!(reading(text).table.columns.iter().all(|column| column.unit.is_none()), "{text}");
    }
}

#[test]
fn numbers_of_files_are_the_nearest_doubles() {
    // Values about 1e7 that differ in their last digits, and some that a reader which rounds twice gets wrong.
    let mut seed = 7_u64;
    let mut next = || {
        seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        1e7 + (seed >> 33) as f64 / 2_f64.powi(31) * 0.02
    };
    let mut values: Vec<f64> = (0..500).map(|_| next()).collect();
    values.extend([0.1 + 0.2, 8.5e-23, 9_007_199_254_740_993.0, 1.797_693_134_862_315_7e308, 2.225_073_858_507_201_4e-308]);
    let rows: String = values.iter().map(|value| format!("{value:?}\n")).collect();
    let cells: String =
        values.iter().enumerate().map(|(row, value)| format!(r#"<row r="{0}"><c r="A{0}"><v>{value:?}</v></c></row>"#, row + 2)).collect();
    let head = r#"<row r="1"><c r="A1" t="inlineStr"><is><t>flux</t></is></c></row>"#;
    let read = [reading(&format!("flux\n{rows}")), sheet(&format!("{head}{cells}")).unwrap()];
    for Reading { table, .. } in read {
        let Values::Number(found) = &table.columns[0].values else { panic!("not read as numbers") };
        let wrong = values.iter().zip(found.iter()).find(|(value, found)| value.to_bits() != found.to_bits());
        assert_eq!((found.len(), wrong), (values.len(), None));
    }
}

#[test]
fn a_unit_beside_each_number_is_the_unit_of_the_column() {
    let text = "lot;gap;share;price;code\nA;12,3 mm;4 %;€ 1,50;1A\nB;12,4 mm;5%;€ 2,00;2B\nC;;n/a;€ 2,25;3C\nD;12,5;6 %;€ 1,75;4D\n";
    let found = read(&Source::open("bench.csv", text.into()).unwrap(), &ReadOptions::default()).unwrap();
    let column = |at: usize| {
        let column = &found.table.columns[at];
        let cells: Vec<String> = (0..4).map(|row| column.values.text(row).unwrap_or_default()).collect();
        (column.unit.clone().unwrap_or_default(), cells.join("|"))
    };
    assert_eq!(column(1), ("mm".into(), "12.3|12.4||12.5".into()));
    assert_eq!(column(2), ("%".into(), "4|5||6".into()));
    assert_eq!(column(3), ("€".into(), "1.5|2|2.25|1.75".into()));
    assert_eq!(column(4), (String::new(), "1A|2B|3C|4D".into()), "units that differ are none");
    assert!(
        found.notes.iter().any(|note| note.column == Some(1) && note.sentence == "gap: “mm” beside the numbers is taken as their unit.")
    );
    // What is wanted as it is written stays so.
    let kept = ColumnReadOptions { index: 1, kind: Some(Kind::Category), ..ColumnReadOptions::default() };
    let read_options = ReadOptions { columns: vec![kept], ..ReadOptions::default() };
    let found = read(&Source::open("bench.csv", text.into()).unwrap(), &read_options).unwrap();
    assert_eq!((found.table.columns[1].values.text(0).unwrap(), &found.table.columns[1].unit), ("12,3 mm".into(), &None));
    // A slip among them is asked about, not guessed.
    let slip = "gap\n1 mm\n2 mm\n3 mm\nwide\n4 mm\n5 mm\n6 mm\n7 mm\n8 mm\n9 mm\n";
    let found = read(&Source::open("bench.csv", slip.into()).unwrap(), &ReadOptions::default()).unwrap();
    assert_eq!((found.problem_count, found.problems[0].text.as_str()), (1, "wide"));
}
