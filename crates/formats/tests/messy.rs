//! Sixty files as people meet them: each is understood, or asked about, and none is read wrongly.

use crate::common::{book, zipped};
use acorn_formats::{ColumnReadOptions, ReadOptions, Source, read, unfold, wide_sheet};

/// A file, what is to be read of it (`name kind [unit]` of each column, then the cells of each row, · for a missing one), and words
/// that are to be said of it, among the doubts where they begin with `?`.
struct Messy {
    name: &'static str,
    bytes: Vec<u8>,
    table: &'static str,
    said: &'static [&'static str],
}

fn told(table: &acorn_formats::Table) -> String {
    let head = table.columns.iter().map(|column| {
        let unit = column.unit.as_ref().map(|unit| format!(" [{unit}]")).unwrap_or_default();
        format!("{} {}{unit}", column.name, serde_json::to_value(column.kind).unwrap().as_str().unwrap())
    });
    let row = |row: usize| {
        let cells = table.columns.iter().map(|column| column.values.text(row).unwrap_or_else(|| "·".into()));
        cells.collect::<Vec<_>>().join(" | ")
    };
    std::iter::once(head.collect::<Vec<_>>().join(" | ")).chain((0..table.rows).map(row)).collect::<Vec<_>>().join("\n")
}

fn messy(name: &'static str, bytes: impl AsRef<[u8]>, table: &'static str, said: &'static [&'static str]) -> Messy {
    Messy { name, bytes: bytes.as_ref().to_vec(), table, said }
}

fn check(files: Vec<Messy>) {
    let mut wrong = Vec::new();
    for Messy { name, bytes, table, said } in files {
        let reading = match Source::open(name, bytes).and_then(|source| read(&source, &ReadOptions::default())) {
            Ok(reading) => reading,
            Err(error) => {
                let words = format!("{error}. {}", error.advice());
                if !table.is_empty() || !said.iter().all(|said| words.contains(said)) {
                    wrong.push(format!("{name}: {words}"));
                }
                continue;
            }
        };
        let found = told(&reading.table);
        let mut notes: Vec<String> =
            reading.notes.iter().map(|note| format!("{}{}", if note.doubt { "? " } else { "" }, note.sentence)).collect();
        notes.extend(reading.problems.iter().map(|problem| format!("! row {}, {}: {}", problem.row, problem.name, problem.text)));
        let missed: Vec<_> = said
            .iter()
            .filter(|said| !notes.iter().any(|note| note.contains(*said) && note.starts_with('?') == said.starts_with('?')))
            .collect();
        let unsaid =
            notes.iter().filter(|note| note.starts_with(['?', '!']) && !said.iter().any(|said| note.contains(said))).collect::<Vec<_>>();
        if found != table || !missed.is_empty() || !unsaid.is_empty() {
            wrong.push(format!("{name}:\n{found}\nnot said: {missed:?}\nnot asked for: {unsaid:?}\n"));
        }
    }
    assert!(wrong.is_empty(), "{} wrong:\n{}", wrong.len(), wrong.join("\n"));
}

#[test]
fn lines_around_the_table_are_told_from_rows() {
    check(vec![
        messy(
            "title.csv",
            "Fennel Hollow Lamp Works\nBeam flux of bench 4\n\nlamp,flux\n1,512.5\n2,514.0\n",
            "lamp whole-number | flux number\n1 | 512.5\n2 | 514",
            &["Lines 1 to 3 stand above the header"],
        ),
        messy(
            "units.csv",
            "lamp;flux;angle\n;lm;°\n1;512,5;12,5\n2;514,0;12,4\n",
            "lamp whole-number | flux number [lm] | angle number [°]\n1 | 512.5 | 12.5\n2 | 514 | 12.4",
            &["Line 2 holds units: lm, °."],
        ),
        messy(
            "brackets.csv",
            "lamp,flux,depth\n-,[lm],(mm)\n1,512.5,2.41\n2,514.0,2.42\n",
            "lamp whole-number | flux number [lm] | depth number [mm]\n1 | 512.5 | 2.41\n2 | 514 | 2.42",
            &[],
        ),
        messy(
            "groups.csv",
            ",Bench A,,Bench B,\nlamp,left,right,left,right\n1,2.41,2.42,2.43,2.44\n2,2.51,2.52,2.53,2.54\n",
            "lamp whole-number | Bench A left number | Bench A right number | Bench B left number | Bench B right number\n1 | 2.41 | 2.42 | 2.43 | 2.44\n2 | 2.51 | 2.52 | 2.53 | 2.54",
            &["? Lines 1 and 2 together name the columns."],
        ),
        messy(
            "two-heads.csv",
            "lamp,groove depth,groove depth\n,before the coat,after the coat\n1,2.41,2.45\n2,2.42,2.46\n",
            "lamp whole-number | groove depth before the coat number | groove depth after the coat number\n1 | 2.41 | 2.45\n2 | 2.42 | 2.46",
            &["? Lines 1 and 2 together name the columns."],
        ),
        messy(
            "three-heads.csv",
            ",Bench A,\nlamp,flux,angle\n,lm,°\n1,512.5,12.5\n2,514.0,12.4\n",
            "lamp whole-number | flux number [lm] | angle number [°]\n1 | 512.5 | 12.5\n2 | 514 | 12.4",
            &["Line 3 holds units"],
        ),
        messy(
            "total.csv",
            "bench,solder defects\nA,4\nB,7\nTotal,11\n",
            "bench category | solder defects whole-number\nA | 4\nB | 7",
            &["Line 4 is a total: left out."],
        ),
        messy(
            "statistics.csv",
            "lamp,flux\n1,512.5\n2,514.0\nMean,513.25\nSD,1.06\nMax,514\n",
            "lamp whole-number | flux number\n1 | 512.5\n2 | 514",
            &["Lines 4, 5 and 6 are totals: left out."],
        ),
        messy(
            "subtotals.csv",
            "bench,kind,count\nA,crack,4\nA,void,2\nSubtotal,,6\nB,crack,1\nSubtotal,,1\nTotal,,7\n",
            "bench category | kind category | count whole-number\nA | crack | 4\nA | void | 2\nB | crack | 1",
            &["Lines 4, 6 and 7 are totals: left out."],
        ),
        messy(
            "pages.csv",
            "lamp,flux\n1,512.5\n2,514.0\nlamp,flux\n3,515.5\nlamp,flux\n4,511.0\n",
            "lamp whole-number | flux number\n1 | 512.5\n2 | 514\n3 | 515.5\n4 | 511",
            &["Lines 4 and 6 repeat the column names: left out."],
        ),
        messy(
            "footer.csv",
            "lamp,flux,bench\n1,512.5,A\n2,514.0,A\n\nPrinted 4 May 2026 by MR,,\n(2 rows),,\n",
            "lamp whole-number | flux number | bench category\n1 | 512.5 | A\n2 | 514 | A",
            &["Lines 5 and 6 are remarks under the table: left out."],
        ),
        messy("blank.csv", "lamp,flux\n\n1,512.5\n,\n\n2,514.0\n\n", "lamp whole-number | flux number\n1 | 512.5\n2 | 514", &[]),
        messy(
            "no-names.csv",
            "1,512.5\n2,514.0\n",
            "column 1 whole-number | column 2 number\n1 | 512.5\n2 | 514",
            &["? No line of column names"],
        ),
        messy(
            "twice-named.csv",
            "lamp,flux,flux\n1,512.5,514.0\n2,514.0,513.5\n",
            "lamp whole-number | flux number | flux 2 number\n1 | 512.5 | 514\n2 | 514 | 513.5",
            &["? Empty or repeated column names: now flux 2."],
        ),
        messy(
            "longer.csv",
            "lamp,flux\n1,512.5,seen twice\n2,514.0\n",
            "lamp whole-number | flux number\n1 | 512.5\n2 | 514",
            &["? 1 rows have more cells than the header"],
        ),
        messy(
            "shorter.csv",
            "lamp,flux,remark\n1,512.5\n2,514.0,scratched\n3\n",
            "lamp whole-number | flux number | remark category\n1 | 512.5 | ·\n2 | 514 | scratched\n3 | · | ·",
            &[],
        ),
    ]);
}

#[test]
fn numbers_and_dates_are_read_in_any_dress() {
    check(vec![
        messy("comma.csv", "lamp;flux\n1;512,5\n2;1.514,0\n", "lamp whole-number | flux number\n1 | 512.5\n2 | 1514", &[]),
        messy("thousands.csv", "lot,lumens\nA,\"1,512.5\"\nB,\"12,514.0\"\n", "lot category | lumens number\nA | 1512.5\nB | 12514", &[]),
        messy("spaces.csv", "lot;life\nA;12 500\nB;13 250\n", "lot category | life number\nA | 12500\nB | 13250", &[]),
        messy("apostrophes.csv", "lot;life\nA;12'500.5\nB;13'250.0\n", "lot category | life number\nA | 12500.5\nB | 13250", &[]),
        messy(
            "percent.csv",
            "lot,solder defects\nA,2.5 %\nB,3.0 %\n",
            "lot category | solder defects number [%]\nA | 2.5\nB | 3",
            &["solder defects: “%” beside the numbers is taken as their unit."],
        ),
        messy(
            "currency.csv",
            "lot,rework\nA,€ 12.50\nB,€ 7.00\n",
            "lot category | rework number [€]\nA | 12.5\nB | 7",
            &["rework: “€” beside"],
        ),
        messy(
            "in-cell.csv",
            "lens,thickness\n1,2.41 mm\n2,2.42 mm\n3,2.40mm\n",
            "lens whole-number | thickness number [mm]\n1 | 2.41\n2 | 2.42\n3 | 2.4",
            &["thickness: “mm” beside"],
        ),
        messy(
            "bounds.csv",
            "housing,leak rate\nH1,<0.5\nH2,0.82\nH3,1.10\nH4,> 20\n",
            "housing category | leak rate number | leak rate sign category\nH1 | 0.5 | <\nH2 | 0.82 | ·\nH3 | 1.1 | ·\nH4 | 20 | >",
            &["? leak rate: 2 values are bounds such as “<0.5”, kept as 0.5"],
        ),
        messy(
            "classes.csv",
            "class,count\n<5,12\n5 to 10,30\n>10,4\n",
            "class category | count whole-number\n<5 | 12\n5 to 10 | 30\n>10 | 4",
            &[],
        ),
        messy(
            "missing.csv",
            "lamp,flux\n1,n/a\n2,514.0\n3,-\n4,\n5,#N/A\n6,512.5\n",
            "lamp whole-number | flux number\n1 | ·\n2 | 514\n3 | ·\n4 | ·\n5 | ·\n6 | 512.5",
            &[],
        ),
        messy(
            "slip.csv",
            "lamp,flux\n1,512.5\n2,5l4.0\n3,515.5\n4,512.5\n5,511.0\n6,513.5\n7,512.0\n8,512.5\n9,512.1\n10,512.9\n",
            "lamp whole-number | flux number\n1 | 512.5\n2 | ·\n3 | 515.5\n4 | 512.5\n5 | 511\n6 | 513.5\n7 | 512\n8 | 512.5\n9 | 512.1\n10 | 512.9",
            &["! row 2, flux: 5l4.0"],
        ),
        messy(
            "serial.csv",
            "serial,flux\n00123,512.5\n00124,514.0\n",
            "serial category | flux number\n00123 | 512.5\n00124 | 514",
            &["? serial: “00123” is kept as it is written, as a label."],
        ),
        messy(
            "thousandfold.csv",
            "lens,thickness\n1,\"2,401\"\n2,\"2,398\"\n",
            "lens whole-number | thickness number\n1 | 2401\n2 | 2398",
            &["? thickness: “2,401” is read as 2401. It could be 2.401."],
        ),
        messy(
            "exponents.csv",
            "housing,leak rate\nH1,1.2e-6\nH2,8E-7\n",
            "housing category | leak rate number\nH1 | 0.0000012\nH2 | 0.0000008",
            &[],
        ),
        messy(
            "minus.csv",
            "lens,offset\n1,-0.02\n2,\u{2212}0.03\n3,+0.01\n",
            "lens whole-number | offset number\n1 | -0.02\n2 | -0.03\n3 | 0.01",
            &[],
        ),
        messy(
            "iso.csv",
            "at,flux\n2026-05-04T06:10:00,512.5\n2026-05-04 06:20,514.0\n",
            "at date-time | flux number\n2026-05-04 06:10 | 512.5\n2026-05-04 06:20 | 514",
            &[],
        ),
        messy(
            "german.csv",
            "am;Wert\n04.05.2026;512,5\n13.05.2026;514,0\n",
            "am date-time | Wert number\n2026-05-04 00:00 | 512.5\n2026-05-13 00:00 | 514",
            &["Dates read day first: other dates in the file leave no doubt."],
        ),
        messy(
            "american.csv",
            "at,flux\n05/04/2026 6:10 AM,512.5\n05/13/2026 2:20 PM,514.0\n",
            "at date-time | flux number\n2026-05-04 06:10 | 512.5\n2026-05-13 14:20 | 514",
            &["Dates read month first"],
        ),
        messy(
            "either.csv",
            "at,flux\n05/04/2026,512.5\n06/04/2026,514.0\n",
            "at date-time | flux number\n2026-04-05 00:00 | 512.5\n2026-04-06 00:00 | 514",
            &["? Dates read day first; nothing in the file settles it."],
        ),
        messy(
            "months.csv",
            "at,flux\n4 May 2026,512.5\n13 May 2026,514.0\n",
            "at date-time | flux number\n2026-05-04 00:00 | 512.5\n2026-05-13 00:00 | 514",
            &[],
        ),
        messy(
            "years.csv",
            "at,flux\n2026/05/04,512.5\n2026/05/13,514.0\n",
            "at date-time | flux number\n2026-05-04 00:00 | 512.5\n2026-05-13 00:00 | 514",
            &[],
        ),
        messy(
            "zones.csv",
            "at,flux\n2026-05-04T06:10:00Z,512.5\n2026-05-04T06:10:00,514.0\n",
            "at date-time | flux number\n2026-05-04 06:10 | 512.5\n2026-05-04 06:10 | 514",
            &["? at: some times say their zone and others do not"],
        ),
        messy("clock.csv", "shift,flux\n06:10,512.5\n14:20,514.0\n", "shift category | flux number\n06:10 | 512.5\n14:20 | 514", &[]),
    ]);
}

#[test]
fn cells_and_columns_of_many_shapes_keep_what_they_say() {
    let sheet = |inside: &str| format!("<sheetData>{inside}</sheetData>");
    let text = |at: &str, said: &str| format!(r#"<c r="{at}" t="inlineStr"><is><t>{said}</t></is></c>"#);
    let number = |at: &str, value: &str| format!(r#"<c r="{at}"><v>{value}</v></c>"#);
    let row = |line: u32, cells: String| format!(r#"<row r="{line}">{cells}</row>"#);
    let merged = sheet(
        &[
            row(1, text("A1", "bench") + &text("B1", "flux")),
            row(2, text("A2", "A") + &number("B2", "512.5")),
            row(3, number("B3", "514")),
            row(4, text("A4", "B") + &number("B4", "515.5")),
            row(5, number("B5", "511")),
        ]
        .concat(),
    ) + r#"<mergeCells count="2"><mergeCell ref="A2:A3"/><mergeCell ref="A4:A5"/></mergeCells>"#;
    let titled = sheet(
        &[
            row(1, text("A1", "Beam flux, bench 4")),
            row(2, text("A2", "lamp") + &text("B2", "Ida") + &text("D2", "Jonas")),
            row(3, text("B3", "1") + &text("C3", "2") + &text("D3", "1") + &text("E3", "2")),
            row(4, text("A4", "L1") + &number("B4", "2.41") + &number("C4", "2.42") + &number("D4", "2.43") + &number("E4", "2.44")),
            row(5, text("A5", "L2") + &number("B5", "2.51") + &number("C5", "2.52") + &number("D5", "2.53") + &number("E5", "2.54")),
        ]
        .concat(),
    );
    let cover = sheet(&row(1, text("A1", "Burn-in of week 18")));
    let data = sheet(
        &(row(1, text("A1", "lamp") + &text("B1", "hours"))
            + &row(2, number("A2", "1") + &number("B2", "4.5"))
            + &row(3, number("A3", "2") + &number("B3", "4.6"))),
    );
    let zip = zipped(&[
        ("bench-a.csv".to_owned(), "lamp,flux\n1,512.5\n".to_owned()),
        ("bench-b.csv".to_owned(), "flux,lamp\n514.0,2\n".to_owned()),
    ]);
    let utf16 = |text: &str| [vec![0xFF, 0xFE], text.encode_utf16().flat_map(u16::to_le_bytes).collect()].concat();
    check(vec![
        messy(
            "blocks.csv",
            "bench,lamp,flux\nA,1,512.5\n,2,514.0\nB,3,515.5\n,4,511.0\n",
            "bench category | lamp whole-number | flux number\nA | 1 | 512.5\n· | 2 | 514\nB | 3 | 515.5\n· | 4 | 511",
            &["? bench seems to stand only at the first row of each block"],
        ),
        messy(
            "merged.xlsx",
            book(&[("one", &merged)], ""),
            "bench category | flux number\nA | 512.5\nA | 514\nB | 515.5\nB | 511",
            &["? 2 ranges of cells are merged, the first from A2 to A3: each of its rows has the value of the first."],
        ),
        messy(
            "operators.xlsx",
            book(&[("one", &titled)], ""),
            "lamp category | Ida 1 number | Ida 2 number | Jonas 1 number | Jonas 2 number\nL1 | 2.41 | 2.42 | 2.43 | 2.44\nL2 | 2.51 | 2.52 | 2.53 | 2.54",
            &["? Lines 2 and 3 together name the columns."],
        ),
        messy(
            "cover.xlsx",
            book(&[("cover", &cover), ("data", &data)], ""),
            "lamp whole-number | hours number\n1 | 4.5\n2 | 4.6",
            &["? Sheet “data” of 2.", "? Other sheets hold “cover” (Burn-in of week 18)."],
        ),
        messy(
            "quoted.csv",
            "lamp,remark\n1,\"cracked, then\nglued\"\n2,\"said \"\"fine\"\"\"\n",
            "lamp whole-number | remark category\n1 | cracked, then\nglued\n2 | said \"fine\"",
            &[],
        ),
        messy("formulas.csv", "lamp,remark\n1,'=A1+B1\n2,'+4\n", "lamp whole-number | remark category\n1 | =A1+B1\n2 | +4", &[]),
        messy("tabs.tsv", "lamp\tflux\n1\t512.5\n2\t514.0\n", "lamp whole-number | flux number\n1 | 512.5\n2 | 514", &[]),
        messy("bars.txt", "lamp|flux\n1|512.5\n2|514.0\n", "lamp whole-number | flux number\n1 | 512.5\n2 | 514", &[]),
        messy(
            "widths.txt",
            "lamp  bench     flux\n   1  bench A  512.5\n   2  bench B  514.0\n   3  bench A  515.5\n",
            "lamp whole-number | bench category | flux number\n1 | bench A | 512.5\n2 | bench B | 514\n3 | bench A | 515.5",
            &[],
        ),
        messy("one-column.csv", "flux\n812,5\n3,25\n", "flux number\n812.5\n3.25", &[]),
        messy("cr.csv", "lamp,flux\r1,512.5\r2,514.0\r", "lamp whole-number | flux number\n1 | 512.5\n2 | 514", &[]),
        messy("bom.csv", "\u{feff}lamp,flux\r\n1,512.5\r\n", "lamp whole-number | flux number\n1 | 512.5", &[]),
        messy("utf16.csv", utf16("lamp\tflux\n1\t512.5\n2\t514.0\n"), "lamp whole-number | flux number\n1 | 512.5\n2 | 514", &[]),
        messy(
            "latin.csv",
            b"Geh\xE4use;Dichtung\nH1;gr\xFCn\nH2;wei\xDF\n",
            "Gehäuse category | Dichtung category\nH1 | grün\nH2 | weiß",
            &["? Line 1 is taken for column names", "? "],
        ),
        messy(
            "lines.json",
            "{\"lamp\": 1, \"flux\": 512.5}\n{\"lamp\": 2, \"flux\": null, \"bench\": \"A\"}\n",
            "lamp whole-number | flux number | bench category\n1 | 512.5 | ·\n2 | · | A",
            &[],
        ),
        messy(
            "array.json",
            "[{\"lamp\": 1, \"at\": {\"bench\": \"A\"}}, {\"lamp\": 2}]",
            "lamp whole-number | at.bench category\n1 | A\n2 | ·",
            &[],
        ),
        messy(
            "benches.zip",
            zip,
            "lamp whole-number | flux number | file category\n1 | 512.5 | bench-a.csv\n2 | 514 | bench-b.csv",
            &["2 files, one after the other"],
        ),
        messy("page.html", "<html><table><tr><td>1</td></tr></table></html>", "", &["“page.html” is"]),
        messy("open.csv", "lamp,remark\n1,\"cracked\n2,fine\n", "", &["opens a quotation mark that is never closed"]),
        messy("empty.csv", "", "", &[]),
        messy("names.csv", "lamp,flux\n", "column 1 category | column 2 category\nlamp | flux", &["? No line of column names"]),
    ]);
}

#[test]
fn removed_spaces_are_told() {
    let said = |text: &str| {
        let reading = read(&Source::open("bench.csv", text.as_bytes().to_vec()).unwrap(), &ReadOptions::default()).unwrap();
        reading.notes.iter().any(|note| note.sentence == "Spaces before or after 2 texts are removed.")
    };
    assert!(said("bench,flux\n\" A\",512.5\n\"B \",514.5\nC,513.5\n"));
    assert!(!said("bench,flux\nA,512.5\nB,514.5\nC,513.5\n"));
}

#[test]
fn readings_side_by_side_are_offered_to_be_unfolded() {
    for (text, offered) in [
        ("at,x1,x2,x3,x4,x5\n06:00,2.41,2.42,2.43,2.44,2.45\n07:00,2.51,2.52,2.53,2.54,2.55\n", true),
        ("lamp,Ida 1,Ida 2,Jonas 1,Jonas 2\nL1,2.41,2.42,2.43,2.44\nL2,2.51,2.52,2.53,2.54\n", true),
        (",Ida,,Jonas,\nlamp,1,2,1,2\nL1,2.41,2.42,2.43,2.44\nL2,2.51,2.52,2.53,2.54\n", true),
        ("lamp,flux,angle\nL1,512.5,12.5\n", false),
    ] {
        let table = read(&Source::open("wide.csv", text.as_bytes().to_vec()).unwrap(), &ReadOptions::default()).unwrap().table;
        assert_eq!((wide_sheet(&table).is_some(), unfold(&table).is_some()), (offered, offered), "{text}");
    }
}

#[test]
fn every_mend_can_be_taken_back() {
    let of = |text: &str, read_options: ReadOptions| {
        let reading = read(&Source::open("bench.csv", text.as_bytes().to_vec()).unwrap(), &read_options).unwrap();
        (told(&reading.table), reading.problems.len())
    };
    let column = |index, change: fn(&mut ColumnReadOptions)| {
        let mut column = ColumnReadOptions { index, ..ColumnReadOptions::default() };
        change(&mut column);
        ReadOptions { columns: vec![column], ..ReadOptions::default() }
    };
    let blocks = "bench,flux\nA,1\n,2\nB,3\n,4\n";
    assert_eq!(of(blocks, column(0, |column| column.fill_down = true)).0, "bench category | flux whole-number\nA | 1\nA | 2\nB | 3\nB | 4");
    let bounds = "leak rate,bench\n<0.5,A\n0.8,A\n0.9,B\n";
    let asked = of(bounds, column(0, |column| column.no_signs = true));
    assert_eq!(asked, ("leak rate number | bench category\n· | A\n0.8 | A\n0.9 | B".to_owned(), 1));
    let total = ReadOptions { keep_total: true, ..ReadOptions::default() };
    assert_eq!(
        of("bench,count\nA,4\nSubtotal,4\nTotal,4\n", total).0,
        "bench category | count whole-number\nA | 4\nSubtotal | 4\nTotal | 4"
    );
    let heads = "lamp,depth,depth\n,before the coat,after the coat\n1,2.41,2.45\n";
    let first = ReadOptions { header_line: Some(1), header_lines: Some(1), ..ReadOptions::default() };
    assert_eq!(
        of(heads, first),
        ("lamp whole-number | depth category | depth 2 category\n· | before the coat | after the coat\n1 | 2.41 | 2.45".to_owned(), 0)
    );
    let second = ReadOptions { header_line: Some(2), header_lines: Some(1), ..ReadOptions::default() };
    assert_eq!(of(heads, second).0, "column 1 whole-number | before the coat number | after the coat number\n1 | 2.41 | 2.45");
}
