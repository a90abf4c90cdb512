//! Readers against bytes that nobody would send: whatever comes, a table that is whole or a refusal in words, and never a panic.
//!
//! Some seeded files in every run, over all cores; `ACORN_FUZZ=1000000` reads as many (`cargo xtask fuzz`).

use crate::common::{book, workbook, zipped};
use acorn_data::frame::{Kind, Values};
use acorn_formats::{ColumnReadOptions, ReadOptions, Source, parse_value, read, specifications, unfold, write_parquet};

/// Files read in every run; `ACORN_FUZZ` asks for more.
const SMOKE: u64 = 20_000;

/// Even numbers, one after the other (Marsaglia 2003).
struct Dice(u64);

impl Dice {
    fn below(&mut self, many: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 % many.max(1) as u64) as usize
    }

    /// The bytes with some of them changed, doubled, moved or gone.
    fn spoilt(&mut self, bytes: &[u8]) -> Vec<u8> {
        const ODD: [&[u8]; 14] = [
            b"\"",
            b",",
            b";",
            b"\r",
            b"\n",
            b"\t",
            b"\0",
            b"\xff",
            b"1e400",
            b"-",
            b"31.02.2026",
            b"=1+1",
            b"</c>",
            "\u{2028}ß".as_bytes(),
        ];
        let mut spoilt = bytes.to_vec();
        for _ in 0..=self.below(6) {
            let at = self.below(spoilt.len());
            let end = (at + self.below(40)).min(spoilt.len());
            match self.below(5) {
                0 => drop(spoilt.splice(at..at, ODD[self.below(ODD.len())].iter().copied())),
                1 => drop(spoilt.drain(at..end)),
                2 => {
                    let again = spoilt[at..end].to_vec();
                    drop(spoilt.splice(at..at, again));
                }
                3 if at < spoilt.len() => spoilt[at] = self.below(256) as u8,
                _ => spoilt.truncate(end),
            }
        }
        spoilt
    }
}

const ROWS: &str = r#"<row r="1"><c r="A1" t="inlineStr"><is><t>at</t></is></c><c r="B1" t="inlineStr"><is><t>flux</t></is></c></row><row r="2"><c r="A2"><v>46146.25</v></c><c r="B2"><v>812.5</v></c></row><row r="3" hidden="1"><c r="A3"><f>A2+1</f></c><c r="B3" t="e"><v>#N/A</v></c></row>"#;

/// A file of each kind that is read.
fn corpus() -> Vec<Vec<u8>> {
    let texts = [
        "Fennel Hollow;;;;\n\ntaken at;sample;lens thickness;edge leak;remark\n04.05.2026 06:10;1;2,401;0,52;\n13.05.2026 06:12;1;2,4O9;0,47;\"a; b\"\nTotal;2;;;\n",
        "flux\n812,5\n-3,25\n7\n",
        ",,y\n1,2,3\n4,5,6\n",
        "serial,at,flux\n00123,26-05-04,1e-400\n00124,26-05-05,9007199254740993\n",
        "at\tflux\n2026-05-04T06:10:00Z\t1\n2026-05-04 06:11\t2\n",
        "größe|flux\n[mm]|[lm]\n1|2\n3|4\n",
        "lot,gap,share\nA,12.3 mm,4 %\nB,12.4 mm,5 %\n",
        r#"[{"lot": "A", "flux": 812.5, "at": {"line": [1, 2]}}, {"flux": null}]"#,
        ";;bench 1;;bench 2;\nlamp;x1;x2;x3;x4;x5\nL1;<0,5;1;2;3;4\n;2;−1;3;4;5\nTotal;3;3;3;3;3\nlamp;x1;x2;x3;x4;x5\nL2;1;2;3;4;>9\nmean: 2\n",
        "Characteristic,Lens type,Valid from,LSL,Tolerance,Nominal,Choices\nthickness,wide,2026-05-04,2.4,0.1,2.5,\"a; b\"\nthickness,narrow,,,0.2,3,\n",
        "{\"lot\": \"A\", \"flux\": 1e300}\n{\"lot\": \"B\", \"flux\": -0.5}\n",
    ];
    let mut corpus: Vec<Vec<u8>> = texts.iter().map(|text| text.as_bytes().to_vec()).collect();
    corpus.push("größe;flux\n1;2\n".encode_utf16().flat_map(u16::to_le_bytes).collect());
    corpus.push(workbook(ROWS));
    corpus.push(workbook(&format!("{ROWS}</sheetData><mergeCells><mergeCell ref=\"A2:A3\"/></mergeCells><sheetData>")));
    corpus.push(book(&[("cover", "<sheetData/>"), ("data", &format!("<sheetData>{ROWS}</sheetData>"))], r#"<workbookPr date1904="1"/>"#));
    corpus.push(spreadsheet(SHEET));
    corpus.push(zipped(&[("a.csv".into(), "lot,flux\nA,1\n".into()), ("b.csv".into(), "flux,lot\n2,B\n".into())]));
    let labels = Values::Label { codes: [0, u32::MAX, 1].into(), labels: ["A".to_owned(), "B".into()].into() };
    let numbers = Values::Number([812.5, f64::NAN, 1e-7].into());
    corpus.push(write_parquet(&[("lot", &labels), ("flux", &numbers)]).unwrap());
    corpus
}

const SHEET: &str = r#"<table:table table:name="one"><table:table-row><table:table-cell office:value-type="string"><text:p>at</text:p></table:table-cell><table:table-cell office:value-type="string"><text:p>flux</text:p></table:table-cell></table:table-row><table:table-row table:number-rows-repeated="3"><table:table-cell office:value-type="date" office:date-value="2026-05-04T06:10:00"/><table:table-cell table:number-columns-repeated="2" office:value-type="float" office:value="812.5"><text:p>813</text:p></table:table-cell></table:table-row></table:table>"#;

fn spreadsheet(inside: &str) -> Vec<u8> {
    let content = format!(r#"<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x">{inside}</office:document-content>"#);
    zipped(&[("content.xml".to_owned(), content)])
}

fn check(bytes: Vec<u8>, seed: u64, dice: &mut Dice) {
    // Half of them are read as somebody corrects them.
    let column = ColumnReadOptions {
        index: dice.below(4),
        fill_down: dice.below(2) == 0,
        no_signs: dice.below(2) == 0,
        ..ColumnReadOptions::default()
    };
    let corrected = ReadOptions {
        header_line: Some(dice.below(6) as u64),
        header_lines: Some(dice.below(4) as u8),
        keep_total: dice.below(2) == 0,
        keep_merged: dice.below(2) == 0,
        unfit_as_missing: true,
        columns: vec![column],
        ..ReadOptions::default()
    };
    let read_options = if dice.below(2) == 0 { corrected } else { ReadOptions::default() };
    match Source::open("odd.csv", bytes).and_then(|source| read(&source, &read_options)) {
        Ok(reading) => {
            if let Some(list) = specifications(&reading.table, &["thickness", "lens type"]) {
                assert!(list.len() <= reading.table.rows, "{seed}");
            }
            if let Some(unfolded) = unfold(&reading.table) {
                assert!(unfolded.columns.iter().all(|column| column.values.len() == unfolded.rows), "{seed}");
            }
            assert!(reading.table.columns.iter().all(|column| column.values.len() == reading.table.rows), "{seed}");
            let said = reading.notes.iter().map(|note| &note.sentence);
            said.for_each(|sentence| assert!(!sentence.is_empty() && sentence.chars().count() < 1200, "{seed}: {sentence}"));
        }
        Err(error) => assert!(error.to_string().chars().count() < 800 && error.advice().ends_with('.'), "{seed}: {error}"),
    }
}

#[test]
fn whatever_bytes_come_a_whole_table_or_a_refusal_in_words_comes_of_them() {
    let many: u64 = std::env::var("ACORN_FUZZ").ok().and_then(|many| many.parse().ok()).unwrap_or(SMOKE);
    let corpus = corpus();
    let threads = std::thread::available_parallelism().map_or(1, |cores| cores.get() as u64);
    std::thread::scope(|scope| {
        for thread in 0..threads {
            let corpus = &corpus;
            scope.spawn(move || (1..=many).filter(|seed| seed % threads == thread).for_each(|seed| one(corpus, seed)));
        }
    });
}

/// A file of the corpus spoilt and read, by a seed.
fn one(corpus: &[Vec<u8>], seed: u64) {
    let mut dice = Dice(seed.wrapping_mul(0x9E37_79B9_7F4A_7C15));
    let one = &corpus[dice.below(corpus.len())];
    // Half of the workbooks are spoilt before they are packed, so that what is in them is reached.
    let inside = one.starts_with(b"PK") && dice.below(2) == 0;
    let bytes = match dice.below(2) {
        0 if inside => workbook(&String::from_utf8_lossy(&dice.spoilt(ROWS.as_bytes()))),
        _ if inside => spreadsheet(&String::from_utf8_lossy(&dice.spoilt(SHEET.as_bytes()))),
        _ => dice.spoilt(one),
    };
    check(bytes.clone(), seed, &mut dice);
    let text = String::from_utf8_lossy(&bytes[..bytes.len().min(60)]).into_owned();
    for kind in [Kind::Number, Kind::WholeNumber, Kind::DateTime, Kind::Category, Kind::Text] {
        parse_value(kind, &text).ok();
    }
}
