//! `head`.

use acorn_formats::head::*;
use acorn_formats::layout::records;

fn top_of(text: &str, delimiter: u8) -> (Option<usize>, usize) {
    let head: Vec<_> = records(text, delimiter).records().flatten().collect();
    let top = top(&head);
    (top.header, top.above)
}

#[test]
fn the_header_is_the_first_full_line_of_words() {
    assert_eq!(top_of("Fennel Hollow;;;;\nExport press 2;;;;printed\nat;n;x;y;remark\n1;2;3;4;\n2;3;4;5;\n", b';'), (Some(2), 2));
    assert_eq!(top_of("1,2\n3,4\n", b','), (None, 0));
    assert_eq!(top_of("bench,kind\nA,crack\nB,scratch\n", b','), (Some(0), 0));
    assert_eq!(top_of("flux\n812\n", b','), (Some(0), 0));
    assert_eq!(top_of(",,y\n1,2,3\n4,5,6\n", b','), (Some(0), 0));
}

#[test]
fn two_lines_of_names_are_told_from_units_and_rows() {
    let names = |text: &str| {
        let head: Vec<_> = records(text, b',').records().flatten().collect();
        let (upper, lower) = two_lines(&head, top(&head).header?)?;
        Some(joined(&head[upper], &head[lower]).join("|"))
    };
    let found = |text: &str| names(text).unwrap_or_else(|| panic!("{text}"));
    assert_eq!(found(",Bench A,,Bench B,\nlot,x,y,x,y\n1,2,3,4,5\n2,3,4,5,6\n"), "lot|Bench A x|Bench A y|Bench B x|Bench B y");
    assert_eq!(found("lot,width,width\n,left,right\n1,2.1,2.2\n2,2.2,2.3\n"), "lot|width left|width right");
    assert_eq!(
        found("lot,width,depth\n,after the curing,before the curing\n1,2.1,2.2\n2,2.2,2.3\n"),
        "lot|width after the curing|depth before the curing"
    );
    for one in [
        "lot,width,depth\n,mm,µm\n1,2.1,2.2\n",
        "lot,width,width\n,mm,in\n1,2.1,2.2\n",
        "Lens report,,\nlot,width,depth\n1,2.1,2.2\n",
        "lot,kind\nA,crack\nB,void\n",
        "lot,width,width\n1,2.1,2.2\n2,2.2,2.3\n",
        "flux,angle\nbroken,broken\n1,2\nlost,4\n",
    ] {
        assert_eq!(names(one), None, "{one}");
    }
}
