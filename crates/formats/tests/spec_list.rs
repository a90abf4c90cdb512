//! `spec_list`.

use acorn_formats::spec_list::*;
use acorn_formats::{ReadOptions, Source, read};

#[test]
fn a_list_says_limits_or_tolerances_by_name() {
    let of = |text: &str| {
        let table = read(&Source::open("list.csv", text.as_bytes().to_vec()).unwrap(), &ReadOptions::default()).unwrap().table;
        specifications(&table, &["thickness", "lens type"])
    };
    let list = of("Characteristic,Unit,Nominal,Tolerance,USL,Lower bound\nthickness,mm,2.4,0.1,,0\nhaze,%,,,1.2,\n").unwrap();
    assert_eq!((list[0].lsl, list[0].target, list[0].usl, list[0].rules.lower_bound), (Some(2.3), Some(2.4), Some(2.5), Some(0.0)));
    assert_eq!((list[1].name.as_str(), list[1].unit.as_deref(), list[1].lsl, list[1].usl), ("haze", Some("%"), None, Some(1.2)));
    assert_eq!(of("lamp,flux\nL1,512.5\nL2,514.0\n"), None);
    assert_eq!(of("name,remark\nthickness,fine\nhaze,good\n"), None);
}

#[test]
fn a_list_has_a_line_for_each_product_where_it_tells_them_apart() {
    let of = |text: &str| {
        let table = read(&Source::open("list.csv", text.as_bytes().to_vec()).unwrap(), &ReadOptions::default()).unwrap().table;
        let lines = specifications(&table, &["thickness", "lens type"]).unwrap();
        let line = |one: Specification| [one.by, one.of, one.from].map(Option::unwrap_or_default).join("|");
        lines.into_iter().map(line).collect::<Vec<_>>()
    };
    let lens = "Characteristic,Lens type,Valid from,LSL,USL\nthickness,wide,,2.4,2.6\nthickness,narrow,2026-03-02,2.9,3.1\n";
    assert_eq!(of(lens), ["Lens type|wide|", "Lens type|narrow|2026-03-02 00:00"]);
    // No column of the data is called so: what tells the products apart is left open, and one line alone is of every one.
    assert_eq!(of("name,part,LSL\nthickness,A,2.4\nthickness,B,2.5\n"), ["|A|", "|B|"]);
    assert_eq!(of("name,part,LSL\nthickness,A,2.4\nhaze,A,2.5\n"), ["||", "||"]);
    assert_eq!(of("name,limits by,product,LSL\nthickness,lamp,A,2.4\n"), ["lamp|A|"]);
}
