//! `labels`.

use acorn_data::frame::{Kind, NO_CODE, NO_TIME, Values};
use acorn_formats::CellValue;
use acorn_store::labels::*;
use std::collections::HashMap;

#[test]
fn a_cell_is_as_wide_as_its_kind() {
    let labels = Labels(HashMap::from([("A".to_owned(), 7)]));
    assert_eq!(labels.cell(Kind::Text, &CellValue::Label("A".into())), 7_u32.to_le_bytes());
    assert_eq!(labels.cell(Kind::Category, &CellValue::Missing), NO_CODE.to_le_bytes());
    assert_eq!(labels.cell(Kind::Number, &CellValue::Number(2.4)), 2.4_f64.to_le_bytes());
    assert_eq!(labels.cell(Kind::DateTime, &CellValue::Missing), NO_TIME.to_le_bytes());
}

#[tokio::test]
async fn labels_of_any_letters_keep_them_and_their_codes() {
    let folder = tempfile::tempdir().unwrap();
    let store = acorn_store::Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let table = acorn_formats::read(&acorn_formats::Source::open("reels.csv", b"reel\nR1\nR2\n".to_vec()).unwrap(), &Default::default())
        .unwrap()
        .table;
    let new = acorn_store::NewDataset { name: "Reels", source: "reels.csv", table: &table, infos: &[], gauges: &[] };
    let column = store.create_dataset(new, &acorn_store::history::Change { actor: "MR", at: 0 }).await.unwrap().columns[0].id;
    let odd = ["R2", "a\"b\\", "", "nul\0 inside", "\u{1f4a1}", "[1,2]", "12", "null"];
    let mut transaction = store.begin().await.unwrap();
    let values = Values::Label { codes: (0..8).collect(), labels: odd.iter().map(|label| (*label).to_owned()).collect() };
    let Values::Label { codes, .. } = adopt(&mut transaction, column, values.clone()).await.unwrap() else { panic!() };
    assert_eq!(*codes, [1, 2, 3, 4, 5, 6, 7, 8]);
    let Values::Label { labels, .. } = of_cells(&mut transaction, column, &codes).await.unwrap() else { panic!() };
    assert_eq!(*labels, odd);
    let Values::Label { codes, .. } = adopt(&mut transaction, column, values).await.unwrap() else { panic!() };
    assert_eq!(*codes, [1, 2, 3, 4, 5, 6, 7, 8]);
}
