//! `unfold`.

use acorn_formats::table::Table;
use acorn_formats::unfold::*;
use acorn_formats::{ReadOptions, Source, read};

fn table(text: &str) -> Table {
    read(&Source::open("sheet.csv", text.as_bytes().to_vec()).unwrap(), &ReadOptions::default()).unwrap().table
}

#[test]
fn a_row_a_part_and_a_column_a_trial_become_a_row_a_reading() {
    let sheet = table("housing,Ida 1,Ida 2,Jonas 1,Jonas 2,shelf\nH1,1.11,1.12,1.13,,A\nH2,1.21,1.22,1.23,1.24,B\n");
    let wide = wide_sheet(&sheet).unwrap();
    assert_eq!(
        (wide.part.as_deref().unwrap(), &wide.operators[..], wide.trials, wide.rows),
        ("housing", &["Ida".to_owned(), "Jonas".into()][..], 2, 8)
    );
    let long = unfold(&sheet).unwrap();
    let row = |row: usize| long.columns.iter().map(|column| column.values.text(row).unwrap_or_default()).collect::<Vec<_>>();
    assert_eq!(
        long.columns.iter().map(|column| column.name.as_str()).collect::<Vec<_>>(),
        ["housing", "operator", "trial", "reading", "shelf"]
    );
    assert_eq!(
        [row(1), row(3), row(6)],
        [["H1", "Ida", "2", "1.12", "A"], ["H1", "Jonas", "2", "", "A"], ["H2", "Jonas", "1", "1.23", "B"]]
    );
}

#[test]
fn names_of_many_kinds_are_read_and_other_tables_are_left_alone() {
    for (name, want) in [("Ida_2", "Ida"), ("Ida, trial 2", "Ida"), ("A2", "A"), ("Mei Lin (2)", "Mei Lin"), ("J. Orr-Reading 2", "J. Orr")]
    {
        assert_eq!(split(name), Some((want.to_owned(), 2)), "{name}");
    }
    assert_eq!([split("2"), split("flux"), split("trial 2"), split("year 2026")], [None, None, None, None]);
    // Two sets of columns, one that does not begin with 1, one trial each, trials that differ, parts named twice.
    for other in [
        "sample,x1,x2,y1,y2,y3\n1,2.4,2.5,2.6,2.7,2.8\n2,2.4,2.5,2.6,2.7,2.8\n",
        "sample,x2,x3\n1,2.4,2.5\n2,2.4,2.5\n",
        "part,Ida 1,Jonas 1\nH1,2.4,2.5\nH2,2.4,2.5\n",
        "part,Ida 1,Ida 2,Jonas 1\nH1,2.4,2.5,2.6\nH2,2.4,2.5,2.6\n",
        "part,Ida 1,Ida 2,Jonas 1,Jonas 2\nH1,2.4,2.5,2.6,2.7\nH1,2.4,2.5,2.6,2.7\n",
    ] {
        assert_eq!(wide_sheet(&table(other)), None, "{other}");
    }
}

#[test]
fn pieces_side_by_side_become_a_row_a_piece() {
    let sheet = table("at,x1,x2,x3,bench\n06:00,2.4,2.5,2.6,A\n06:00,2.7,2.8,,A\n");
    let wide = wide_sheet(&sheet).unwrap();
    assert_eq!((wide.part, wide.operators.len(), wide.trials, wide.reading.as_str(), wide.rows), (None, 0, 3, "x", 6));
    let long = unfold(&sheet).unwrap();
    let row = |row: usize| long.columns.iter().map(|column| column.values.text(row).unwrap_or_default()).collect::<Vec<_>>();
    let names = long.columns.iter().map(|column| column.name.as_str()).collect::<Vec<_>>();
    assert_eq!(names, ["subgroup", "piece", "x", "at", "bench"]);
    assert_eq!([row(0), row(4), row(5)], [["1", "1", "2.4", "06:00", "A"], ["2", "2", "2.8", "06:00", "A"], ["2", "3", "", "06:00", "A"]]);
}
