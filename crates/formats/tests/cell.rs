//! `cell`.

use acorn_formats::cell::*;

#[test]
fn numbers_are_read_in_both_dresses() {
    let rows = [
        ("2.401", b'.', Some(2.401)),
        ("2,401", b',', Some(2.401)),
        ("1,234.5", b'.', Some(1234.5)),
        ("1.234,5", b',', Some(1234.5)),
        ("12 345", b'.', Some(12345.0)),
        ("-1'234'567", b'.', Some(-1_234_567.0)),
        ("1,23,456", b'.', None),
        ("1234,567.0", b'.', None),
        ("2,4O9", b',', None),
        ("1e999", b'.', None),
        ("1e-400", b'.', None),
        ("0,0e-400", b',', Some(0.0)),
        ("inf", b'.', None),
        ("04.05.2026", b'.', None),
        (".5", b'.', Some(0.5)),
        ("0,401", b'.', None),
        ("0,401", b',', Some(0.401)),
        ("3e-3", b',', Some(0.003)),
        ("--3", b'.', None),
    ];
    for (text, decimal, want) in rows {
        assert_eq!(parse_number(text, decimal), want, "{text}");
    }
}

#[test]
fn a_number_read_quickly_is_the_same() {
    let mut state = 7_u64;
    for _ in 0..20_000 {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        let digits = (state >> 11) % 10_u64.pow(1 + (state >> 60) as u32 % 15);
        let decimals = (state >> 56) as usize % 12;
        let text = if decimals == 0 { digits.to_string() } else { format!("{:.*}", decimals, digits as f64 / 1e6) };
        let text = if state & 1 == 0 { text } else { format!("-{text}") };
        if let Some(quick) = quick_number(&text, b'.') {
            assert_eq!(Some(quick.to_bits()), parse_number(&text, b'.').map(f64::to_bits), "{text}");
        }
    }
    assert_eq!([quick_number("2,401", b','), quick_number("-0", b'.')], [Some(2.401), Some(-0.0)]);
    for text in ["", "-", ".5", "1.2.3", "1e5", " 1", "1234567890123456", "2,401", "+1", "00123456789012345678"] {
        assert_eq!(quick_number(text, b'.'), None, "{text}");
    }
}

#[test]
fn slips_have_a_guess() {
    assert_eq!(guess_number("2,4O9", b','), Some(2.409));
    assert_eq!(guess_number("2.41 mm", b'.'), Some(2.41));
    assert_eq!(guess_number("cracked", b'.'), None);
}
