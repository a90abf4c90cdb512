//! Yes or no for each point, sixty-four to a word, so that a search costs a few instructions a word.

use std::ops::Range;

use rayon::prelude::*;

use super::wide::greater;
use acorn_maths::is_shared;

/// Points looked at by one core at a time: few enough to stay next to it, and a multiple of sixty-four.
const PIECE: usize = 1 << 12;

/// What is asked of each value; NaN has none of these.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Fact {
    /// Strictly above the line of this place, 0 to 3.
    Above(usize),
    /// Strictly below the line of this place, 0 to 3.
    Below(usize),
    /// Not missing.
    Present,
    /// Higher than the value before.
    Rises,
    /// Lower than the value before.
    Falls,
}

/// One bit a point; bits beyond the last point are 0.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Bits(pub Vec<u64>);

impl Bits {
    /// The points of which each fact holds; `lines` gives four upper and four lower lines for a point, which may step from
    /// point to point. Pieces are looked at side by side; the first point of one follows the last of the piece before.
    pub fn of(values: &[f64], steps: bool, lines: impl Fn(usize) -> [[f64; 4]; 2] + Sync, facts: &[Fact]) -> Vec<Bits> {
        let look = |(place, piece): (usize, &[f64])| {
            let start = place * PIECE;
            let ends = Ends::of(values, start..start + piece.len());
            let (points, earlier) = ends.blocks(values, start..start + piece.len());
            let own: Vec<Block> = match steps {
                true => (0..points.len()).map(|block| Block::stepping(&lines, start + 64 * block)).collect(),
                false => vec![Block::even(lines(start))],
            };
            let own = |block: usize| &own[if steps { block } else { 0 }];
            let of = |fact: &Fact| match *fact {
                Fact::Above(line) => greater(points.iter().enumerate().map(|(block, points)| (*points, &own(block).0[0][line]))),
                Fact::Below(line) => greater(points.iter().enumerate().map(|(block, points)| (&own(block).0[1][line], *points))),
                // Plotted values are finite or missing, and what is missing compares with nothing.
                Fact::Present => greater(points.iter().map(|points| (*points, &[f64::NEG_INFINITY; 64]))),
                Fact::Rises => greater(points.iter().copied().zip(earlier.iter().copied())),
                Fact::Falls => greater(earlier.iter().copied().zip(points.iter().copied())),
            };
            facts.iter().map(of).collect::<Vec<Vec<u64>>>()
        };
        let pieces: Vec<Vec<Vec<u64>>> = if is_shared(values.len()) {
            values.par_chunks(PIECE).enumerate().map(look).collect()
        } else {
            values.chunks(PIECE).enumerate().map(look).collect()
        };
        let words = values.len().div_ceil(64);
        let mut all: Vec<Bits> = facts.iter().map(|_| Bits(Vec::with_capacity(words))).collect();
        for piece in pieces {
            all.iter_mut().zip(piece).for_each(|(bits, words)| bits.0.extend(words));
        }
        all
    }

    /// The words, points 0 to 63 first, lowest bit first.
    pub fn display_text(&self) -> &[u64] {
        &self.0
    }

    /// Each bit moved to a point so many later.
    pub fn later(&self, by: usize) -> Bits {
        let (words, bits) = (by / 64, by % 64);
        let at = |word: Option<usize>| word.and_then(|word| self.0.get(word)).copied().unwrap_or(0);
        let moved = |word: usize| {
            let low = at(word.checked_sub(words)) << bits;
            let carry = if bits == 0 { 0 } else { at(word.checked_sub(words + 1)) >> (64 - bits) };
            low | carry
        };
        Bits((0..self.0.len()).map(moved).collect())
    }

    /// Points in both.
    pub fn and(&self, other: &Bits) -> Bits {
        Bits(self.0.iter().zip(&other.0).map(|(a, b)| a & b).collect())
    }

    /// Points in this one but not in the other.
    pub fn and_not(&self, other: &Bits) -> Bits {
        Bits(self.0.iter().zip(&other.0).map(|(a, b)| a & !b).collect())
    }

    /// Points in either.
    pub fn or(&self, other: &Bits) -> Bits {
        Bits(self.0.iter().zip(&other.0).map(|(a, b)| a | b).collect())
    }

    /// Points that end a row of at least `length` bits. Doubles what it knows: log2(length) steps.
    pub fn run_of(&self, length: usize) -> Bits {
        let mut run = self.clone();
        let mut known = 1;
        while known < length {
            let step = known.min(length - known);
            run.and_later(step);
            known += step;
        }
        run
    }

    /// Keeps the points that are also there so many earlier. From the last word down, so that earlier ones are still whole.
    fn and_later(&mut self, by: usize) {
        let (words, bits) = (by / 64, by % 64);
        for word in (0..self.0.len()).rev() {
            let low = word.checked_sub(words).map_or(0, |from| self.0[from] << bits);
            let carry = if bits == 0 { 0 } else { word.checked_sub(words + 1).map_or(0, |from| self.0[from] >> (64 - bits)) };
            self.0[word] &= low | carry;
        }
    }
}

/// The lines of sixty-four points: four above, four below.
struct Block([[[f64; 64]; 4]; 2]);

impl Block {
    fn even(lines: [[f64; 4]; 2]) -> Block {
        Block(lines.map(|side| side.map(|line| [line; 64])))
    }

    fn stepping(lines: impl Fn(usize) -> [[f64; 4]; 2], start: usize) -> Block {
        let mut block = Block::even([[f64::NAN; 4]; 2]);
        for point in 0..64 {
            for (own, given) in block.0.iter_mut().flatten().zip(lines(start + point).iter().flatten()) {
                own[point] = *given;
            }
        }
        block
    }
}

/// The first block of a piece with the values before it, and what is left over at its end, filled up with NaN.
struct Ends {
    before_first: [f64; 64],
    last: [f64; 64],
    before_last: [f64; 64],
}

impl Ends {
    fn of(values: &[f64], piece: Range<usize>) -> Ends {
        // The point before the first one of all is missing.
        let from = |start: usize| {
            std::array::from_fn(|place| match (start + place).checked_sub(1) {
                Some(point) if point < piece.end => values[point],
                _ => f64::NAN,
            })
        };
        let left = piece.start + piece.len() / 64 * 64;
        let last = std::array::from_fn(|place| if left + place < piece.end { values[left + place] } else { f64::NAN });
        Ends { before_first: from(piece.start), last, before_last: from(left) }
    }

    /// The points of a piece, sixty-four at a time, and beside each block the points before them.
    fn blocks<'v>(&'v self, values: &'v [f64], piece: Range<usize>) -> (Vec<&'v [f64; 64]>, Vec<&'v [f64; 64]>) {
        let (full, rest) = values[piece.clone()].as_chunks::<64>();
        let mut points: Vec<&[f64; 64]> = full.iter().collect();
        let mut earlier: Vec<&[f64; 64]> = full.first().map(|_| &self.before_first).into_iter().collect();
        if let Some(whole) = full.len().checked_sub(1) {
            let start = piece.start + 63;
            earlier.extend(values[start..start + 64 * whole].as_chunks::<64>().0);
        }
        if !rest.is_empty() {
            points.push(&self.last);
            earlier.push(&self.before_last);
        }
        (points, earlier)
    }
}
