//! `columnar`.

use acorn_data::frame::{NO_CODE, NO_TIME};
use parquet::file::reader::{FileReader, SerializedFileReader};
use parquet::record::Field;

use acorn_data::frame::Values;
use acorn_formats::columnar::*;

#[test]
fn a_file_reads_back_as_what_was_written() {
    let labels = vec!["H1".to_owned(), "größe".into()];
    let columns = [
        ("depth", Values::Number(vec![1.25, f64::NAN, 1e-7].into())),
        ("housing", Values::Label { codes: vec![0, NO_CODE, 1].into(), labels: labels.into() }),
        ("at", Values::Time(vec![1_767_225_600_000_000, NO_TIME, 0].into())),
    ];
    let named: Vec<(&str, &Values)> = columns.iter().map(|(name, values)| (*name, values)).collect();
    let reader = SerializedFileReader::new(bytes::Bytes::from(write_parquet(&named).unwrap())).unwrap();
    let rows: Vec<Vec<Field>> =
        reader.get_row_iter(None).unwrap().map(|row| row.unwrap().into_columns().into_iter().map(|(_, field)| field).collect()).collect();
    assert_eq!(rows[0], [Field::Double(1.25), Field::Str("H1".into()), Field::TimestampMicros(1_767_225_600_000_000)]);
    assert_eq!(rows[1], [Field::Null, Field::Null, Field::Null]);
    assert_eq!(rows[2], [Field::Double(1e-7), Field::Str("größe".into()), Field::TimestampMicros(0)]);
    assert!(write_parquet(&[]).is_ok());
}
