//! `fixed`.

use acorn_formats::fixed::*;

#[test]
fn columns_that_stand_under_each_other_are_told_from_words_and_other_files() {
    let bench = "lamp  tested at         bench     flux gap\n\
                 4101  2026-05-04 06:10  bench A  512,5 2.4\n\
                 4102  2026-05-04 06:22  bench B  514,0 2.6\n\
                 4103                    \"new\"    99,25 -\n";
    let fixed = columns(bench).unwrap();
    assert_eq!(fixed, Fixed { above: 0, begins: vec![0, 6, 24, 33, 39] });
    let tabs = with_tabs(bench, &fixed);
    assert_eq!(tabs.lines().nth(2), Some("4102\t2026-05-04 06:22\tbench B\t514,0\t2.6"));
    assert_eq!(tabs.lines().nth(3), Some("4103\t\t\"\"\"new\"\"\"\t99,25\t-"));
    let under = format!("Leak bench 2, as of May\n\n{bench}");
    assert_eq!(columns(&under), Some(Fixed { above: 2, ..fixed }));
    for text in [
        "a,  b\n1,  2\n3,  4\n5,  6\n",
        "a\tb\n1\t2\n3\t4\n",
        "one word\ntwo words\nthree of them\n",
        "flux\n1\n2\n3\n",
        "a  b\n1  2\n",
        "",
    ] {
        assert_eq!(columns(text), None, "{text}");
    }
}
