//! `layout`.

use acorn_formats::layout::*;

#[test]
fn delimiters_are_told_from_decimal_commas() {
    assert_eq!(delimiter("a;b\n1,5;2,5\n1,6;2,6\n"), b';');
    assert_eq!(delimiter("a\tb c\n1\t2,5\n"), b'\t');
    assert_eq!(delimiter("a,b\n\"1;5\",2\n"), b',');
    assert_eq!(delimiter("flux\n812.0\n"), b',');
    assert_eq!(delimiter("flux\n812,5\n-3,25\n7\n"), ONE_COLUMN);
    assert_eq!(delimiter("812,5\n3,25\n"), b',');
}

#[test]
fn a_quotation_mark_that_nothing_closes_is_found_in_its_line() {
    let quotes = |text| open_quote(text, b',');
    assert_eq!(quotes("a,b\n1,\"open\n2,x\n"), Some(2));
    assert_eq!(quotes("a,b\n1,\"two \"\"marks\"\"\nand a line\"\n2,5\" wide\n"), None);
}
