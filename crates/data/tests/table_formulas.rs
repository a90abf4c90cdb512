//! Formulas over the columns of a table, against values worked out by hand.

use acorn_data::formula::{TableFormula, TableFunction};
use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, NO_TIME, Values, moments_named};
use serde_json::json;

/// Six lamps: flux, power, bench, when they were tested.
fn lamps() -> Frame {
    let columns = json!({
        "flux": [812.5, 790, null, 805, 812.5, 0],
        "power": [6.5, 6.25, 6, null, 0, 0],
        "bench": ["A-1", "B-2", "A-1", null, "b-2", "B-2"],
        "note": ["7,5", "x", " 12 ", "-3e2", null, "7.5 mm"],
    });
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let times = ["2026-05-04 05:59", "2026-05-04 06:00", "2026-05-04 13:30", "", "2026-01-01 23:15", "2026-05-05"];
    let values = Values::Time(times.iter().map(|text| moments_named(text).map_or(NO_TIME, |[first, _]| first)).collect());
    let at = Column { name: "tested at".into(), kind: Kind::DateTime, info: ColumnInfo::default(), measuring: None, held: None, values };
    Frame::new(frame.columns().iter().cloned().chain([at]).collect(), None).unwrap()
}

fn read(text: &str, frame: &Frame) -> Result<TableFormula, String> {
    let columns: Vec<(&str, Kind)> = frame.columns().iter().map(|column| (column.name.as_str(), column.kind)).collect();
    TableFormula::read(text, &columns).map_err(|mistake| mistake.words)
}

/// The values of a formula in one line, missing ones empty; what is missing says why, and nothing else does.
fn values(text: &str, frame: &Frame) -> String {
    let formula = read(text, frame).unwrap_or_else(|words| panic!("{text}: {words}"));
    let values = formula.values(frame);
    assert_eq!(values.len(), frame.rows(), "{text}");
    for row in 0..frame.rows() {
        assert_eq!(formula.why(frame, row).is_some(), values.is_missing(row), "{text}, row {row}: {:?}", formula.why(frame, row));
    }
    (0..values.len()).map(|row| values.text(row).unwrap_or_default()).collect::<Vec<_>>().join("|")
}

#[test]
fn every_row_gets_its_value() {
    let frame = lamps();
    // No row at all, and one in which hardly anything stands.
    let (none, one) = (frame.without(&[0, 1, 2, 3, 4, 5]), frame.without(&[0, 1, 2, 4, 5]));
    let mut seen = String::new();
    for (text, expected) in [
        // Arithmetic, as over numbers.
        ("flux / power", "125|126.4||||"),
        ("if(power > 6.2, flux / power, -1)", "125|126.4|-1||-1|-1"),
        ("-(flux - 800) ^ 2 + 0 * power", "-156.25|-100|||-156.25|-640000"),
        ("round(pi * 100)", "314|314|314|314|314|314"),
        ("remainder(0 - flux, 100)", "87.5|10||95|87.5|0"),
        // What is missing and what holds.
        ("missing(flux) + 2 * missing(bench)", "0|0|1|2|0|0"),
        ("first_of(flux, power, 1)", "812.5|790|6|805|812.5|0"),
        ("first_of(bench, \"none\")", "A-1|B-2|A-1|none|b-2|B-2"),
        ("and(flux > 800, power > 1)", "1|0|||0|0"),
        ("or(flux > 800, power > 1)", "1|1|1|1|1|0"),
        ("not(flux > 800)", "0|1||0|0|1"),
        // Across the columns of a row.
        ("row_mean(flux, power)", "409.5|398.125|6|805|406.25|0"),
        ("row_range(flux, power, 1)", "811.5|789|5|804|812.5|1"),
        ("round(100 * row_sd(power, 6))", "35|18|0||424|424"),
        // Words.
        ("upper(bench)", "A-1|B-2|A-1||B-2|B-2"),
        ("lower(bench)", "a-1|b-2|a-1||b-2|b-2"),
        ("piece(bench, \"-\", 2)", "1|2|1||2|2"),
        ("join(left(bench, 1), \" of \", right(bench, 1))", "A of 1|B of 2|A of 1||b of 2|B of 2"),
        ("length(trim(note))", "3|1|2|4||6"),
        ("number(note)", "7.5||12|-300||"),
        ("contains(bench, \"b\")", "0|1|0||1|1"),
        ("replace(bench, \"-\", \" \")", "A 1|B 2|A 1||b 2|B 2"),
        ("recode(bench, \"A-1\", \"left\", \"B-2\", \"right\")", "left|right|left||b-2|right"),
        ("recode(bench, \"A-1\", \"left\", \"other\")", "left|other|left||other|other"),
        ("join(\"F\", text(power))", "F6.5|F6.25|F6||F0|F0"),
        ("classes(flux, 780, 12.5)", "805.0 to 817.5|780.0 to 792.5||805.0 to 817.5|805.0 to 817.5|−7.5 to 5.0"),
        ("if(bench = \"B-2\", \"second\", bench)", "A-1|second|A-1||b-2|second"),
        ("bench < \"B\"", "1|0|1||0|0"),
        // Moments.
        ("shift(`tested at`, \"early\", 6, \"late\", 14, \"night\", 22)", "night|early|early||night|night"),
        ("date(`tested at`)", "2026-05-04|2026-05-04|2026-05-04||2026-01-01|2026-05-05"),
        ("10000 * year(`tested at`) + 100 * month(`tested at`) + day(`tested at`)", "20260504|20260504|20260504||20260101|20260505"),
        ("100 * week(`tested at`) + 10 * weekday(`tested at`)", "1910|1910|1910||140|1920"),
        ("hour(`tested at`) + minute(`tested at`) / 60", "5.983333333333333|6|13.5||23.25|0"),
        ("hours(previous(`tested at`), `tested at`)", "|0.016666666666666666|7.5|||2952.75"),
        ("`tested at` >= \"2026-05-04 06:00\"", "0|1|1||0|1"),
        ("moment(\"2026-05-04\")", "2026-05-04 00:00|2026-05-04 00:00|2026-05-04 00:00|2026-05-04 00:00|2026-05-04 00:00|2026-05-04 00:00"),
        // Along the rows.
        ("row()", "1|2|3|4|5|6"),
        ("previous(flux)", "|812.5|790||805|812.5"),
        ("previous(bench, 2)", "||A-1|B-2|A-1|"),
        ("difference(flux)", "|-22.5|||7.5|-812.5"),
        ("running_sum(flux)", "812.5|1602.5|1602.5|2407.5|3220|3220"),
        // What has no end is missing, and passed over.
        ("round(1000 * running_sum(1 / power))", "154|314|481|481|481|481"),
        ("running_count(bench)", "1|1|2||1|2"),
        // Groups.
        ("group_count(bench)", "2|2|2||1|2"),
        ("group_mean(flux, bench)", "812.5|395|812.5||812.5|395"),
        ("group_sd(power, bench)", "0.3535533905932738|4.419417382415922|0.3535533905932738|||4.419417382415922"),
        ("group_sum(power, bench, flux)", "6.5|6.25|||0|0"),
        ("group_max(flux, upper(bench)) - group_min(flux, upper(bench))", "0|812.5|0||812.5|812.5"),
        ("column_mean(power)", "3.75|3.75|3.75|3.75|3.75|3.75"),
        ("round(100 * column_sd(flux))", "36012|36012|36012|36012|36012|36012"),
        ("round(1000 * z_score(flux))", "468|405||447|468|-1788"),
        ("round(100 * z_score(power, bench) ^ 2)", "50|50|50|||50"),
        ("rank(flux)", "4.5|2||3|4.5|1"),
    ] {
        assert_eq!(values(text, &frame), expected, "{text}");
        assert_eq!(values(text, &none), "", "{text}");
        values(text, &one);
        seen += text;
    }
    let unseen: Vec<&str> =
        TableFunction::ALL.into_iter().map(TableFunction::name).filter(|name| !seen.contains(&format!("{name}("))).collect();
    assert!(unseen.is_empty(), "{unseen:?}");
    let kinds = ["flux > 1", "upper(bench)", "previous(`tested at`)"].map(|text| read(text, &frame).unwrap().kind());
    assert_eq!(kinds, [Kind::Number, Kind::Category, Kind::DateTime]);
    let around = ["flux / power", "shift(`tested at`, \"day\", 6)", "rank(flux)", "1 + previous(flux)"];
    assert_eq!(around.map(|text| read(text, &frame).unwrap().looks_around()), [false, false, true, true]);
}

#[test]
fn what_cannot_be_worked_out_is_said_in_words() {
    let frame = lamps();
    for (text, row, why) in [
        ("flux / power", 2, "“flux” is missing"),
        ("flux / power", 4, "812.5 ÷ 0 has no value"),
        ("1 + sqrt(flux - 800)", 1, "sqrt(−10) has no value"),
        ("flux - ln(power)", 5, "ln(0) has no value"),
        ("if(flux > 800, ln(power), 1)", 4, "ln(0) has no value"),
        ("number(note) * 2", 5, "“7.5 mm” is no number"),
        ("previous(flux)", 0, "no row stands above it"),
        ("difference(flux)", 3, "there is no value above it"),
        ("z_score(power, bench)", 4, "its group has a single value, or all of them alike"),
        ("upper(piece(bench, \"-\", 3))", 0, "piece(“A-1”, “-”, 3) has no value"),
        ("moment(note)", 1, "“x” is no moment; it is written 2026-05-04 06:10"),
    ] {
        assert_eq!(read(text, &frame).unwrap().why(&frame, row).as_deref(), Some(why), "{text}");
    }
    for (text, words) in [
        ("flux + bench", "+ needs numbers, not words"),
        ("upper(flux)", "upper is written upper(words): in place 1 it needs words, not a number"),
        ("left(bench, power)", "left is written left(words, n): in place 2 it needs a number as typed"),
        ("if(flux > 1, bench, 2)", "if gives words or a number; both have to be alike"),
        ("if(bench, 1, 2)", "the condition of if needs numbers, not words"),
        ("shift(`tested at`, \"early\")", "shift is written shift(moment, \"early\", 6, \"late\", 14, …), not 2"),
        ("shift(`tested at`, \"early\", 6, \"late\")", "shift is written shift(moment, \"early\", 6, \"late\", 14, …)"),
        ("`tested at` > \"4 May\"", "“4 May” is no moment; write it as 2026-05-04 or 2026-05-04 06:10"),
        ("`tested at` > 3", "> compares a moment with a number"),
        ("bench = \"A", "the words have no second quotation mark"),
        ("bench = 'A'", "“'” has no meaning here; words stand between straight quotation marks: \"A\""),
        ("runing_sum(flux)", "there is no function “runing_sum”; is “running_sum” meant?"),
        ("fluxx / power", "nothing is called “fluxx”; is “flux” meant?"),
    ] {
        assert_eq!(read(text, &frame).err().as_deref(), Some(words), "{text}");
    }
    // The formulas of models stay with numbers.
    let model = |text: &str| acorn_data::formula::Formula::read(text).unwrap_err().words;
    assert_eq!(model("rank(x)"), "“rank” works on the columns of a table only");
    assert_eq!(model("x = \"A\""), "this formula computes with numbers, not with words");
}

/// Long columns go through in blocks and pieces: the same as one by one.
#[test]
fn a_long_column_is_worked_out_as_its_rows_are() {
    let n = 20_000;
    let x: Vec<f64> = (0..n).map(|i| if i % 997 == 3 { f64::NAN } else { f64::from(i * 7919 % 10_007) / 8.0 }).collect();
    let values = Values::Number(x.clone().into());
    let column = Column { name: "x".into(), kind: Kind::Number, info: ColumnInfo::default(), measuring: None, held: None, values };
    let frame = Frame::new(vec![column], None).unwrap();
    let text = "if(x > 600, sqrt(x) * 2 + previous(x, 1) / 4, x - 1) * 0.5";
    let Values::Number(found) = read(text, &frame).unwrap().values(&frame) else { panic!() };
    for (row, x_here) in x.iter().enumerate() {
        let above = if row == 0 { f64::NAN } else { x[row - 1] };
        let expected = (if *x_here > 600.0 { x_here.sqrt() * 2.0 + above / 4.0 } else { x_here - 1.0 }) * 0.5;
        assert!(found[row] == expected || (found[row].is_nan() && expected.is_nan()), "row {row}: {} {expected}", found[row]);
    }
    let sum: String = vec!["x"; 5_000].join("+");
    let Values::Number(found) = read(&sum, &frame).unwrap().values(&frame) else { panic!() };
    assert_eq!(found[4], x[4] * 5_000.0);
}
