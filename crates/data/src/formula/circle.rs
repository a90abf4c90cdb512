//! Formulas that need each other.

/// Each thing after those that it needs, by its place; or the way round in which some need each other.
///
/// # Errors
/// The places of a circle, each needing the next and the last the first; it begins with the first place that is in one, or leads
/// to one and is not itself in it.
pub fn in_order(needs: &[Vec<usize>]) -> Result<Vec<usize>, Vec<usize>> {
    let mut order: Vec<usize> = Vec::with_capacity(needs.len());
    let mut done = vec![false; needs.len()];
    loop {
        let ready: Vec<usize> = (0..needs.len()).filter(|&place| !done[place] && needs[place].iter().all(|other| done[*other])).collect();
        if ready.is_empty() {
            break;
        }
        ready.iter().for_each(|&place| done[place] = true);
        order.extend(ready);
    }
    let Some(stuck) = done.iter().position(|done| !done) else { return Ok(order) };
    // From one that waits to what it waits for, until one comes again.
    let mut path = vec![stuck];
    loop {
        let last = path[path.len() - 1];
        let next = needs[last].iter().copied().find(|other| !done[*other]).unwrap_or(last);
        if let Some(first) = path.iter().position(|place| *place == next) {
            return Err(path.split_off(first));
        }
        path.push(next);
    }
}
