//! The name that was probably meant.

/// The nearest of some names, when it is near enough to be a slip.
pub fn nearest<'n>(name: &str, names: &[&'n str]) -> Option<&'n str> {
    let most = (name.chars().count() / 3).clamp(1, 3);
    let near = |other: &&'n str| {
        let steps = if other.eq_ignore_ascii_case(name) { 0 } else { steps(name, other) };
        // A part of a name in back-ticks is often meant to be the whole.
        if steps <= most { Some((steps, *other)) } else { other.starts_with(&format!("{name} ")).then_some((most, *other)) }
    };
    names.iter().filter_map(near).min().map(|(_, other)| other)
}

/// Letters to change, leave out or put in (Levenshtein 1966).
fn steps(a: &str, b: &str) -> usize {
    let b: Vec<char> = b.chars().collect();
    let mut row: Vec<usize> = (0..=b.len()).collect();
    for (i, from) in a.chars().enumerate() {
        let mut diagonal = row[0];
        row[0] = i + 1;
        for (j, to) in b.iter().enumerate() {
            let changed = diagonal + usize::from(from != *to);
            diagonal = row[j + 1];
            row[j + 1] = changed.min(row[j] + 1).min(row[j + 1] + 1);
        }
    }
    row[b.len()]
}
