//! `affix`.

use acorn_formats::affix::*;

#[test]
fn a_unit_is_told_from_words_dates_and_names() {
    for (text, sign, rest) in
        [("12.3 mm", "mm", "12.3"), ("-4%", "%", "-4"), ("1.234,5 µm", "µm", "1.234,5"), ("€ 1.50", "€", "1.50"), ("20 °C", "°C", "20")]
    {
        let affix = Affix::of(text).unwrap();
        assert_eq!((affix.sign.as_str(), affix.strip(text), affix.strip("7")), (sign, rest, "7"), "{text}");
    }
    for text in ["12.3", "lamp 3", "3 May", "6 pm", "12 x 4", "A12 mm", "mm", "", "5 of a thing too long", "2026-05-04Z"] {
        assert_eq!(Affix::of(text), None, "{text}");
    }
}
