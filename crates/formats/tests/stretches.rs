//! A large text is read in stretches side by side, which nobody notices.

use std::fmt::Write;

use acorn_formats::{ColumnReadOptions, ReadOptions, Reading, Source, read};

/// 45,000 rows of several megabytes with all that may stand at an end of a stretch.
fn large(end: &str) -> String {
    let mut text = format!("serial,flux,taken at,bench,remark{end}");
    for row in 0..45_000_u32 {
        let flux = match row % 9_973 {
            5 => "5l2.5".to_owned(),
            6 => "<0.5".to_owned(),
            7 => String::new(),
            _ => format!("{:.2}", 500.0 + f64::from(row % 997) / 10.0),
        };
        let bench = ["A", "", "B", "größer", ""][(row % 1_009 * row % 7 % 5) as usize];
        let longer = if row % 11_003 == 3 { ",more" } else { "" };
        write!(
            text,
            "L{row},{flux},2026-05-{:02} {:02}:{:02}:30,{bench},{row:->30}{longer}{end}",
            1 + row / 5_000,
            row / 60 % 24,
            row % 60
        )
        .unwrap();
        if row % 9_001 == 9 {
            write!(text, "Subtotal,{row},,,{end}{end}").unwrap();
        }
    }
    text + "Total,7,,,"
}

fn reading(text: &str, read_options: &ReadOptions) -> Reading {
    read(&Source::open("reels.csv", text.as_bytes().to_vec()).unwrap(), read_options).unwrap()
}

#[test]
fn a_text_in_stretches_is_read_as_in_one_piece() {
    for end in ["\n", "\r\n"] {
        let text = large(end);
        // A quotation mark anywhere has it read in one piece.
        let whole = text.replacen("L0,", "\"L0\",", 1);
        for read_options in [
            ReadOptions::default(),
            ReadOptions {
                columns: vec![ColumnReadOptions { index: 3, fill_down: true, ..ColumnReadOptions::default() }],
                ..ReadOptions::default()
            },
        ] {
            let (parts, whole) = (reading(&text, &read_options), reading(&whole, &read_options));
            assert_eq!((parts.table.rows, parts.problem_count), (45_000, 5));
            assert_eq!((&parts.problems, &parts.notes, &parts.columns), (&whole.problems, &whole.notes, &whole.columns));
            for (part, whole) in parts.table.columns.iter().zip(&whole.table.columns) {
                let differs = (0..45_000).find(|row| part.values.key(*row) != whole.values.key(*row));
                let differs = differs.or((0..45_000).step_by(97).find(|row| part.values.text(*row) != whole.values.text(*row)));
                assert_eq!((&part.name, differs), (&whole.name, None));
            }
            assert!(parts.notes.iter().any(|note| note.sentence.contains("Lines 12, ")), "{:?}", parts.notes);
        }
    }
}
